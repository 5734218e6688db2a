<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A table that somebody gave, and the design proposed from it. Each person has one at a time.
 *
 * @property int $id
 * @property int $user_id
 * @property string $name what the document types and the view are called, when the table does not say
 * @property string $file_name
 * @property string $state
 * @property int $rows read so far
 * @property string $says why it could not be read
 * @property string|null $found see Design\Proposals
 */
final class Proposal extends Model
{
    public const WAITING = 'waiting';

    public const READY = 'ready';

    public const FAILED = 'failed';

    protected $guarded = [];

    protected $attributes = ['state' => self::WAITING, 'rows' => 0, 'says' => ''];
}
