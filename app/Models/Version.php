<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * One version of a document that has several.
 *
 * @property int $id
 * @property int $document_id
 * @property int $number
 * @property string $sha256
 * @property int $bytes
 * @property string $file_name
 * @property string $file_kind
 * @property int $page_count
 * @property int|null $drawn_pages of an office file: how many of its pages were drawn
 * @property string $text_state
 * @property string $text_reason
 * @property MadeHow $how
 * @property string $note
 * @property int|null $made_by
 * @property \Illuminate\Support\Carbon $made_at
 * @property list<array{int, int}|null>|null $pages_from the page of the version before that each page was, and its turn; null when not known
 * @property-read User|null $maker
 */
final class Version extends Model
{
    protected $table = 'versions';

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['how' => MadeHow::class, 'made_at' => 'datetime', 'pages_from' => 'array'];

    /** @return BelongsTo<User, $this> */
    public function maker(): BelongsTo
    {
        return $this->belongsTo(User::class, 'made_by');
    }
}
