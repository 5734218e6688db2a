<?php

declare(strict_types=1);

namespace App\Marks;

use App\Files\PageStore;
use App\Models\Document;
use App\Models\Page;
use App\Models\Version;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Versions\PageMap;
use Brenvic\Core\Versions\Quote;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\DB;

/**
 * Where marks of earlier versions of a document are in the present one: where they were when it had this very file, where
 * Brenvic itself put their page, or else where their words are, when that is sure.
 */
final class Carrying
{
    /** @var Collection<int, Version> by number */
    private readonly Collection $versions;

    /** @var Collection<int, Page>|null by number */
    private ?Collection $pages = null;

    /** @var array<string, TextPage|null> by version and number */
    private array $earlier = [];

    /** @param  'annotation'|'redaction'  $kind */
    public function __construct(private readonly Document $document, private readonly string $kind)
    {
        $this->versions = Version::query()
            ->where('document_id', $document->id)
            ->get(['number', 'sha256', 'pages_from'])
            ->keyBy('number');
    }

    /**
     * Keeps where a mark was in the version it was for.
     *
     * @param  list<string>  $columns  that say where
     */
    public function keep(Model $mark, array $columns): void
    {
        DB::table('earlier_places')->updateOrInsert(
            ['kind' => $this->kind, 'mark_id' => $mark->getKey(), 'version' => $mark->getAttribute('version')],
            [
                'document_id' => $this->document->id,
                'place' => json_encode($mark->only($columns), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE),
            ],
        );
    }

    /** Forgets where a mark was: its owner put it elsewhere. */
    public static function forget(string $kind, int $mark): void
    {
        DB::table('earlier_places')->where('kind', $kind)->where('mark_id', $mark)->delete();
    }

    /**
     * Where a mark was in the last version that had the file that the document has now.
     *
     * @return array<string, mixed>|null
     */
    public function before(Model $mark): ?array
    {
        $same = $this->versions
            ->filter(fn (Version $v): bool => $v->sha256 === $this->document->sha256 && $v->number < $this->document->version)
            ->keys();
        $place = DB::table('earlier_places')
            ->where('kind', $this->kind)
            ->where('mark_id', $mark->getKey())
            ->whereIn('version', $same)
            ->orderByDesc('version')
            ->value('place');

        $found = $place === null ? null : json_decode((string) $place, true, 64, JSON_THROW_ON_ERROR);

        return $found === null || $found['is_lost'] ? null : $found;
    }

    /** How the pages of the present version come from those of an earlier one; null when that is not known. */
    public function map(int $from): ?PageMap
    {
        $map = null;
        for ($number = $from + 1; $number <= $this->document->version; $number++) {
            $pages = $this->versions->get($number)?->pages_from;
            if ($pages === null) {
                return null;
            }
            $map = $map?->then(new PageMap($pages)) ?? new PageMap($pages);
        }

        return $map;
    }

    /** A page of the present version. */
    public function page(int $number): ?TextPage
    {
        $row = $this->pages()->get($number);

        return $row === null ? null : PageStore::page($row);
    }

    /** A page of an earlier version, as it was then. */
    public function pageOf(int $version, int $number): ?TextPage
    {
        $key = "{$version}/{$number}";
        if (! array_key_exists($key, $this->earlier)) {
            $row = DB::table('version_pages')
                ->where('document_id', $this->document->id)
                ->where('version', $version)
                ->where('number', $number)
                ->first();
            $this->earlier[$key] = $row === null ? null : PageStore::page((new Page())->newFromBuilder((array) $row));
        }

        return $this->earlier[$key];
    }

    /** @return array{int, int, int}|null page, and offset and length in bytes */
    public function find(Quote $quote, int $first): ?array
    {
        return $quote->findAmong($this->pages()->map(static fn (Page $p): string => $p->text)->all(), $first);
    }

    /**
     * The same place in the text of a page that was put elsewhere, or turned.
     *
     * @return array{int, int}|null offset and length in bytes
     */
    public function within(Quote $quote, int $start, int $length, ?TextPage $then, TextPage $now): ?array
    {
        return $then !== null && $then->text === $now->text ? [$start, $length] : $quote->find($now->text);
    }

    /** @return Collection<int, Page> */
    private function pages(): Collection
    {
        return $this->pages ??= Page::query()->where('document_id', $this->document->id)->orderBy('number')->get()->keyBy('number');
    }
}
