<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\SoftDeletes;

/**
 * What somebody said of a document or dossier.
 *
 * @property int $id
 * @property int|null $document_id
 * @property int|null $dossier_id
 * @property int $user_id
 * @property string $text
 * @property \Illuminate\Support\Carbon $created_at
 * @property-read User $author
 */
final class Comment extends Model
{
    use SoftDeletes;

    protected $table = 'comments';

    protected $guarded = [];

    /** @return BelongsTo<User, $this> */
    public function author(): BelongsTo
    {
        return $this->belongsTo(User::class, 'user_id');
    }
}
