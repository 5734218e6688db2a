<?php

declare(strict_types=1);

namespace App\Find;

use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Pages\HitFinder;
use Brenvic\Core\Pages\Snippet;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Search\Asking\SearchSchema;
use Illuminate\Support\Facades\DB;

/** Where beside title and text the words of a search stand in the documents of a page of results. */
final class FoundPlaces
{
    /** How many are named. */
    private const MOST = 3;

    /** @var array<string, HitFinder> by field code */
    private array $inField = [];

    private readonly HitFinder $inPath;

    /** @var array<int, Snippet> the first comment of a document that has a hit */
    private array $comments = [];

    /** @param  list<int>  $ids */
    public function __construct(private readonly Ledger $ledger, private readonly SearchSchema $schema, array $ids)
    {
        $this->inPath = HitFinder::forPart($ledger, Part::Paths, $schema->everywhere);
        $finder = HitFinder::forPart($ledger, Part::Comments, $schema->everywhere);
        foreach (
            $finder->findsNothing()
                ? []
                : DB::table('comments')
                    ->whereIntegerInRaw('document_id', $ids)
                    ->whereNull('deleted_at')
                    ->orderBy('id')
                    ->get(['document_id', 'text']) as $comment
        ) {
            $snippet = isset($this->comments[(int) $comment->document_id]) ? null : Snippet::of((string) $comment->text, $finder);
            if ($snippet !== null) {
                $this->comments[(int) $comment->document_id] = $snippet;
            }
        }
    }

    /**
     * @param  array<string, list<string>>  $values  normal forms by field code
     * @return list<string> in words
     */
    public function of(int $id, FoundDocument $document, array $values): array
    {
        $found = [];
        foreach ($values as $code => $normals) {
            $field = $this->schema->fields[$code];
            // Where a covered value stands is as much as the value.
            if (Cover::hides($field) || ! $field->kind->hasWords()) {
                continue;
            }
            $finder = $this->inField[$code] ??= HitFinder::forField($this->ledger, $field, $this->schema->everywhere);
            if (! $finder->findsNothing() && $finder->hits(implode(' ; ', array_map($field->display(...), $normals)), 1) !== []) {
                $found[] = $field->label;
            }
        }
        if ($this->inPath->hits($document->path, 1) !== []) {
            $found[] = 'Path';
        }
        if (isset($this->comments[$id])) {
            array_unshift($found, 'Comment');
        }

        return array_slice($found, 0, self::MOST);
    }

    public function comment(int $id): ?Snippet
    {
        return $this->comments[$id] ?? null;
    }
}
