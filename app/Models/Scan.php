<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A stack that is scanned, or was.
 *
 * @property int $id
 * @property int $user_id
 * @property string $source
 * @property array{dots: int, colour: bool, duplex: bool, fed: bool} $settings
 * @property string $state
 * @property string $says what somebody has to do at the scanner, or why it failed
 * @property string $job
 * @property int|null $document_id
 */
final class Scan extends Model
{
    protected $table = 'scans';

    public const RUNNING = 'running';

    /** Something is to be done at the scanner; what came is kept. */
    public const STOPPED = 'stopped';

    public const DONE = 'done';

    protected $guarded = [];

    protected $attributes = ['says' => '', 'job' => ''];

    protected $casts = ['settings' => 'array'];
}
