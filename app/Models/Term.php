<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One entry of a vocabulary.
 *
 * @property int $id
 * @property int $vocabulary_id
 * @property string $code
 * @property string $label
 * @property string|null $parent
 * @property list<string> $synonyms
 * @property int $position
 */
final class Term extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['synonyms' => 'array'];

    protected $attributes = ['synonyms' => '[]'];
}
