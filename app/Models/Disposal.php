<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Retention\Disposal\DisposalState;
use Brenvic\Core\Retention\RetentionAction;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Documents that are disposed of together.
 *
 * @property int $id
 * @property string $name
 * @property RetentionAction $action
 * @property DisposalState $state
 * @property string $criterion CQL that found its documents
 * @property string $says why it did not go on
 * @property int $prepared_by
 * @property int|null $submitted_by
 * @property \Illuminate\Support\Carbon|null $submitted_at
 * @property int|null $approved_by
 * @property \Illuminate\Support\Carbon|null $approved_at
 * @property \Illuminate\Support\Carbon|null $done_at
 * @property int|null $pull_list_id
 * @property int|null $delivery_id the bag that is handed over
 * @property string|null $receipt
 * @property int|null $receipt_by
 * @property \Illuminate\Support\Carbon|null $receipt_at
 * @property string|null $certificate
 * @property int|null $certificate_entry
 * @property int $lock_version
 * @property \Illuminate\Support\Carbon $created_at
 * @property \Illuminate\Support\Carbon $updated_at
 * @property-read User $preparer
 * @property-read User|null $submitter
 * @property-read User|null $approver
 * @property-read User|null $recipient who recorded the receipt
 * @property-read Delivery|null $delivery
 */
final class Disposal extends Model
{
    protected $guarded = [];

    protected $attributes = ['says' => '', 'lock_version' => 1];

    protected $casts = [
        'action' => RetentionAction::class,
        'state' => DisposalState::class,
        'submitted_at' => 'datetime',
        'approved_at' => 'datetime',
        'done_at' => 'datetime',
        'receipt_at' => 'datetime',
    ];

    /** Of an item: it is to be disposed of; it was left out; it is done. */
    public const IN = 'in';

    public const OUT = 'out';

    public const DONE = 'done';

    /** Its documents: a table of its own, for there may be very many. */
    public function items(): Builder
    {
        return DB::table('disposal_items')->where('disposal_id', $this->id);
    }

    /** @return BelongsTo<User, $this> */
    public function preparer(): BelongsTo
    {
        return $this->belongsTo(User::class, 'prepared_by');
    }

    /** @return BelongsTo<User, $this> */
    public function submitter(): BelongsTo
    {
        return $this->belongsTo(User::class, 'submitted_by');
    }

    /** @return BelongsTo<User, $this> */
    public function approver(): BelongsTo
    {
        return $this->belongsTo(User::class, 'approved_by');
    }

    /** @return BelongsTo<User, $this> */
    public function recipient(): BelongsTo
    {
        return $this->belongsTo(User::class, 'receipt_by');
    }

    /** @return BelongsTo<Delivery, $this> */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }
}
