<?php

declare(strict_types=1);

use App\Files\FilePages;
use App\Files\PagePdf;
use App\Sorting\SeparatorSheet;
use App\Support\ExternalProgram;
use Brenvic\Core\Pages\SeparatorCode;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Route;
use Illuminate\Testing\TestResponse;

/** @param  list<list<string>>  $rows */
function csvOf(array $rows, string $sign = ';'): string
{
    $stream = fopen('php://memory', 'r+') ?: throw new RuntimeException('No memory.');
    array_map(static fn (array $row): int|false => fputcsv($stream, $row, $sign, escape: ''), $rows);
    rewind($stream);

    return (string) stream_get_contents($stream);
}

/** @return list<list<string>> a register of moorings */
function mooringRegister(): array
{
    $rows = [['Licence', 'Issued', 'Sort of licence', 'Reach', 'Stage', 'Fee', 'Holder mail', 'Draught', 'Wharf crane']];
    foreach (range(1, 240) as $i) {
        $sort = $i % 3 === 0 ? 'Trade' : 'Leisure';
        $rows[] = [
            sprintf('ML-%04d', $i),
            sprintf('%02d/%02d/20%02d', 1 + $i % 28, 1 + $i % 12, 10 + $i % 14),
            $sort,
            ['Upper reach', 'Lower reach'][intdiv($i % 8, 4)],
            'Stage '.chr(65 + $i % 8),
            '£'.number_format(100 + 7 * $i, 2),
            "holder{$i}@example.org",
            $sort === 'Leisure' ? number_format(0.4 + $i % 9 / 10, 1, ',', '').' m' : '',
            $sort === 'Trade' ? 'crane '.$i % 5 : '',
        ];
    }

    return $rows;
}

function propose(string $contents, string $name = 'moorings_2024.csv'): TestResponse
{
    return test()->as('librarian')->post(
        '/api/design/proposal',
        ['file' => UploadedFile::fake()->createWithContent($name, $contents)],
        ['Accept' => 'application/json'],
    );
}

/** @param  list<list<string>>  $rows */
function accepted(array $rows, string $name = 'letters_2024.csv', array $more = []): void
{
    propose(csvOf($rows), $name)->assertStatus(202);
    test()->postJson('/api/design/proposal/take', ['name' => 'Letters', 'types' => true, 'columns' => [], ...$more])->assertOk();
    if (test()->getJson('/api/design/draft')->json('changes') !== []) {
        test()->publish('Letters')->assertCreated();
    }
    freshRoutes();
}

/** Within one test a controller goes on with the design it was made with. */
function freshRoutes(): void
{
    foreach (Route::getRoutes()->getRoutes() as $route) {
        $route->flushController();
    }
}

/**
 * A published source.
 *
 * @param  array<string, mixed>  $more
 */
function source(array $more = [], string $code = 'scans'): void
{
    test()->as('librarian')->postJson('/api/design/sources', [
        'code' => $code,
        'name' => 'Scans of the office',
        'way' => 'folder',
        'folder' => 'scans',
        'library' => 'waterways',
        'type' => 'stoppage_notice',
        'pattern' => '',
        'values' => [],
        'group' => 'Records office',
        'original' => 'kept',
        ...$more,
    ])->assertCreated();
    test()->publish('Scans')->assertCreated();
    foreach (Route::getRoutes()->getRoutes() as $route) {
        $route->flushController();
    }
}

/** What the clerk has just brought in, by its reference. */
function arrived(string $contents, string $name = 'stack.pdf'): string
{
    return (string) test()->as('clerk')->post(
        '/api/intake',
        ['file' => UploadedFile::fake()->createWithContent($name, $contents), 'library' => 'waterways'],
        ['Accept' => 'application/json'],
    )->assertCreated()->json('ref');
}

/** Writing on paper as a scanner gives it. */
function scanOf(string $words, float $askew = 0.0, int $turn = 0): GdImage
{
    $image = imagecreatetruecolor(1240, 1754) ?: throw new RuntimeException('No picture.');
    $paper = (int) imagecolorallocate($image, 246, 244, 240);
    imagefill($image, 0, 0, $paper);
    $font = '/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf';
    foreach (explode("\n", wordwrap($words, 48)) as $i => $line) {
        imagettftext($image, 24, 0, 140, 200 + 50 * $i, (int) imagecolorallocate($image, 30, 30, 30), $font, $line);
    }
    foreach ([-$askew, -$turn] as $degrees) {
        $image = (float) $degrees === 0.0 ? $image : (imagerotate($image, $degrees, $paper) ?: throw new RuntimeException('Not turned.'));
    }

    return $image;
}

/** @param  list<GdImage|SeparatorCode>  $pages */
function stackOf(array $pages): string
{
    return ExternalProgram::inFolder(static function (string $folder) use ($pages): string {
        $pdf = new PagePdf();
        foreach ($pages as $i => $page) {
            if ($page instanceof SeparatorCode) {
                file_put_contents("{$folder}/s.pdf", SeparatorSheet::pdf($page, [], 1));
                ExternalProgram::run(['pdftoppm', '-r', '150', '-png', '-singlefile', "{$folder}/s.pdf", "{$folder}/{$i}"], $folder);
            } else {
                imagepng($page, "{$folder}/{$i}.png");
            }
            FilePages::add($pdf, "{$folder}/{$i}.png", '');
        }

        return $pdf->Output('', 'S');
    });
}

/** Publishes a retention rule of a document type. */
function typeKeeps(string $type, ?array $rule): void
{
    test()->as('librarian')->putJson("/api/design/types/{$type}", [...test()->drafted('types', $type), 'retention' => $rule])->assertOk();
    test()->publish()->assertCreated();
}

/** A stoppage notice of a year, which no concept has a rule for. */
function stoppageOf(string $year, array $more = [], string $text = ''): string
{
    return test()->filed($text === '' ? "Stoppage of {$year}" : $text, "stoppage-{$year}.txt", 'stoppage_notice', [
        'document_date' => [$year],
        'waterway' => ['tarn-sea'],
        ...$more,
    ]);
}

/** @return array<string, mixed> */
function keptAs(string $ref, string $by = 'librarian'): array
{
    return test()->as($by)->getJson("/api/documents/{$ref}/retention")->assertOk()->json();
}

/** @return list<string> references that a criterion finds */
function foundBy(string $cql, string $by = 'librarian'): array
{
    return array_column(test()->search(['criteria' => [['cql' => $cql]]], $by)->assertOk()->json('rows'), 'ref');
}

/** @return array<string, string> what is in an archive, by path */
function unpackedZip(string $path): array
{
    $zip = new ZipArchive();
    expect($zip->open($path))->toBeTrue();
    $files = [];
    for ($i = 0; $i < $zip->numFiles; $i++) {
        $name = (string) $zip->getNameIndex($i);
        str_ends_with($name, '/') || ($files[$name] = (string) $zip->getFromIndex($i));
    }

    return $files;
}
