<?php

declare(strict_types=1);

namespace App\Audit;

use App\Catalog\Catalog;
use App\Models\User;
use Brenvic\Core\Exchange\CsvRow;
use Brenvic\Core\Fields\Cover;
use Closure;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * The history as a table or as lines of JSON, with all that the chain of hashes is made of, so that somebody outside can verify
 * it (docs/verify-history.py). Of an entry that a person may not see only its number and hash are given: the chain goes over it.
 */
final readonly class AuditExport
{
    public const COLUMNS = ['entry', 'at', 'user', 'by', 'act', 'document', 'detail', 'detail_sum', 'hash', 'withheld'];

    private const CHUNK = 2_000;

    public function __construct(private AuditSearch $search, private Catalog $catalog)
    {
    }

    /**
     * @param  bool  $asLines  lines of JSON, else a table
     * @param  string|null  $from  a day, as the last
     * @param  Closure(string): void  $write
     * @return int how many entries
     */
    public function write(User $user, bool $asLines, ?string $from, ?string $until, Closure $write): int
    {
        $asLines || $write(CsvRow::of(self::COLUMNS));
        $first = $from === null ? 1 : (int) (DB::table('history')->where('at', '>=', $from)->min('id') ?? PHP_INT_MAX);
        $last = $until === null ? PHP_INT_MAX : (int) DB::table('history')->where('at', '<', "{$until}T24")->max('id');
        $names = User::query()->pluck('name', 'id')->all();
        $open = ['text_language' => true, ...Cover::open($this->catalog->fieldsShownTo($user))];
        $count = 0;
        for ($after = $first - 1; ; $after = (int) $rows[count($rows) - 1]->id) {
            $rows = array_values(
                DB::table('history')->where('id', '>', $after)->where('id', '<=', $last)->orderBy('id')->limit(self::CHUNK)->get()->all(),
            );
            if ($rows === []) {
                return $count;
            }
            $seen = $this->search->seen($user, $rows);
            foreach ($rows as $row) {
                $isOpen = self::isOpen((string) $row->detail, $open);
                $row->detail = $isOpen ? $row->detail : '';
                // One from before there were sums cannot be verified without what it says.
                $isSeen = isset($seen[(int) $row->id]) && ($isOpen || $row->detail_sum !== null);
                $entry = self::entry($row, $isSeen, $names);
                $write($asLines ? self::line($entry) : CsvRow::of(array_map(self::cell(...), array_values($entry))));
                $count++;
            }
        }
    }

    /**
     * Whether all values that an entry tells of are of fields that a person may know.
     *
     * @param  array<string, mixed>  $open  by the codes of these fields
     */
    private static function isOpen(string $detail, array $open): bool
    {
        foreach ((array) json_decode($detail, true) as $code => $value) {
            // What is changed beside fields, its title or its type, is told as one value, not as a list.
            if (is_array($value) && is_array($value['before'] ?? null) && ! isset($open[$code])) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  array<int, string>  $names
     * @return array<string, mixed>
     */
    private static function entry(stdClass $row, bool $isSeen, array $names): array
    {
        return array_combine(
            self::COLUMNS,
            $isSeen
                ? [
                    (int) $row->id,
                    $row->at,
                    $row->user_id,
                    $names[(int) $row->user_id] ?? '',
                    $row->act,
                    $row->document_id,
                    $row->detail,
                    $row->detail_sum,
                    $row->hash,
                    false,
                ]
                : [(int) $row->id, null, null, null, null, null, null, null, $row->hash, true],
        );
    }

    private static function cell(mixed $value): string
    {
        return is_bool($value) ? ($value ? '1' : '0') : (is_scalar($value) ? (string) $value : '');
    }

    /** @param  array<string, mixed>  $entry */
    private static function line(array $entry): string
    {
        return json_encode($entry, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR)."\n";
    }
}
