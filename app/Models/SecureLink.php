<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A link by which somebody outside fetches a delivery or a document.
 *
 * @property int $id
 * @property string $token_hash
 * @property int $user_id
 * @property int|null $delivery_id
 * @property int|null $document_id
 * @property DeliveryForm $form how a document leaves
 * @property string $note
 * @property string|null $password
 * @property int $most_uses
 * @property int $uses
 * @property \Illuminate\Support\Carbon $expires_at
 * @property \Illuminate\Support\Carbon|null $revoked_at
 * @property-read Delivery|null $delivery
 * @property-read Document|null $document
 * @property-read User $user
 */
final class SecureLink extends Model
{
    protected $table = 'secure_links';

    protected $guarded = [];

    protected $attributes = ['note' => '', 'uses' => 0, 'form' => 'plain'];

    protected $casts = ['form' => DeliveryForm::class, 'expires_at' => 'datetime', 'revoked_at' => 'datetime', 'password' => 'hashed'];

    /** @return BelongsTo<Delivery, $this> */
    public function delivery(): BelongsTo
    {
        return $this->belongsTo(Delivery::class);
    }

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
        return $this->revoked_at === null && $this->expires_at->isFuture() && $this->uses < $this->most_uses;
    }
}
