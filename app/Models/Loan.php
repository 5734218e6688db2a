<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A copy lent to a team space outside.
 *
 * @property int $id
 * @property int $document_id
 * @property int $version the version that was lent
 * @property int $user_id who lent it
 * @property string $borrower
 * @property DeliveryForm $form
 * @property string $key
 * @property string $sha256 of the copy as it was lent
 * @property \Illuminate\Support\Carbon|null $due_on
 * @property string $state
 * @property string $says why it did not come back
 * @property int|null $returned_version
 * @property \Illuminate\Support\Carbon $lent_at
 * @property \Illuminate\Support\Carbon|null $ended_at
 * @property-read Document $document
 * @property-read User $user
 */
final class Loan extends Model
{
    protected $table = 'loans';

    public const LENT = 'lent';

    /** It came back, and the document has got another version meanwhile: somebody has to decide. */
    public const CONFLICT = 'conflict';

    public const RETURNED = 'returned';

    public const ENDED = 'ended';

    public $timestamps = false;

    protected $guarded = [];

    protected $attributes = ['says' => '', 'state' => self::LENT];

    protected $casts = ['form' => DeliveryForm::class, 'due_on' => 'date', 'lent_at' => 'datetime', 'ended_at' => 'datetime'];

    /** @return BelongsTo<Document, $this> */
    public function document(): BelongsTo
    {
        return $this->belongsTo(Document::class);
    }

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    public function isOpen(): bool
    {
        return $this->state === self::LENT || $this->state === self::CONFLICT;
    }
}
