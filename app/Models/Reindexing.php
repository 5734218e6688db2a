<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * The work on the index that a publication left: which documents, and how far it is.
 *
 * @property int $id
 * @property string $name
 * @property list<int> $fields ids
 * @property list<int> $types ids
 * @property list<string> $dossier_kinds codes
 * @property list<int> $libraries ids
 * @property int $reached the last document done
 * @property int $done
 * @property int $total
 * @property string $state
 * @property string $says why it stopped by itself
 * @property bool $only_retention whether nothing but how long they are kept is brought up to date
 */
final class Reindexing extends Model
{
    protected $table = 'reindexings';

    public const RUNNING = 'running';

    public const STOPPED = 'stopped';

    public const DONE = 'done';

    protected $guarded = [];

    protected $casts = ['fields' => 'array', 'types' => 'array', 'dossier_kinds' => 'array', 'libraries' => 'array', 'only_retention' => 'boolean'];

    protected $attributes = ['libraries' => '[]', 'reached' => 0, 'done' => 0, 'state' => self::RUNNING, 'says' => ''];
}
