<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Find\FoundDocument;
use App\Reading\Proposal;
use App\Reading\ProposedSheet;
use App\Reading\ProposedValue;
use App\Reading\Trial;
use App\Reading\TriedDocument;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Reading\Outcome;

/** Puts what was read into the shape of the API. */
final class ReadingResource
{
    /** So many documents are named in a query. */
    private const NAMED = 200;

    /** Documents that are named for each proposal. */
    private const LEARNED_FROM = 5;

    /** @return array<string, mixed> */
    public static function trial(Trial $trial, FieldDefinition $field): array
    {
        return [
            'documents' => $trial->documents,
            'tried' => $trial->tried,
            'hits' => $trial->hits,
            'is_everywhere' => $trial->isEverywhere(),
            'fault' => $trial->fault,
            'outcomes' => array_map(
                static fn (Outcome $outcome): array => [
                    'outcome' => $outcome->value,
                    'count' => count($trial->refs[$outcome->value] ?? []),
                    'cql' => self::query($trial->refs[$outcome->value] ?? []),
                    'documents' => array_map(
                        static fn (TriedDocument $of): array => [
                            'ref' => $of->ref,
                            'title' => $of->title,
                            'given' => $of->given,
                            'found' => array_map(
                                static fn (array $place): array => [
                                    'value' => $field->display($place[0]->value),
                                    'page' => $place[0]->page,
                                    'pieces' => $place[1],
                                ],
                                $of->found,
                            ),
                        ],
                        $trial->listed[$outcome->value] ?? [],
                    ),
                ],
                Outcome::cases(),
            ),
        ];
    }

    /** @return array<string, mixed> */
    public static function proposed(ProposedSheet $sheet): array
    {
        $fields = array_map(static fn (Proposal $of): array => $of->from, $sheet->fields);
        $from = array_merge($sheet->type->from ?? [], $sheet->dossier->from ?? [], ...$fields);
        $about = FoundDocument::of(array_values(array_unique($from)));

        return [
            'type' => $sheet->type === null
                ? null
                : ['code' => $sheet->type->code, ...self::speaking($sheet->type->from, $sheet->type->record, $about)],
            'dossier' => $sheet->dossier === null
                ? null
                : [
                    'ref' => $sheet->dossier->code,
                    'title' => $sheet->dossier->of->title,
                    ...self::speaking($sheet->dossier->from, $sheet->dossier->record, $about),
                ],
            'proposals' => array_map(
                static fn (Proposal $of): array => [
                    'field' => $of->field->code,
                    'by' => $of->by,
                    'is_stored' => $of->isStored,
                    ...self::speaking($of->from, $of->record, $about),
                    'places' => array_map(
                        static fn (ProposedValue $value): array => [
                            'value' => $value->value,
                            'label' => $of->field->display($value->value),
                            'page' => $value->page,
                            'pieces' => $value->pieces,
                        ],
                        $of->values,
                    ),
                ],
                $sheet->fields,
            ),
        ];
    }

    /**
     * What speaks for a proposal.
     *
     * @param  list<int>  $from
     * @param  array{int, int}  $record
     * @param  array<int, FoundDocument>  $about
     * @return array<string, mixed>
     */
    private static function speaking(array $from, array $record, array $about): array
    {
        $named = array_intersect_key($about, array_flip(array_slice($from, 0, self::LEARNED_FROM)));

        return [
            'kept' => $record[0],
            'made' => $record[1],
            'from' => count($from),
            'documents' => array_map(static fn (FoundDocument $of): array => ['ref' => $of->ref, 'title' => $of->title], array_values($named)),
        ];
    }

    /** @param  list<string>  $refs */
    private static function query(array $refs): ?string
    {
        if ($refs === [] || count($refs) > self::NAMED) {
            return null;
        }
        $clauses = array_map(static fn (string $ref): SearchClause => new SearchClause('ref', '==', $ref), $refs);
        $node = BooleanNode::join(BooleanOperator::Or, $clauses);

        return $node === null ? null : Printer::node($node);
    }
}
