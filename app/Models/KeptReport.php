<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A report that is sent every month.
 *
 * @property int $id
 * @property int $user_id who had it sent
 * @property string $report code
 * @property string|null $library code
 * @property string|null $type code
 * @property list<int> $people who get it, each with what they may see
 * @property string $sent_for the last month that it was sent for, as 2026-11; empty before the first
 * @property-read User $user
 */
final class KeptReport extends Model
{
    protected $table = 'kept_reports';

    protected $guarded = [];

    protected $casts = ['people' => 'array'];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }
}
