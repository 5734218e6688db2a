<?php

declare(strict_types=1);

namespace App\Copies;

use App\Access\Rights;
use App\Access\WaitingSight;
use App\Models\Document;
use App\Models\User;
use App\Redaction\Redactions;
use App\Support\Column;
use Illuminate\Support\Facades\DB;

/** Which documents are the same file, have the same text, or nearly the same, of those that a person may see whole. */
final readonly class Copies
{
    /** Documents that have a key in common and are looked at, those with most of them first. */
    private const CANDIDATES = 200;

    /** Of these, so many are compared word by word. */
    private const COMPARED = 20;

    /** What has less than this in common is another text. */
    private const LEAST = 0.5;

    public function __construct(private Rights $rights, private Redactions $redactions)
    {
    }

    /** @return list<Copy> the likest first */
    public function of(Document $document, User $by): array
    {
        if ($document->destroyed_at !== null || $this->redactions->binds($by, $document)) {
            return [];
        }
        $same = Column::numbers(
            DB::table('documents')
                ->where('sha256', $document->sha256)
                ->where('id', '!=', $document->id)
                ->whereNull('deleted_at')
                ->whereNull('destroyed_at')
                ->orderBy('id')
                ->limit(self::CANDIDATES)
                ->pluck('id'),
        );
        $near = array_values(array_diff($this->candidates($document), $same));
        $seen = $this->seen([...$same, ...$near], $by);
        $copies = [];
        foreach ($same as $id) {
            isset($seen[$id]) && ($copies[] = new Copy($seen[$id], Copy::FILE, 1.0));
        }
        $near = array_slice(array_values(array_filter($near, static fn (int $id): bool => isset($seen[$id]))), 0, self::COMPARED);
        if ($near === []) {
            return $copies;
        }
        $print = TextPrints::of($document->id);
        $likest = [];
        foreach ($near as $id) {
            $other = TextPrints::of($id);
            $share = $print->share($other);
            if ($share >= self::LEAST) {
                $likest[] = new Copy($seen[$id], $print->whole === $other->whole ? Copy::TEXT : Copy::NEAR, $share);
            }
        }
        usort($likest, static fn (Copy $a, Copy $b): int => $b->share <=> $a->share ?: $a->document->id <=> $b->document->id);

        return [...$copies, ...$likest];
    }

    /** @return list<int> ids, of those with most keys in common first */
    private function candidates(Document $document): array
    {
        $common = TextPrints::sharers($document->id);
        uksort($common, static fn (int $a, int $b): int => $common[$b] <=> $common[$a] ?: $b <=> $a);

        return array_slice(array_keys($common), 0, self::CANDIDATES);
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, Document> those that a person may see, whole, by id
     */
    private function seen(array $ids, User $by): array
    {
        $documents = Document::query()->whereIntegerInRaw('id', $ids)->get()->keyBy('id');
        $filed = $this->rights->seen($by, Column::numbers($documents->where('state', Document::FILED)->modelKeys()));
        $bound = array_flip($this->redactions->bound($by));

        return $documents
            ->filter(
                static fn (Document $one): bool => ! isset($bound[$one->id]) &&
                    ($one->state === Document::FILED ? in_array($one->id, $filed, true) : WaitingSight::sees($by, $one)),
            )
            ->all();
    }
}
