<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Reading\Proposal;
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

    /**
     * @param  list<Proposal>  $proposals
     * @return list<array<string, mixed>>
     */
    public static function proposals(array $proposals): array
    {
        return array_map(
            static fn (Proposal $of): array => [
                'field' => $of->field->code,
                'by' => $of->by,
                'kept' => $of->record[0],
                'made' => $of->record[1],
                'places' => array_map(
                    static fn (array $place): array => [
                        'value' => $place[0]->value,
                        'label' => $of->field->display($place[0]->value),
                        'page' => $place[0]->page,
                        'pieces' => $place[1],
                    ],
                    $of->places,
                ),
            ],
            $proposals,
        );
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
