<?php

declare(strict_types=1);

namespace App\Find;

use App\Exchange\OdsFile;
use App\Models\User;
use Brenvic\Core\Exchange\CsvRow;
use Brenvic\Core\Exchange\OdsSheet;
use Closure;

/** All rows of a result as a file, shown as the columns show them. */
final readonly class ResultTable
{
    private const PIECE = 500;

    public function __construct(private Finder $finder)
    {
    }

    /**
     * @param  Closure(string): void  $write
     * @param  list<string>  $head
     */
    public function csv(User $user, FindRequest $request, array $head, Closure $write): int
    {
        $write("\u{FEFF}".CsvRow::of($head));

        return $this->rows($user, $request, static fn (array $cells) => $write(CsvRow::of($cells)));
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
            $rows = $this->rows($user, $request, static fn (array $cells) => fwrite($stream, OdsSheet::row($cells)));
            fwrite($stream, OdsSheet::foot());
            fclose($stream);
            $file = "{$content}.ods";
            OdsFile::pack($content, $file);
        } finally {
            @unlink($content);
        }

        return [$file, $rows];
    }

    /** @param  Closure(list<string>): mixed  $each */
    private function rows(User $user, FindRequest $request, Closure $each): int
    {
        $count = 0;
        do {
            $rows = $this->finder->find($user, $request->page($count, self::PIECE))['rows'];
            foreach ($rows as $row) {
                $each([$row['ref'], $row['title'], ...array_map(static fn (string $code): string => $row['cells'][$code] ?? '', $request->columns)]);
            }
            $count += count($rows);
        } while (count($rows) === self::PIECE);

        return $count;
    }
}
