<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A search kept by name, for oneself or for groups.
 *
 * @property int $id
 * @property int $user_id
 * @property string $name
 * @property array<string, mixed> $search words, criteria and the rest, as the interface keeps it
 * @property list<string> $groups
 * @property int $lock_version
 * @property-read User $owner
 */
final class SavedSearch extends Model
{
    protected $guarded = [];

    protected $casts = ['search' => 'array', 'groups' => 'array'];

    protected $attributes = ['groups' => '[]', 'lock_version' => 1];

    /** @return BelongsTo<User, $this> */
    public function owner(): BelongsTo
    {
        return $this->belongsTo(User::class, 'user_id');
    }
}
