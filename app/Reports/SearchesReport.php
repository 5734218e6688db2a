<?php

declare(strict_types=1);

namespace App\Reports;

use App\Catalog\Catalog;
use App\Find\Finder;
use App\History\Readers;
use App\Models\User;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Reports\AskedWords;
use Brenvic\Core\Reports\Column;
use Brenvic\Core\Reports\Measure;
use Brenvic\Core\Reports\Plot;
use Brenvic\Core\Reports\ReportRow;
use Brenvic\Core\Reports\ReportTable;
use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Support\Facades\DB;
use stdClass;

/** What people search for, what they do not find and try next, and what took long. */
final readonly class SearchesReport implements Report
{
    /** Rows of a table. */
    private const MOST = 50;

    /** Milliseconds. */
    private const SLOW = 500;

    /** Minutes within which the next search of a person goes on from one that found nothing. */
    private const NEXT = 10;

    public function __construct(private Whose $whose, private Catalog $catalog, private Finder $finder)
    {
    }

    public function code(): string
    {
        return 'searches';
    }

    public function name(): string
    {
        return 'Searches';
    }

    public function hasPeriod(): bool
    {
        return true;
    }

    public function narrowedBy(): array
    {
        return [];
    }

    public function tables(User $user, Asked $asked): array
    {
        $people = $this->whose->toldTo($user);
        $searches = $days = $words = $last = [];
        $schema = $this->catalog->schema($user);
        /** @var array<string, KeptSearch|null> $read by hash; null for what a person may not be told of */
        $read = [];
        $rows = DB::table('asked_searches')
            ->where('at', '>=', $asked->span->first())
            ->where('at', '<', $asked->span->end())
            ->whereIntegerInRaw('user_id', array_keys($people))
            ->orderBy('id');
        foreach ($rows->cursor() as $row) {
            $hash = (string) $row->hash;
            if (! array_key_exists($hash, $read)) {
                $read[$hash] = $this->read($user, $row);
                foreach ($read[$hash] === null ? [] : self::words((string) $row->cql) as $word) {
                    $words[$word] ??= ['searches' => [], 'times' => 0, 'people' => []];
                    $words[$word]['searches'][$hash] = true;
                }
            }
            if ($read[$hash] === null) {
                continue;
            }
            $day = $asked->span->piece((string) $row->at);
            $days[$day] ??= ['searches' => 0, 'nothing' => 0, 'people' => [], 'took' => []];
            $days[$day]['searches']++;
            $days[$day]['people'][(int) $row->user_id] = true;
            $days[$day]['took'][] = (int) $row->milliseconds;
            (int) $row->total === 0 && $days[$day]['nothing']++;
            $searches[$hash] ??= [
                'times' => 0,
                'nothing' => 0,
                'people' => [],
                'last' => '',
                'next' => [],
                'slowest' => 0,
                'slow_at' => '',
            ];
            $of = &$searches[$hash];
            $of['times']++;
            $of['people'][(int) $row->user_id] = true;
            if ((int) $row->milliseconds > $of['slowest']) {
                $of['slowest'] = (int) $row->milliseconds;
                $of['slow_at'] = (string) $row->at;
            }
            if ((int) $row->total === 0) {
                $of['nothing']++;
                $of['last'] = (string) $row->at;
            }
            unset($of);
            $this->noteNext($searches, $last[(int) $row->user_id] ?? null, $row);
            $last[(int) $row->user_id] = $row;
        }
        foreach ($words as $word => $of) {
            foreach (array_keys($of['searches']) as $hash) {
                $words[$word]['times'] += $searches[$hash]['times'];
                $words[$word]['people'] += $searches[$hash]['people'];
            }
        }
        $told = static fn (string $hash): string => $read[$hash]?->inWords($schema) ?: 'Everything';

        return [
            self::byDay($asked, $days),
            self::asked($words),
            self::nothing($searches, $read, $told),
            self::slow($searches, $read, $told),
        ];
    }

    /** A search that may be told of; null for one that names what the person does not know of. */
    private function read(User $user, stdClass $row): ?KeptSearch
    {
        $search = KeptSearch::of((array) json_decode((string) $row->search, true));

        return (int) $row->user_id !== $user->id && $this->finder->isBetrayedByNames($user, $search) ? null : $search;
    }

    /** @return list<string> */
    private static function words(string $cql): array
    {
        try {
            return AskedWords::of(Parser::parse($cql)->root);
        } catch (SyntaxError) {
            return [];
        }
    }

    /**
     * What was tried next where nothing was found.
     *
     * @param  array<string, array{times: int, nothing: int, people: array<int, true>, last: string, next: array<string, int>, slowest: int, slow_at: string}>  $searches
     */
    private function noteNext(array &$searches, ?stdClass $before, stdClass $row): void
    {
        if (
            $before === null ||
            (int) $before->total > 0 ||
            strtotime((string) $row->at) - strtotime((string) $before->at) > self::NEXT * 60
        ) {
            return;
        }
        $next = &$searches[(string) $before->hash]['next'];
        $next[(string) $row->hash] = max($next[(string) $row->hash] ?? 0, (int) $row->total);
    }

    /** @param  array<string, array{searches: int, nothing: int, people: array<int, true>, took: list<int>}>  $days */
    private static function byDay(Asked $asked, array $days): ReportTable
    {
        $rows = array_map(static function (string $day) use ($days): ReportRow {
            $of = $days[$day] ?? ['searches' => 0, 'nothing' => 0, 'people' => [], 'took' => []];
            sort($of['took']);

            return new ReportRow([
                $day,
                $of['searches'],
                $of['nothing'],
                count($of['people']),
                $of['took'][intdiv(count($of['took']), 2)] ?? null,
            ]);
        }, $asked->span->pieces());
        $says = 'Searches of people who see no more than you: what others look for would tell of what you may not see.';
        $says .= Readers::now()->areRecorded ? '' : ' What readers do is not recorded any more.';

        return new ReportTable(
            $asked->span->isByDay() ? 'By day' : 'By month',
            $says,
            [
                new Column($asked->span->isByDay() ? 'Day' : 'Month', Measure::Day),
                new Column('Searches'),
                new Column('Found nothing'),
                new Column('People'),
                new Column('Half took less than', Measure::Milliseconds),
            ],
            $rows,
            new Plot(Plot::COLUMNS, 0, [1, 2]),
        );
    }

    /** @param  array<array-key, array{times: int, people: array<int, true>, searches: array<string, true>}>  $words */
    private static function asked(array $words): ReportTable
    {
        $rows = [];
        foreach ($words as $word => $of) {
            $search = new KeptSearch(words: (string) $word);
            $rows[] = new ReportRow([(string) $word, $of['times'], count($of['people'])], $search);
        }
        usort(
            $rows,
            static fn (ReportRow $a, ReportRow $b): int => $b->cells[1] <=> $a->cells[1] ?:
            strcmp((string) $a->cells[0], (string) $b->cells[0]),
        );

        return new ReportTable(
            'Words most asked for',
            'The words that were looked for in documents, however they were combined.',
            [Column::text('Word'), new Column('Searches'), new Column('People')],
            array_slice($rows, 0, self::MOST),
            new Plot(Plot::BARS, 0, [1]),
        );
    }

    /**
     * @param  array<string, array{times: int, nothing: int, people: array<int, true>, last: string, next: array<string, int>, slowest: int, slow_at: string}>  $searches
     * @param  array<string, KeptSearch|null>  $read
     * @param  callable(string): string  $told
     */
    private static function nothing(array $searches, array $read, callable $told): ReportTable
    {
        $found = array_filter($searches, static fn (array $of): bool => $of['nothing'] > 0);
        uasort($found, static fn (array $a, array $b): int => $b['nothing'] <=> $a['nothing'] ?: strcmp($b['last'], $a['last']));
        $rows = [];
        foreach (array_slice($found, 0, self::MOST, true) as $hash => $of) {
            arsort($of['next']);
            $next = array_key_first($of['next']);
            $found = $next === null ? null : $of['next'][$next];
            $rows[] = new ReportRow(
                [$told($hash), $of['nothing'], count($of['people']), self::moment($of['last']), $next === null ? '' : $told($next), $found],
                $read[$hash],
            );
        }

        return new ReportTable(
            'Found nothing',
            'What was tried next is the search that followed within ten minutes and found most.',
            [
                Column::text('Search'),
                new Column('Times'),
                new Column('People'),
                new Column('Last', Measure::Moment),
                Column::text('Tried next'),
                new Column('Found then'),
            ],
            $rows,
        );
    }

    /**
     * @param  array<string, array{times: int, nothing: int, people: array<int, true>, last: string, next: array<string, int>, slowest: int, slow_at: string}>  $searches
     * @param  array<string, KeptSearch|null>  $read
     * @param  callable(string): string  $told
     */
    private static function slow(array $searches, array $read, callable $told): ReportTable
    {
        $slow = array_filter($searches, static fn (array $of): bool => $of['slowest'] >= self::SLOW);
        uasort($slow, static fn (array $a, array $b): int => $b['slowest'] <=> $a['slowest']);
        $rows = [];
        foreach (array_slice($slow, 0, self::MOST, true) as $hash => $of) {
            $rows[] = new ReportRow([$told($hash), $of['slowest'], $of['times'], self::moment($of['slow_at'])], $read[$hash]);
        }

        return new ReportTable(
            'Slow searches',
            'Those that took half a second or longer, with all that they count.',
            [
                Column::text('Search'),
                new Column('Slowest', Measure::Milliseconds),
                new Column('Times'),
                new Column('When', Measure::Moment),
            ],
            $rows,
        );
    }

    private static function moment(string $at): string
    {
        return str_replace(' ', 'T', $at).'Z';
    }
}
