<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A table or folder tree that somebody gave, and the design proposed from it. Each person has one at a time.
 *
 * @property int $id
 * @property int $user_id
 * @property string $name what the document types and the view are called, when the table does not say
 * @property string $file_name
 * @property string $what whether the file is a table or names the paths of a folder tree
 * @property string $state
 * @property int $rows read so far
 * @property string $says why it could not be read
 * @property string|null $found see Design\Proposals
 * @property string|null $mapping see Design\Proposals
 * @property array<string, array<string, mixed>>|null $decided see Design\ProposalChoices, by the name of the column
 */
final class Proposal extends Model
{
    protected $table = 'proposals';

    public const TABLE = 'table';

    public const FOLDERS = 'folders';

    public const WAITING = 'waiting';

    public const READY = 'ready';

    public const FAILED = 'failed';

    protected $guarded = [];

    protected $casts = ['decided' => 'array'];

    protected $attributes = ['what' => self::TABLE, 'state' => self::WAITING, 'rows' => 0, 'says' => ''];
}
