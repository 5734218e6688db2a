<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A saved way to look at documents.
 *
 * @property int $id
 * @property string $code
 * @property string $name
 * @property string $criterion
 * @property list<string> $columns
 * @property list<array{field: string, descending: bool}> $sort
 * @property list<array{field: string}> $levels
 * @property string|null $total
 * @property string $total_as
 * @property int $position
 * @property int $lock_version
 */
final class View extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['columns' => 'array', 'sort' => 'array', 'levels' => 'array'];
}
