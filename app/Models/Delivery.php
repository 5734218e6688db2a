<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Documents taken away together, as a file that can be fetched until it expires.
 *
 * @property int $id
 * @property int $pull_list_id
 * @property int $user_id
 * @property string $name
 * @property string $format bag, zip, csv, ods, pdf, print or mail
 * @property array<string, mixed> $settings
 * @property string $state
 * @property int $done
 * @property int $total
 * @property string $message
 * @property list<array{ref: string, title: string, file: string, sha256: string, remark?: string}> $contents
 * @property string|null $file
 * @property int|null $bytes
 * @property string|null $sha256
 * @property \Illuminate\Support\Carbon|null $expires_at
 * @property \Illuminate\Support\Carbon $created_at
 * @property-read PullList $list
 * @property-read User $user
 */
final class Delivery extends Model
{
    public const WAITING = 'waiting';

    public const RUNNING = 'running';

    public const DONE = 'done';

    public const FAILED = 'failed';

    public const CANCELLED = 'cancelled';

    public const EXPIRED = 'expired';

    protected $guarded = [];

    protected $attributes = ['settings' => '{}', 'contents' => '[]', 'state' => self::WAITING, 'message' => '', 'done' => 0, 'total' => 0];

    protected $casts = ['settings' => 'array', 'contents' => 'array', 'expires_at' => 'datetime'];

    /** @return BelongsTo<PullList, $this> */
    public function list(): BelongsTo
    {
        return $this->belongsTo(PullList::class, 'pull_list_id')->withTrashed();
    }

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }
}
