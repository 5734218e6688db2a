<?php

declare(strict_types=1);

namespace App\Find;

use App\Access\Holds;
use App\Models\Hold;
use App\Models\User;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\ValuesBeside;
use Brenvic\Core\Search\Asking\SearchSchema;
use Illuminate\Support\Facades\DB;

/** Under which holds documents are, as a field: of the holds that a person may know of. */
final class HeldDocuments
{
    public const FIELD = 'hold';

    public static function beside(SearchSchema $schema, User $user): SearchSchema
    {
        $names = Hold::knownTo($user)->whereIn('id', Hold::inForce()->select('id'))->orderBy('id')->pluck('name', 'id')->all();
        $field = $schema->fields[self::FIELD] ?? null;
        if ($names === [] || $field === null) {
            return $schema;
        }
        $terms = array_map(static fn (int $id, string $name): VocabularyTerm => new VocabularyTerm((string) $id, $name), array_keys($names), $names);

        return $schema->with(
            $field->choosing(new Vocabulary(self::FIELD, $terms)),
            new ValuesBeside(self::FIELD, array_map(strval(...), array_keys($names)), self::sets(...)),
        );
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, list<string>> the holds that they are under, by document
     */
    public static function of(array $documents, SearchSchema $schema): array
    {
        $known = $schema->fields[self::FIELD]->vocabulary->terms ?? [];
        $under = [];
        foreach ($known === [] ? [] : DB::query()->fromSub(Holds::covered($documents), 'covered')->orderBy('hold')->get(['document_id', 'hold']) as $row) {
            if (isset($known[(string) $row->hold])) {
                $under[(int) $row->document_id][] = (string) $row->hold;
            }
        }

        return $under;
    }

    /** @return array<string, DocumentSet> by hold */
    private static function sets(): array
    {
        $ids = [];
        foreach (DB::query()->fromSub(Holds::covered(), 'covered')->select(['hold', 'document_id'])->cursor() as $row) {
            $ids[(string) $row->hold][] = (int) $row->document_id;
        }

        return array_map(DocumentSet::of(...), $ids);
    }
}
