<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Pages\Box;
use Brenvic\Core\Pages\Hit;
use Brenvic\Core\Redaction\Mark;
use Brenvic\Core\Versions\Quote;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Something that is removed from a page of a document.
 *
 * @property int $id
 * @property int $document_id
 * @property int $version
 * @property int $page
 * @property int|null $start
 * @property int|null $length
 * @property list<list<float>>|null $areas
 * @property string $exact
 * @property string $prefix
 * @property string $suffix
 * @property string $reason
 * @property int|null $made_by
 * @property \Illuminate\Support\Carbon $made_at
 * @property int|null $checked_by
 * @property \Illuminate\Support\Carbon|null $checked_at
 * @property bool $is_lost
 * @property-read User|null $maker
 * @property-read User|null $checker
 */
final class Redaction extends Model
{
    protected $table = 'redactions';

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['areas' => 'array', 'made_at' => 'datetime', 'checked_at' => 'datetime', 'is_lost' => 'boolean'];

    /** @return BelongsTo<User, $this> */
    public function maker(): BelongsTo
    {
        return $this->belongsTo(User::class, 'made_by');
    }

    /** @return BelongsTo<User, $this> */
    public function checker(): BelongsTo
    {
        return $this->belongsTo(User::class, 'checked_by');
    }

    public function mark(): Mark
    {
        return new Mark(
            $this->start === null ? null : new Hit($this->start, (int) $this->length),
            array_map(Box::of(...), $this->areas ?? []),
            $this->reason,
        );
    }

    public function quote(): Quote
    {
        return new Quote($this->exact, $this->prefix, $this->suffix);
    }
}
