<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Access\Rights;
use App\Models\Delivery;
use App\Models\User;
use App\Redaction\Redactions;
use App\Support\Column;
use Illuminate\Support\Facades\DB;

/**
 * Whether a delivery may still be fetched. What is in it was chosen by what its maker saw then; it is asked again each time,
 * by the maker themselves and by whoever comes with a link of theirs.
 */
final readonly class DeliveryRights
{
    private const CHUNK = 5_000;

    public function __construct(private Rights $rights, private Redactions $redactions)
    {
    }

    /**
     * Of some references, those that a person may see now.
     *
     * @param  list<string>  $refs
     * @return list<string>
     */
    public function seen(User $user, array $refs): array
    {
        $seen = [];
        foreach (array_chunk(array_values(array_unique($refs)), self::CHUNK) as $chunk) {
            $ids = DB::table('documents')->whereIn('ref', $chunk)->whereNull('deleted_at')->pluck('id', 'ref')->all();
            $visible = array_flip($this->rights->seen($user, array_map(intval(...), array_values($ids))));
            array_push(
                $seen,
                ...array_map(strval(...), array_keys(array_filter($ids, static fn (mixed $id): bool => isset($visible[(int) $id])))),
            );
        }

        return $seen;
    }

    /**
     * Whether its maker may see all that is in it, and whether nothing of it was redacted from them since it was made.
     * Documents that were destroyed or removed from view since are nothing that anybody may take away.
     */
    public function mayLeave(Delivery $delivery): bool
    {
        $bound = array_flip($this->redactions->bound($delivery->user));
        $refs = array_values(array_unique($delivery->items()->pluck('ref')->all()));
        foreach (array_chunk($refs, self::CHUNK) as $chunk) {
            $ids = Column::numbers(DB::table('documents')->whereIn('ref', $chunk)->whereNull('deleted_at')->pluck('id'));
            if (count($ids) < count($chunk) || count($this->rights->seen($delivery->user, $ids)) < count($ids)) {
                return false;
            }
            $kept = array_values(array_filter($ids, static fn (int $id): bool => isset($bound[$id])));
            if (
                $kept !== [] &&
                DB::table('redactions')->whereIntegerInRaw('document_id', $kept)->where('made_at', '>=', $delivery->created_at)->exists()
            ) {
                return false;
            }
        }

        return true;
    }
}
