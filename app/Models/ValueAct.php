<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One field of many documents changed in one act.
 *
 * @property int $id
 * @property int $user_id
 * @property string $field code
 * @property string $how set, add, take or clear
 * @property list<string> $given normal forms
 * @property string $state
 * @property string $stopped why it stopped by itself; empty while it goes on
 * @property int $total
 * @property int $done
 * @property int $skipped documents that were changed by somebody else, or held, in the meantime
 * @property \Illuminate\Support\Carbon $created_at
 */
final class ValueAct extends Model
{
    protected $table = 'value_acts';

    public const RUNNING = 'running';

    public const DONE = 'done';

    public const UNDOING = 'undoing';

    public const UNDONE = 'undone';

    protected $guarded = [];

    protected $attributes = ['given' => '[]', 'state' => self::RUNNING, 'total' => 0, 'done' => 0, 'skipped' => 0, 'stopped' => ''];

    protected $casts = ['given' => 'array'];
}
