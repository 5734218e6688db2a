<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonInterface;
use Illuminate\Database\Eloquent\Model;

/**
 * Files that somebody brings in by an accepted proposal: looked at first, then file by file. Each person has one at a time.
 *
 * @property int $id
 * @property int $user_id
 * @property int $library_id
 * @property string $what see Proposal
 * @property string $file_name of the register or folder
 * @property string $state
 * @property string $says why it could not be looked at
 * @property bool $with_rest whether files without a row come in too
 * @property string $mapping see Design\Proposals
 * @property int|null $act_id the act that undoes it
 * @property CarbonInterface $created_at
 * @property CarbonInterface $updated_at
 */
final class Bringing extends Model
{
    protected $table = 'bringings';

    public const LOOKING = 'looking';

    /** Looked at, and nothing done yet. */
    public const READY = 'ready';

    /** Begun: files are taken, and what a later table changed is changed. */
    public const OPEN = 'open';

    public const DONE = 'done';

    public const FAILED = 'failed';

    protected $guarded = [];

    protected $casts = ['with_rest' => 'boolean'];

    protected $attributes = ['state' => self::LOOKING, 'says' => '', 'with_rest' => false];
}
