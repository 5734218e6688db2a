<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A ring-fenced store of documents with its own libraries.
 *
 * @property int $id
 * @property string $code
 * @property string $name
 * @property int $position
 */
final class Repository extends Model
{
    protected $table = 'repositories';

    public $timestamps = false;

    protected $guarded = [];
}
