<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A part of the design as the draft has it.
 *
 * @property int $id
 * @property string $kind
 * @property string $code
 * @property array<string, mixed>|null $content null when the part is taken out
 * @property int $lock_version
 * @property int $changed_by
 * @property \Illuminate\Support\Carbon $updated_at
 * @property-read User $editor
 */
final class DesignChangeModel extends Model
{
    protected $table = 'design_changes';

    protected $guarded = [];

    protected $casts = ['content' => 'array'];

    /** @return BelongsTo<User, $this> */
    public function editor(): BelongsTo
    {
        return $this->belongsTo(User::class, 'changed_by');
    }
}
