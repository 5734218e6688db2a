<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Fields\CheckCharacter;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * A container for the documents of one case, asset or project, with index fields of its own.
 *
 * @property int $id
 * @property string $ref
 * @property int $library_id
 * @property string $kind code of its dossier kind
 * @property string $title
 * @property int|null $created_by
 * @property int $lock_version
 * @property \Illuminate\Support\Carbon|null $closed_at
 * @property int|null $closed_by
 * @property-read Library $library
 * @property-read \Illuminate\Database\Eloquent\Collection<int, DossierSection> $sections
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Document> $documents
 */
final class Dossier extends Model
{
    protected $table = 'dossiers';

    protected $guarded = [];

    protected $attributes = ['lock_version' => 1];

    protected $casts = ['closed_at' => 'datetime'];

    protected static function booted(): void
    {
        self::created(function (self $dossier): void {
            $dossier->newQuery()->whereKey($dossier->id)->update(['ref' => self::refOf($dossier->id)]);
            $dossier->setAttribute('ref', self::refOf($dossier->id))->syncOriginalAttribute('ref');
        });
    }

    /** The reference of the dossier with an id; its last sign is a check character. */
    public static function refOf(int $id): string
    {
        $number = sprintf('DS-%05d-', $id);

        return $number.CheckCharacter::for($number);
    }

    /** @return BelongsTo<Library, $this> */
    public function library(): BelongsTo
    {
        return $this->belongsTo(Library::class);
    }

    /** @return HasMany<DossierSection, $this> */
    public function sections(): HasMany
    {
        return $this->hasMany(DossierSection::class)->orderBy('position')->orderBy('id');
    }

    /** @return BelongsToMany<Document, $this> */
    public function documents(): BelongsToMany
    {
        return $this->belongsToMany(Document::class)->withPivot('dossier_section_id');
    }
}
