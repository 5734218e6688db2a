<?php

declare(strict_types=1);

namespace App\Find;

use App\Models\PullList;
use App\Models\User;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\ValuesBeside;
use Brenvic\Core\Search\Asking\SearchSchema;
use Illuminate\Support\Facades\DB;

/** In which pull lists documents are, as a field: of each person those that they made or that were shared with them. */
final class ListedDocuments
{
    public const FIELD = 'pull_list';

    public static function beside(SearchSchema $schema, User $user): SearchSchema
    {
        $names = PullList::knownTo($user)->orderBy('id')->pluck('name', 'id')->all();
        $field = $schema->fields[self::FIELD] ?? null;
        if ($names === [] || $field === null) {
            return $schema;
        }
        $terms = array_map(static fn (int $id, string $name): VocabularyTerm => new VocabularyTerm((string) $id, $name), array_keys($names), $names);
        $codes = array_map(strval(...), array_keys($names));

        return $schema->with(
            $field->choosing(new Vocabulary(self::FIELD, $terms)),
            new ValuesBeside(self::FIELD, $codes, static fn (): array => self::sets(array_keys($names))),
        );
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, list<string>> the lists that they are in, by document
     */
    public static function of(array $documents, SearchSchema $schema): array
    {
        $lists = array_map(intval(...), array_keys($schema->fields[self::FIELD]->vocabulary->terms ?? []));
        $in = [];
        foreach (
            DB::table('pull_list_items')
                ->whereIntegerInRaw('document_id', $documents)
                ->whereIntegerInRaw('pull_list_id', $lists)
                ->orderBy('pull_list_id')
                ->get(['document_id', 'pull_list_id']) as $row
        ) {
            $in[(int) $row->document_id][] = (string) $row->pull_list_id;
        }

        return $in;
    }

    /**
     * @param  list<int>  $lists
     * @return array<string, DocumentSet> by list
     */
    private static function sets(array $lists): array
    {
        $ids = [];
        $rows = DB::table('pull_list_items')->whereIntegerInRaw('pull_list_id', $lists)->select(['pull_list_id', 'document_id']);
        foreach ($rows->cursor() as $row) {
            $ids[(string) $row->pull_list_id][] = (int) $row->document_id;
        }

        return array_map(DocumentSet::of(...), $ids);
    }
}
