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
 * @property array{type: string|null, values: array<string, list<string>>}|null $given what the row of a register said last; null when none is known
 */
final class ImportFile extends Model
{
    protected $table = 'import_files';

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['given' => 'array'];
}
