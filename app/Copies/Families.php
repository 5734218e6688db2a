<?php

declare(strict_types=1);

namespace App\Copies;

use App\Models\User;
use App\Redaction\Redactions;
use Brenvic\Core\Copies\Once;
use Brenvic\Core\Index\DocumentSet;
use Illuminate\Support\Facades\DB;

/** Which documents are near copies of one another, for searches that count them once. */
final class Families
{
    /** Seconds that they are kept in memory between requests. */
    private const KEPT = 3600;

    /** @var array{int, list<int>}|null the state they are of, and the families as `Once` takes them */
    private ?array $read = null;

    public function __construct(private readonly Redactions $redactions)
    {
    }

    /** Texts that a person does not see whole are compared with none for them. */
    public function once(User $user): Once
    {
        $state = (int) DB::table('near_families_changed')->value('times');
        if ($this->read === null || $this->read[0] !== $state) {
            $this->read = [$state, self::kept($state)];
        }
        $bound = $this->redactions->bound($user);

        // Counts are kept under its name, and differ for those who do not see every text whole.
        $name = $bound === [] ? (string) $state : $state.'/'.md5(implode(' ', $bound));

        return new Once($this->read[1], $name, $bound === [] ? null : DocumentSet::of($bound));
    }

    /** @return list<int> */
    private static function kept(int $state): array
    {
        $database = (string) DB::connection()->getDatabaseName();
        $isShared = function_exists('apcu_enabled') && apcu_enabled() && $database !== ':memory:' && DB::transactionLevel() === 0;
        $key = 'bf'.crc32($database.(@fileinode($database) ?: ''));
        $kept = $isShared ? apcu_fetch($key) : false;
        if (is_array($kept) && $kept[0] === $state) {
            return $kept[1] === '' ? [] : array_values((array) unpack('V*', $kept[1]));
        }
        $families = self::families();
        $isShared && apcu_store($key, [$state, pack('V*', ...$families)], self::KEPT);

        return $families;
    }

    /** @return list<int> */
    private static function families(): array
    {
        $families = [];
        $family = [];
        $last = null;
        foreach (DB::table('near_families')->orderBy('key')->orderBy('document_id')->cursor() as $row) {
            if ($row->key !== $last) {
                $last = $row->key;
                $families[implode(' ', $family)] = $family;
                $family = [];
            }
            $family[] = (int) $row->document_id;
        }
        $families[implode(' ', $family)] = $family;
        unset($families['']);

        // Nearly the same texts have several keys in common.
        return array_merge([], ...array_map(static fn (array $of): array => [...$of, 0], array_values($families)));
    }
}
