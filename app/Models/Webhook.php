<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * An address that is told of what happens.
 *
 * @property int $id
 * @property int $user_id who made it; it is told of what this person may know
 * @property string $name
 * @property string $address
 * @property string $secret that it is signed with; encrypted where it is kept
 * @property list<string> $kinds of happenings
 * @property int $told_to number of the last entry of the history that it was told of, or needs not be
 * @property int $tries in vain since it answered last
 * @property Carbon|null $next_at not before this
 * @property Carbon|null $told_at when it answered last
 * @property string $fault why it was in vain
 * @property Carbon|null $stopped_at since when it is not tried any more
 * @property Carbon $made_at
 * @property-read User $user
 */
final class Webhook extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    protected $casts = [
        'kinds' => 'array',
        'secret' => 'encrypted',
        'next_at' => 'datetime',
        'told_at' => 'datetime',
        'stopped_at' => 'datetime',
        'made_at' => 'datetime',
    ];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }
}
