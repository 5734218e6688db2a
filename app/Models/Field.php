<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * An index field as the librarian defined it; App\Design\Catalog makes the core's FieldDefinition of it.
 *
 * @property int $id
 * @property string $code
 * @property string $label
 * @property string $kind
 * @property string $help
 * @property bool $multiple
 * @property bool $faceted
 * @property bool $sensitive
 * @property int|null $vocabulary_id
 * @property string $unit
 * @property string $pattern
 * @property float|null $minimum
 * @property float|null $maximum
 * @property string|null $dublin_core
 * @property int $position
 * @property int $lock_version
 * @property-read VocabularyModel|null $vocabulary
 */
final class Field extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['multiple' => 'boolean', 'faceted' => 'boolean', 'sensitive' => 'boolean', 'minimum' => 'float', 'maximum' => 'float'];

    /** @return BelongsTo<VocabularyModel, $this> */
    public function vocabulary(): BelongsTo
    {
        return $this->belongsTo(VocabularyModel::class, 'vocabulary_id');
    }
}
