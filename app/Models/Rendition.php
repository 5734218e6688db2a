<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A file made of a version of a document and what is laid over it.
 *
 * @property int $id
 * @property int $document_id
 * @property int $version
 * @property string $form
 * @property string $stamp of what it was made
 * @property string|null $sha256 null while it is being made
 * @property int|null $bytes
 * @property string $file_name
 * @property string $fault why it could not be made
 * @property \Illuminate\Support\Carbon|null $made_at
 */
final class Rendition extends Model
{
    protected $table = 'renditions';

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['made_at' => 'datetime'];
}
