<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A search kept by name, for oneself or for groups.
 *
 * @property int $id
 * @property int $user_id
 * @property string $name
 * @property KeptSearch $search
 * @property list<string> $groups
 * @property int $lock_version
 * @property-read User $owner
 */
final class SavedSearch extends Model
{
    protected $table = 'saved_searches';

    protected $guarded = [];

    protected $casts = ['search' => AsKeptSearch::class, 'groups' => 'array'];

    protected $attributes = ['groups' => '[]', 'lock_version' => 1];

    /** @return BelongsTo<User, $this> */
    public function owner(): BelongsTo
    {
        return $this->belongsTo(User::class, 'user_id');
    }
}
