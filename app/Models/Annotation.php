<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Pages\AnnotationKind;
use Brenvic\Core\Pages\Box;
use Brenvic\Core\Pages\Overlay;
use Brenvic\Core\Versions\Quote;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\SoftDeletes;

/**
 * Something laid over a page of a document.
 *
 * @property int $id
 * @property int $document_id
 * @property int $version
 * @property int $page
 * @property AnnotationKind $kind
 * @property list<list<float>> $boxes
 * @property list<list<array{float, float}>> $strokes
 * @property int|null $start
 * @property int|null $length
 * @property string $exact
 * @property string $prefix
 * @property string $suffix
 * @property string $text
 * @property bool $is_folded
 * @property bool $is_private
 * @property bool $is_lost
 * @property int $user_id
 * @property int $lock_version
 * @property \Illuminate\Support\Carbon $updated_at
 * @property-read User $user
 * @property-read Document $document
 */
final class Annotation extends Model
{
    use SoftDeletes;

    protected $table = 'annotations';

    protected $guarded = [];

    protected $attributes = [
        'boxes' => '[]',
        'strokes' => '[]',
        'exact' => '',
        'prefix' => '',
        'suffix' => '',
        'text' => '',
        'is_folded' => false,
        'is_private' => false,
        'is_lost' => false,
        'lock_version' => 1,
    ];

    protected $casts = [
        'kind' => AnnotationKind::class,
        'boxes' => 'array',
        'strokes' => 'array',
        'is_folded' => 'boolean',
        'is_private' => 'boolean',
        'is_lost' => 'boolean',
    ];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /** @return BelongsTo<Document, $this> */
    public function document(): BelongsTo
    {
        return $this->belongsTo(Document::class);
    }

    public function quote(): Quote
    {
        return new Quote($this->exact, $this->prefix, $this->suffix);
    }

    public function overlay(): Overlay
    {
        return new Overlay(
            $this->kind,
            array_map(Box::of(...), $this->boxes),
            $this->strokes,
            $this->text,
            $this->user->name,
            $this->updated_at->toDateTimeImmutable(),
            "brenvic-{$this->id}",
            $this->is_folded,
        );
    }
}
