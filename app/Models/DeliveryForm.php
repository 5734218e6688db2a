<?php

declare(strict_types=1);

namespace App\Models;

/** How a document leaves. */
enum DeliveryForm: string
{
    case AsItIs = 'plain';
    case Annotated = 'annotated';
    case Redacted = 'redacted';
    case Both = 'both';

    public function words(): string
    {
        return match ($this) {
            self::AsItIs => 'as it is',
            self::Annotated => 'with annotations',
            self::Redacted => 'redacted',
            self::Both => 'redacted, with annotations',
        };
    }

    public function isRedacted(): bool
    {
        return $this === self::Redacted || $this === self::Both;
    }

    public function isAnnotated(): bool
    {
        return $this === self::Annotated || $this === self::Both;
    }
}
