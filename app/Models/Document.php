<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Fields\CheckCharacter;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Database\Eloquent\SoftDeletes;

/**
 * One record: its file, its index values, its text.
 *
 * @property int $id
 * @property string $ref
 * @property int $library_id
 * @property int|null $document_type_id
 * @property int|null $parent_id
 * @property string $title
 * @property string $file_name
 * @property array<string, array{was: string, now: string}>|null $names_before names that words were taken out of, since they are removed from the document
 * @property string $path
 * @property string $file_kind
 * @property string $sha256
 * @property int $bytes
 * @property string $state
 * @property string|null $said_language what a person said
 * @property string|null $told_language what is told from the text
 * @property string $text_state
 * @property string $text_reason
 * @property int $page_count
 * @property int|null $drawn_pages of an office file: how many of its pages were drawn; null while that is not settled
 * @property int|null $created_by
 * @property string|null $source the code of the source that it came from
 * @property string|null $intake_group who sees it while it waits; null for who brought it in
 * @property string|null $intake_note what of its values was left out when it arrived
 * @property string|null $intake_dossier the dossier that its separator sheet named
 * @property float|null $ocr_confidence how sure OCR is of its words, in per cent; null for what it did not read
 * @property bool $wants_layer whether the words that are read of its pages are to be put into its PDF
 * @property \Illuminate\Support\Carbon|null $filed_at
 * @property \Illuminate\Support\Carbon $created_at
 * @property int $lock_version
 * @property \Illuminate\Support\Carbon|null $deleted_at
 * @property int $version the number of the present version
 * @property bool $is_template
 * @property int|null $locked_by_case the case of a procedure that keeps it from being changed
 * @property string|null $kept_from a day, from which it is kept as long as its rule says
 * @property string|null $kept_until a day, to which it was put off
 * @property string|null $exempt_reason why it does not fall due at all
 * @property list<string>|null $withheld_by of what was removed: the access rules that kept it from somebody then
 * @property \Illuminate\Support\Carbon|null $destroyed_at what is left of it is a stub
 * @property string|null $exchange of a mail: what all mails of its exchange have alike
 * @property-read Library $library
 * @property-read DocumentType|null $type
 * @property-read Document|null $parent
 * @property-read User|null $creator
 * @property-read \Illuminate\Database\Eloquent\Collection<int, Document> $attachments
 */
final class Document extends Model
{
    protected $table = 'documents';

    protected $guarded = [];

    use SoftDeletes;

    public const WAITING = 'waiting';

    public const FILED = 'filed';

    public const TEXT_PENDING = 'pending';

    public const TEXT_READ = 'read';

    public const TEXT_NONE = 'none';

    /** Of what is left of a destroyed document. */
    public const TEXT_DESTROYED = 'destroyed';

    protected $attributes = [
        'path' => '',
        'text_reason' => '',
        'page_count' => 0,
        'lock_version' => 1,
        'version' => 1,
        'is_template' => false,
        'wants_layer' => false,
    ];

    protected $casts = ['filed_at' => 'datetime', 'is_template' => 'boolean', 'destroyed_at' => 'datetime', 'wants_layer' => 'boolean', 'names_before' => 'array', 'withheld_by' => 'array'];

    protected static function booted(): void
    {
        self::created(function (self $document): void {
            $document
                ->newQuery()
                ->whereKey($document->id)
                ->update(['ref' => self::refOf($document->id)]);
            $document->setAttribute('ref', self::refOf($document->id))->syncOriginalAttribute('ref');
        });
    }

    /** The reference of the document with an id. */
    public static function refOf(int $id): string
    {
        $number = sprintf('D-%05d-', $id);

        return $number.CheckCharacter::for($number);
    }

    /** @return BelongsTo<Library, $this> */
    public function library(): BelongsTo
    {
        return $this->belongsTo(Library::class);
    }

    /** @return BelongsTo<DocumentType, $this> */
    public function type(): BelongsTo
    {
        return $this->belongsTo(DocumentType::class, 'document_type_id');
    }

    /** @return BelongsTo<Document, $this> */
    public function parent(): BelongsTo
    {
        return $this->belongsTo(self::class, 'parent_id');
    }

    /** @return BelongsTo<User, $this> */
    public function creator(): BelongsTo
    {
        return $this->belongsTo(User::class, 'created_by');
    }

    /** @return HasMany<Document, $this> */
    public function attachments(): HasMany
    {
        return $this->hasMany(self::class, 'parent_id')->orderBy('id');
    }

    /** Of its text, as TextLanguage has them; null where it is not known. */
    public function language(): ?string
    {
        return $this->said_language ?? $this->told_language;
    }
}
