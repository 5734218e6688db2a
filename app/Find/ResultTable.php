<?php

declare(strict_types=1);

namespace App\Find;

use App\Catalog\Catalog;
use App\Exchange\OdsFile;
use App\Models\User;
use Brenvic\Core\Exchange\CsvRow;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Exchange\SheetCell;
use Closure;

/** All rows of a result as a file, shown as the columns show them. */
final readonly class ResultTable
{
    private const PIECE = 500;

    public function __construct(private Finder $finder, private Catalog $catalog)
    {
    }

    /**
     * @param  Closure(string): void  $write
     * @param  list<string>  $head
     * @param  bool  $forSpreadsheet  whether what looks like a formula is told to be text
     */
    public function csv(User $user, FindRequest $request, array $head, bool $forSpreadsheet, Closure $write): int
    {
        $line = $forSpreadsheet ? CsvRow::forSpreadsheet(...) : CsvRow::of(...);
        $write("\u{FEFF}".$line($head));

        return $this->rows(
            $user,
            $request,
            static fn (Row $row) => $write($line([$row->document->ref, $row->document->title, ...self::cells($row, $request)])),
        );
    }

    /**
     * @param  list<string>  $head
     * @return array{string, int} path of the file, which the caller removes, and its rows
     */
    public function ods(User $user, FindRequest $request, array $head): array
    {
        $content = (string) tempnam(sys_get_temp_dir(), 'ods');
        $stream = fopen($content, 'wb') ?: throw new \RuntimeException('No room for a table.');
        try {
            fwrite($stream, OdsSheet::head('Result').OdsSheet::row($head));
            $fields = $this->catalog->fieldsFor($user);
            $rows = $this->rows(
                $user,
                $request,
                static fn (Row $row) => fwrite(
                    $stream,
                    OdsSheet::row([
                        $row->document->ref,
                        $row->document->title,
                        ...array_map(
                            static fn (string $code, string $shown): SheetCell => SheetCell::of(
                                $fields[$code] ?? null,
                                $shown,
                                ($request->formats[$code]->mask ?? 'none') === 'none' ? $row->values[$code] ?? [] : [],
                            ),
                            $request->columns,
                            self::cells($row, $request),
                        ),
                    ]),
                ),
            );
            fwrite($stream, OdsSheet::foot());
            fclose($stream);
            $file = "{$content}.ods";
            OdsFile::pack($content, $file);
        } finally {
            @unlink($content);
        }

        return [$file, $rows];
    }

    /**
     * @return list<string> in the order of the columns
     */
    private static function cells(Row $row, FindRequest $request): array
    {
        return array_map(static fn (string $code): string => $row->cells[$code] ?? '', $request->columns);
    }

    /** @param  Closure(Row): mixed  $each */
    private function rows(User $user, FindRequest $request, Closure $each): int
    {
        $count = 0;
        do {
            $rows = $this->finder->find($user, $request->page($count, self::PIECE))->found->rows;
            foreach ($rows as $row) {
                $each($row);
            }
            $count += count($rows);
        } while (count($rows) === self::PIECE);

        return $count;
    }
}
