<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A file that an import has brought in.
 *
 * @property int $id
 * @property int $library_id
 * @property string $source
 * @property string $sha256
 * @property int|null $document_id
 */
final class ImportFile extends Model
{
    public $timestamps = false;

    protected $guarded = [];
}
