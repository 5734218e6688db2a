<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Procedures\Record\Status;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * A document on its way through a procedure. What it is comes of its record, `case_events`; the columns say the same for
 * whoever looks for cases.
 *
 * @property int $id
 * @property string $procedure code
 * @property int $procedure_version_id
 * @property int $document_id
 * @property int $length of the record
 * @property int $told how much of the record people were told of
 * @property Status $status
 * @property string|null $step code
 * @property string|null $decision code of the last one
 * @property string $fault
 * @property \Illuminate\Support\Carbon $since when it came to its step
 * @property \Illuminate\Support\Carbon $begun_at
 * @property int|null $begun_by
 * @property \Illuminate\Support\Carbon|null $ended_at
 * @property-read Document|null $document
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Task> $tasks
 */
final class ProcedureCase extends Model
{
    protected $table = 'cases';

    protected $guarded = [];

    public $timestamps = false;

    protected $casts = ['status' => Status::class, 'since' => 'datetime', 'begun_at' => 'datetime', 'ended_at' => 'datetime'];

    /** @return Builder<self> the cases of a procedure that are not over */
    public static function underWay(string $procedure): Builder
    {
        return self::query()->where('procedure', $procedure)->whereNotIn('status', [Status::Ended->value, Status::GivenUp->value]);
    }

    /** @return BelongsTo<Document, $this> */
    public function document(): BelongsTo
    {
        return $this->belongsTo(Document::class);
    }

    /** @return HasMany<Task, $this> */
    public function tasks(): HasMany
    {
        return $this->hasMany(Task::class, 'case_id')->orderBy('number');
    }
}
