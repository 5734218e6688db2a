<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Catalog\Catalog;
use App\Console\PlainCommand;
use App\Find\Finder;
use App\Find\FindRequest;
use App\Http\Resources\FoundResource;
use App\Models\User;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Query\PlainQuery;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\Criteria;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchError;

final class SearchCommand extends PlainCommand
{
    protected $signature = 'brenvic:search {query : CQL, or plain words}
        {--as=librarian : sign-in name of the person who searches}
        {--library=* : only in these libraries}
        {--facets= : codes of fields to count, with commas between}
        {--limit=20 : rows}
        {--explain : how the query was answered, with the time of each step}
        {--json : machine-readable}';

    protected $description = 'Searches as a person would';

    public function handle(Finder $finder, Catalog $catalog): int
    {
        $user = User::query()->where('sign_in', $this->option('as'))->first();
        if ($user === null) {
            $this->error("There is nobody with the sign-in name “{$this->option('as')}”.");

            return self::FAILURE;
        }
        try {
            $text = (string) $this->argument('query');
            $names = $catalog->schema($user);
            $query = PlainQuery::read($text, $names);
            $libraries = array_map(
                static fn (?string $code): string => 'library == "'.Criterion::escaped((string) $code).'"',
                $this->option('library'),
            );
            $criteria = Criteria::ofLines([
                ['cql' => Printer::node($query->root)],
                ...$libraries === [] ? [] : [['cql' => implode(' or ', $libraries)]],
            ]);
            $facets = [];
            foreach (array_filter(explode(',', (string) $this->option('facets'))) as $code) {
                $facets[$code] = new FacetRequest($code, 100);
            }
            $answer = FoundResource::of($finder->find(
                $user,
                new FindRequest(
                    $criteria,
                    $query->sortKeys,
                    facets: $facets,
                    allFacets: false,
                    limit: (int) $this->option('limit'),
                    explain: (bool) $this->option('explain'),
                ),
            ));
        } catch (SyntaxError|SearchError $fault) {
            $where = $fault instanceof SyntaxError ? " (at {$fault->position})" : '';
            $this->option('json')
                ? $this->json(['error' => $fault->getMessage(), 'position' => $fault instanceof SyntaxError ? $fault->position : null])
                : $this->error($fault->getMessage().$where);

            return self::FAILURE;
        }
        $this->option('json') ? $this->json($this->machine($answer)) : $this->people($answer);

        return self::SUCCESS;
    }

    /**
     * @param  array<string, mixed>  $answer
     * @return array<string, mixed>
     */
    private function machine(array $answer): array
    {
        $facets = [];
        foreach ($answer['facets'] as $facet) {
            $facets[$facet['field']] =
                $facet['ranges'] !== []
                    ? $facet['ranges']
                    : array_map(
                        static fn (array $v): array => ['value' => $v['value'], 'label' => $v['label'], 'count' => $v['count']],
                        $facet['values'],
                    );
        }

        return [
            'total' => $answer['total'],
            'took_ms' => $answer['took_ms'],
            'cql' => $answer['cql'],
            'ledger' => array_map(
                static fn (array $l): array => array_intersect_key(
                    $l,
                    array_flip(['cql', 'negated', 'alone', 'running', 'without', 'variants']),
                ),
                $answer['ledger'],
            ),
            'rescues' => $answer['rescues'],
            'near_misses' => array_map(
                static fn (array $m): array => array_intersect_key($m, array_flip(['kind', 'line', 'cql', 'count'])),
                $answer['near_misses'],
            ),
            'facets' => (object) $facets,
            ...isset($answer['plan']) ? ['plan' => $answer['plan'], 'steps' => $answer['steps']] : [],
            'hits' => array_map(
                static fn (array $row): array => [
                    'ref' => $row['ref'],
                    'title' => $row['title'],
                    'library' => $row['library'],
                    'score' => $row['score'],
                    'snippet' => $row['snippet'] === null ? null : trim(implode('', array_column($row['snippet'], 0))),
                ],
                $answer['rows'],
            ),
        ];
    }

    /** @param  array<string, mixed>  $answer */
    private function people(array $answer): void
    {
        $this->line("{$answer['total']} documents in {$answer['took_ms']} ms");
        foreach ($answer['ledger'] as $line) {
            $this->line(
                sprintf(
                    '  %-60s alone %7d  left %7d  without this %7d',
                    ($line['negated'] ? 'not ' : '').$line['cql'],
                    $line['alone'],
                    $line['running'],
                    $line['without'],
                ),
            );
        }
        foreach ($answer['rescues'] as $rescue) {
            $this->line(
                '  without '.
                    implode(' and ', array_map(static fn (int $line): string => $answer['ledger'][$line]['cql'], $rescue['lines'])).
                    ": {$rescue['count']}",
            );
        }
        foreach ($answer['near_misses'] as $miss) {
            $this->line("  with {$miss['cql']} instead of {$answer['ledger'][$miss['line']]['cql']}: {$miss['count']}");
        }
        foreach ($answer['plan'] ?? [] as $step) {
            $this->line(sprintf('  %9.3f ms %9d  %s%s', $step['ms'], $step['documents'], str_repeat('  ', $step['depth']), $step['what']));
        }
        if (isset($answer['plan'])) {
            $this->line(
                '  '.
                    implode(
                        '  ',
                        array_map(
                            static fn (int|string $step, mixed $ms): string => "{$step} {$ms} ms",
                            array_keys($answer['steps']),
                            $answer['steps'],
                        ),
                    ),
            );
        }
        foreach ($answer['rows'] as $row) {
            $this->line("{$row['ref']}  {$row['title']}  {$row['library']}");
            if ($row['snippet'] !== null) {
                $this->line('    '.trim(implode('', array_column($row['snippet'], 0))));
            }
        }
    }
}
