<?php

declare(strict_types=1);

use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Reports\AskedWords;
use Brenvic\Core\Reports\Column;
use Brenvic\Core\Reports\DiskForecast;
use Brenvic\Core\Reports\Measure;
use Brenvic\Core\Reports\ReportRow;
use Brenvic\Core\Reports\ReportTable;
use Brenvic\Core\Reports\Span;

it('tells a period by day where it is short and by month where it is long, and leaves no day out', function () {
    mt_srand(11);
    for ($i = 0; $i < 200; $i++) {
        $from = new DateTimeImmutable('2023-01-01 +'.mt_rand(0, 1_500).' days');
        $span = new Span($from->format('Y-m-d'), $from->modify('+'.mt_rand(0, 900).' days')->format('Y-m-d'));
        $pieces = $span->pieces();
        $naive = [];
        for ($day = $span->from; $day->format('Y-m-d') < $span->end(); $day = $day->modify('+1 day')) {
            $naive[$span->piece($day->format('Y-m-d 13:00:00'))] = true;
        }
        expect($pieces)->toBe(array_keys($naive));
    }
    expect((new Span('2026-11-01', '2027-01-01'))->isByDay())->toBeTrue()
        ->and((new Span('2026-11-01', '2027-01-02'))->isByDay())->toBeFalse()
        ->and((new Span('2024-01-31', '2024-03-30'))->pieces())->toHaveCount(60)
        ->and((new Span('2023-10-31', '2024-01-01'))->pieces())->toBe(['2023-10', '2023-11', '2023-12', '2024-01'])
        ->and(Span::monthBefore(new DateTimeImmutable('2024-03-31'))->last())->toBe('2024-02-29')
        ->and(Span::monthBefore(new DateTimeImmutable('2026-01-01'))->first())->toBe('2025-12-01');
    expect(static fn () => new Span('2026-02-02', '2026-02-01'))->toThrow(InvalidArgumentException::class);
});

it('tells when a disk is full from a line through its days', function () {
    $days = [];
    for ($i = 0; $i < 30; $i++) {
        $days[(new DateTimeImmutable("2026-01-01 +{$i} days"))->format('Y-m-d')] = 100 + 10 * $i;
    }
    // 390 on the last, and 10 a day: 61 days until 1000.
    $forecast = DiskForecast::of($days, 1_000);
    expect($forecast->bytesADay)->toEqualWithDelta(10.0, 1e-9)->and($forecast->full)->toBe('2026-04-01');
    // Days that are missing do not make it steeper, nor does their order.
    unset($days['2026-01-10'], $days['2026-01-11'], $days['2026-01-12']);
    expect(DiskForecast::of(array_reverse($days, true), 1_000)->full)->toBe('2026-04-01');
    expect(DiskForecast::of(array_map(static fn (int $used): int => 1_000 - $used, $days), 1_000)->full)->toBeNull()
        ->and(DiskForecast::of(array_map(static fn (): int => 500, $days), 1_000)->bytesADay)->toBe(0.0)
        ->and(DiskForecast::of($days, PHP_INT_MAX)->full)->toBeNull()
        ->and(DiskForecast::of($days, 390)->full)->toBe('2026-01-30')
        ->and(DiskForecast::of(array_slice($days, 0, 6), 1_000)->bytesADay)->toBeNull();
});

it('takes the words that were looked for out of a search, and nothing else', function (string $cql, array $words) {
    expect(AskedWords::of(Parser::parse($cql)->root))->toBe($words);
})->with([
    ['lock and "Gate repair"', ['lock', 'gate', 'repair']],
    ['text any "wall of the basin" not dredging', ['wall', 'basin']],
    ['waterway == tarn-sea and sluice*', ['sluice']],
    ['library == works', []],
    ['title = Lock prox/distance<3 lock', ['lock']],
    ['cql.allrecords = 1', []],
    ['>dc="info:srw/context-set/1/dc-v1.1" dc.title any "towpath"', ['towpath']],
]);

it('is a table of CSV and a sheet of a spreadsheet, in which nothing is taken for a formula', function () {
    $table = new ReportTable('Of all', '', [Column::text('Word'), new Column('Times'), new Column('Day', Measure::Day), new Column('Share', Measure::Percent)], [
        new ReportRow(['=cmd', 12, '2026-11-29', 3.5]),
        new ReportRow(['a "b", c', 0, '2026-11', null]),
    ]);
    $csv = $table->csv();
    $stream = fopen('php://memory', 'r+') ?: throw new RuntimeException;
    fwrite($stream, $csv);
    rewind($stream);
    $rows = [];
    while (($row = fgetcsv($stream, escape: '')) !== false) {
        $rows[] = $row;
    }
    expect($rows)->toBe([['Word', 'Times', 'Day', 'Share'], ["'=cmd", '12', '2026-11-29', '3.5'], ['a "b", c', '0', '2026-11', '']]);
    $document = new DOMDocument;
    $isXml = $document->loadXML(OdsSheet::head($table->name).$table->sheetRows().OdsSheet::next('More & more').$table->sheetRows().OdsSheet::foot());
    $path = new DOMXPath($document);
    expect($isXml)->toBeTrue()
        ->and($path->query('//table:table')->length)->toBe(2)
        ->and($path->query('//table:table[1]//table:table-cell[@office:value-type="float"]')->length)->toBe(3)
        ->and($path->query('//table:table[2]//table:table-cell[@office:date-value="2026-11-29"]')->length)->toBe(1)
        ->and($path->query('//table:table-cell[@office:value-type="string"][. = "=cmd"]')->length)->toBe(2);
});
