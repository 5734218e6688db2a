<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * A file that comes in pieces.
 *
 * @property int $id
 * @property string $key by which it is gone on with
 * @property int $user_id
 * @property int $library_id
 * @property string $name of the file
 * @property string $path where it comes from
 * @property int|null $bytes that it will have, where that was said
 * @property int|null $document_id what it became
 * @property Carbon $touched_at
 * @property-read Library $library
 * @property-read Document|null $document
 */
final class Upload extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['touched_at' => 'datetime'];

    /** @return BelongsTo<Library, $this> */
    public function library(): BelongsTo
    {
        return $this->belongsTo(Library::class);
    }

    /** @return BelongsTo<Document, $this> */
    public function document(): BelongsTo
    {
        return $this->belongsTo(Document::class);
    }

    /** What has arrived of it. */
    public function file(): string
    {
        return self::folder()."/{$this->key}";
    }

    public static function folder(): string
    {
        return config('brenvic.data').'/uploads';
    }
}
