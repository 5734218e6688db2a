<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * What waits for somebody in a case, or did.
 *
 * @property int $id
 * @property int $case_id
 * @property int $number in the case
 * @property int $document_id
 * @property string $procedure code
 * @property string $step code
 * @property int|null $holder_id
 * @property int|null $asked_id who has to answer something first
 * @property list<int> $excluded who may not decide
 * @property string|null $due a day
 * @property string|null $remind a day
 * @property bool $is_overdue
 * @property \Illuminate\Support\Carbon $opened_at
 * @property \Illuminate\Support\Carbon|null $closed_at
 * @property int|null $decided_by
 * @property string|null $decision code
 * @property-read ProcedureCase $case
 * @property-read Document|null $document
 * @property-read User|null $holder
 */
final class Task extends Model
{
    protected $table = 'tasks';

    protected $guarded = [];

    public $timestamps = false;

    protected $casts = ['excluded' => 'array', 'is_overdue' => 'boolean', 'opened_at' => 'datetime', 'closed_at' => 'datetime'];

    /** @return BelongsTo<ProcedureCase, $this> */
    public function case(): BelongsTo
    {
        return $this->belongsTo(ProcedureCase::class, 'case_id');
    }

    /** @return BelongsTo<Document, $this> */
    public function document(): BelongsTo
    {
        return $this->belongsTo(Document::class);
    }

    /** @return BelongsTo<User, $this> */
    public function holder(): BelongsTo
    {
        return $this->belongsTo(User::class, 'holder_id');
    }
}
