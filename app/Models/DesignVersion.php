<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * The whole design as it was published; its number is its id.
 *
 * @property int $id
 * @property string $note
 * @property array<string, array<string, array<string, mixed>>> $design kind => code => content
 * @property list<array<string, mixed>> $effects
 * @property \Illuminate\Support\Carbon $published_at
 * @property-read User|null $publisher
 */
final class DesignVersion extends Model
{
    protected $table = 'design_versions';

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['design' => 'array', 'effects' => 'array', 'published_at' => 'datetime'];

    /** @return BelongsTo<User, $this> */
    public function publisher(): BelongsTo
    {
        return $this->belongsTo(User::class, 'published_by');
    }
}
