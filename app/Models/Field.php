<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * The number of an index field, which stored values refer to. What it is stands in the design.
 *
 * @property int $id
 * @property string $code
 */
final class Field extends Model
{
    protected $table = 'fields';

    public $timestamps = false;

    protected $guarded = [];
}
