<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Documents taken away together, as a file that can be fetched until it expires.
 *
 * @property int $id
 * @property int $pull_list_id
 * @property int $user_id
 * @property string $name
 * @property string $format see Retrieve\DeliveryFormats
 * @property array<string, mixed> $settings
 * @property string $state
 * @property int $done
 * @property int $total
 * @property string $message
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
    protected $table = 'deliveries';

    public const WAITING = 'waiting';

    public const RUNNING = 'running';

    public const DONE = 'done';

    public const FAILED = 'failed';

    public const CANCELLED = 'cancelled';

    public const EXPIRED = 'expired';

    protected $guarded = [];

    protected $attributes = ['settings' => '{}', 'state' => self::WAITING, 'message' => '', 'done' => 0, 'total' => 0];

    protected $casts = ['settings' => 'array', 'expires_at' => 'datetime'];

    /** The folder where finished deliveries lie. */
    public static function folder(): string
    {
        return config('brenvic.data').'/deliveries';
    }

    /** The documents in it, in order: a table of its own, for there may be very many. */
    public function items(): Builder
    {
        return DB::table('delivery_items')->where('delivery_id', $this->id);
    }

    /** @return list<array{ref: string, title: string, file: string, sha256: string, remark: string}> files relative to the bag */
    public function contents(int $from = 0, int $most = PHP_INT_MAX): array
    {
        return array_values(
            $this->items()
                ->orderBy('id')
                ->offset($from)
                ->limit($most)
                ->get(['ref', 'title', 'file', 'sha256', 'remark'])
                ->map(
                    static fn (object $i): array => [
                        'ref' => (string) $i->ref,
                        'title' => (string) $i->title,
                        'file' => (string) $i->file,
                        'sha256' => (string) $i->sha256,
                        'remark' => (string) $i->remark,
                    ],
                )
                ->all(),
        );
    }

    /**
     * The same, so many at a time, by the place of the first of them.
     *
     * @param  positive-int  $size
     * @return \Generator<int, list<array{ref: string, title: string, file: string, sha256: string, remark: string}>>
     */
    public function batches(int $size): \Generator
    {
        for ($from = 0; ($batch = $this->contents($from, $size)) !== []; $from += $size) {
            yield $from => $batch;
        }
    }

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
