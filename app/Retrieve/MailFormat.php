<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\Delivery;

final class MailFormat extends DeliveryFormat
{
    public function __construct()
    {
        parent::__construct('mail', 'Mail', 'A message with the files attached, put in the outbox.', 'eml');
    }

    public function isSent(): bool
    {
        return true;
    }

    public function pack(Delivery $delivery, DeliveryFolder $folder, Packing $packing): string
    {
        return MailFile::make($delivery, $delivery->contents(), $packing->place);
    }

    public function done(Delivery $delivery): void
    {
        MailFile::post($delivery);
    }
}
