<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * A controlled list of terms. Named apart from the core's Vocabulary, which it is stored as.
 *
 * @property int $id
 * @property string $code
 * @property string $name
 * @property int $lock_version
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Term> $terms
 */
final class VocabularyModel extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    protected $table = 'vocabularies';

    /** @return HasMany<Term, $this> */
    public function terms(): HasMany
    {
        return $this->hasMany(Term::class, 'vocabulary_id')->orderBy('position')->orderBy('id');
    }
}
