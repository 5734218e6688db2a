<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Somebody works on a document's file, so that nobody else makes a version of it meanwhile.
 *
 * @property int $document_id
 * @property int $user_id
 * @property int $version the version that is worked on
 * @property string $note
 * @property \Illuminate\Support\Carbon $since
 * @property string|null $sha256 of the copy put by
 * @property int|null $bytes
 * @property string|null $file_name
 * @property \Illuminate\Support\Carbon|null $kept_at
 * @property-read User $user
 * @property-read Document $document
 */
final class CheckOut extends Model
{
    protected $table = 'check_outs';

    public $timestamps = false;

    public $incrementing = false;

    protected $guarded = [];

    protected $primaryKey = 'document_id';

    protected $casts = ['since' => 'datetime', 'kept_at' => 'datetime'];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /** @return BelongsTo<Document, $this> */
    public function document(): BelongsTo
    {
        return $this->belongsTo(Document::class);
    }
}
