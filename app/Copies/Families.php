<?php

declare(strict_types=1);

namespace App\Copies;

use App\Models\User;
use App\Redaction\Redactions;
use App\Support\SharedMemory;
use Brenvic\Core\Copies\Once;
use Brenvic\Core\Index\DocumentSet;
use Illuminate\Support\Facades\DB;

/** Which documents are near copies of one another, for searches that count them once. */
final class Families
{
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
            $packed = SharedMemory::kept('families', static fn (): int => $state, self::packed(...));
            $this->read = [$state, $packed === '' ? [] : array_values((array) unpack('V*', $packed))];
        }
        $bound = $this->redactions->bound($user);

        // Counts are kept under its name, and differ for those who do not see every text whole.
        $name = $bound === [] ? (string) $state : $state.'/'.md5(implode(' ', $bound));

        return new Once($this->read[1], $name, $bound === [] ? null : DocumentSet::of($bound));
    }

    /** @return string the families, as numbers of 32 bits */
    private static function packed(): string
    {
        $families = [];
        $family = '';
        $last = null;
        foreach (DB::table('near_families')->orderBy('key')->orderBy('document_id')->cursor() as $row) {
            if ($row->key !== $last) {
                $last = $row->key;
                $families[$family] = true;
                $family = '';
            }
            $family .= pack('V', $row->document_id);
        }
        $families[$family] = true;
        unset($families['']);

        // Nearly the same texts have several keys in common.
        return $families === [] ? '' : implode(pack('V', 0), array_map(strval(...), array_keys($families))).pack('V', 0);
    }
}
