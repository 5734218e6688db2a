<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Annotations\Annotations;
use App\Models\Annotation;
use App\Models\Page;
use App\Models\User;
use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\Stamp;

/** @implements Performs<Stamp> */
final readonly class Stamps implements Performs
{
    /** How large a stamp is, and how far from the edge, in the page's own points. */
    private const WIDTH = 190.0;

    private const LINE = 17.0;

    private const EDGE = 28.0;

    public function __construct(private Annotations $annotations, private Filled $filled)
    {
    }

    public function perform(Act $act, Doing $doing): string
    {
        $page = Page::query()->where('document_id', $doing->document->id)->orderBy('number')->first(['number', 'width', 'height', 'text']);
        $by = $doing->decider ?? User::query()->find($doing->case->begun_by ?? $doing->document->created_by);
        if ($page === null || $by === null) {
            return 'There is no page to be stamped';
        }
        $lines = array_filter([
            trim($this->filled->text($act->text === '' ? '{decision}' : $act->text, $doing)),
            trim($this->filled->text('{decided_by}, {decided_on}', $doing), ', '),
            ...array_map(fn (string $code): string => trim($this->filled->text("{{$code}}", $doing)), $act->values),
        ]);
        $this->annotations->add($doing->document, $by, [
            'page' => (int) $page->number,
            'kind' => 'stamp',
            'text' => implode("\n", $lines),
            ...self::place($doing, $page, count($lines)),
        ]);

        return 'Stamped “'.reset($lines).'”';
    }

    /** @return array<string, mixed> below the stamps that are there; at the first word of a text without places */
    private static function place(Doing $doing, Page $page, int $lines): array
    {
        if ((float) $page->width <= 0.0) {
            preg_match('/\S+/', (string) $page->text, $m, PREG_OFFSET_CAPTURE);

            return ['start' => $m[0][1] ?? 0, 'length' => strlen($m[0][0] ?? '')];
        }
        $height = self::LINE * max(1, $lines);
        $above = 0.0;
        foreach (Annotation::query()->where('document_id', $doing->document->id)->where('page', $page->number)->where('kind', 'stamp')->get() as $other) {
            $above = max($above, ...array_map(static fn (array $box): float => (float) $box[3], $other->boxes), ...[0.0]);
        }
        // Where the page is full of stamps the next lies over the first.
        $top = $above > 0 && $above + $height < (float) $page->height / 2 ? $above + 6 : self::EDGE;
        $width = min(self::WIDTH, (float) $page->width / 2);
        $left = (float) $page->width - self::EDGE - $width;

        return ['boxes' => [[$left, $top, $left + $width, $top + $height]]];
    }
}
