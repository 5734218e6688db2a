<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Design\ProposalChoices;
use App\Design\Proposals;
use App\Models\Proposal;
use Brenvic\Core\Design\Proposal\ColumnProposal;
use Brenvic\Core\Design\Proposal\Dependency;
use Brenvic\Core\Design\Proposal\Gathering;
use Brenvic\Core\Design\Proposal\GatheringTaken;
use Brenvic\Core\Design\Proposal\Reading;
use Brenvic\Core\Design\Proposal\TableProposal;
use Brenvic\Core\Design\Proposal\TypeProposal;

/** Shapes the design proposed from a table for the API. */
final class ProposalResource
{
    private const DOUBLES = 6;

    private const UNKNOWN = 12;

    /** @return array<string, mixed> */
    public static function of(Proposal $proposal): array
    {
        $found = Proposals::found($proposal);

        return [
            'id' => $proposal->id,
            'name' => $proposal->name,
            'file_name' => $proposal->file_name,
            'what' => $proposal->what,
            'accepted' => $proposal->mapping !== null,
            'state' => $proposal->state,
            'rows' => $proposal->rows,
            'says' => $proposal->says,
            ...self::found($found, $proposal->decided ?? []),
        ];
    }

    /**
     * @param  TableProposal|null  $found  null until it is read
     * @param  array<string, array<string, mixed>>  $decided  by the name of the column
     * @return array<string, mixed>
     */
    private static function found(?TableProposal $found, array $decided): array
    {
        if ($found === null) {
            $lists = ['columns', 'gatherings', 'dependencies', 'types', 'title', 'levels', 'faults'];

            return array_fill_keys($lists, []) + ['type_column' => null];
        }

        return [
            'columns' => array_map(
                static fn (ColumnProposal $c): array => self::column($found, $c, $decided[$c->name] ?? null),
                $found->columns,
            ),
            'gatherings' => array_map(
                static fn (Gathering $g): array => self::gathering($g, $found->columns[$g->key], $decided),
                $found->gatherings,
            ),
            'dependencies' => self::dependencies($found),
            'types' => array_map(
                static fn (TypeProposal $t): array => ['name' => $t->name, 'rows' => $t->rows, 'fields' => count($t->columns)],
                $found->types,
            ),
            'type_column' => $found->typeColumn,
            'title' => $found->title,
            'levels' => $found->levels,
            'faults' => array_map(
                static fn (string $what, int $count): array => [
                    'what' => $what,
                    'count' => $count,
                    'examples' => $found->examples[$what] ?? [],
                ],
                array_keys($found->faults),
                $found->faults,
            ),
        ];
    }

    /**
     * @param  array<string, mixed>|null  $decided  when the source was given before
     * @return array<string, mixed>
     */
    private static function column(TableProposal $found, ColumnProposal $column, ?array $decided): array
    {
        return [
            'decided' => ProposalChoices::known($found, $column, $decided),
            'place' => $column->place,
            'name' => $column->name,
            'kind' => $column->kind(),
            'readings' => array_map(self::reading(...), $column->readings),
            'fill' => round($column->fill, 4),
            'distinct' => $column->distinct,
            'examples' => $column->examples,
            'several' => $column->separator === '' ? null : $column->separator,
            'sensitive' => $column->sensitivity,
            'terms' => count($column->terms),
            'is_scheme' => $column->isScheme,
            'depends_on' => $column->dependsOn,
            'same_as' => $column->sameAs,
            'existing' => $column->existing,
            'required' => $column->isRequired(),
            'says' => $column->says,
            'unknown' => array_slice($column->unknown, 0, self::UNKNOWN),
            'unknown_count' => count($column->unknown),
            'doubles' => array_map(
                static fn (array $pair): array => ['rare' => $pair[0], 'usual' => $pair[1]],
                array_slice($column->doubles, 0, self::DOUBLES),
            ),
        ];
    }

    /**
     * @param  array<string, array<string, mixed>>  $decided  by the name of the column, when the source was given before
     * @return array<string, mixed>
     */
    private static function gathering(Gathering $gathering, ColumnProposal $key, array $decided): array
    {
        $proposed = GatheringTaken::proposed($gathering, $key);

        return [
            'key' => $gathering->key,
            'shares' => $gathering->shares,
            'values' => $gathering->values,
            'each' => round($gathering->each, 1),
            'as' => $gathering->as->value,
            'name' => $proposed->name,
            'says' => $gathering->says,
            'decided' => $decided[$key->name]['gathering'] ?? null,
        ];
    }

    /** @return array<string, mixed> */
    private static function reading(Reading $reading): array
    {
        return [
            'kind' => $reading->kind,
            'share' => round($reading->share, 4),
            'unit' => $reading->unit,
            'pattern' => $reading->pattern,
            'says' => $reading->says,
            'misfits' => array_map(
                static fn (int|string $value, int $rows): array => ['value' => (string) $value, 'rows' => $rows],
                array_keys($reading->misfits),
                $reading->misfits,
            ),
        ];
    }

    /** @return list<array<string, mixed>> */
    private static function dependencies(TableProposal $found): array
    {
        return array_map(
            static fn (Dependency $d): array => [
                'from' => $d->from,
                'to' => $d->to,
                'error' => round($d->error, 4),
                'exceptions' => $d->exceptions,
            ],
            $found->dependencies,
        );
    }
}
