<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A file known by its content.
 *
 * @property string $sha256
 * @property int $bytes
 */
final class StoredFile extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    public $incrementing = false;

    protected $table = 'files';

    protected $primaryKey = 'sha256';

    protected $keyType = 'string';
}
