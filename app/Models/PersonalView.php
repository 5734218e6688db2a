<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A view that one person made for themselves.
 *
 * @property int $id
 * @property int $user_id
 * @property string $code
 * @property array<string, mixed> $content as a view of the design
 */
final class PersonalView extends Model
{
    protected $table = 'personal_views';

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['content' => 'array'];
}
