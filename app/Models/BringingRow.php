<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One file or row of what somebody brings in.
 *
 * @property int $id
 * @property int $bringing_id
 * @property string $source path of the file within the folder, or what the row names it by
 * @property string $outcome
 * @property string $note
 * @property array{type: string, values: array<string, list<string>>, dossiers: array<string, array<string, list<string>>>}|null $sheet
 * @property int|null $document_id
 * @property int|null $lock_version of the document, as this left it
 * @property array<string, mixed>|null $before what the document was before this changed it
 */
final class BringingRow extends Model
{
    protected $table = 'bringing_rows';

    /** A file that comes in. */
    public const NEW = 'new';

    /** A file that no row names. */
    public const REST = 'rest';

    /** A row that names no file there. */
    public const MISSING = 'missing';

    /** In already, and its row says what it said. */
    public const KNOWN = 'known';

    /** In already, and its row says something else now. */
    public const CHANGED = 'changed';

    /** Brought in by this. */
    public const IN = 'in';

    /** Its document was changed by this. */
    public const ALTERED = 'altered';

    public const REFUSED = 'refused';

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['sheet' => 'array', 'before' => 'array'];
}
