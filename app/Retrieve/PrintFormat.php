<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\Delivery;

final class PrintFormat extends DeliveryFormat
{
    public function __construct()
    {
        parent::__construct('print', 'Print job', 'One PDF with a cover sheet before each document.', 'pdf');
    }

    public function hasNames(): bool
    {
        return false;
    }

    public function isShown(): bool
    {
        return true;
    }

    public function pack(Delivery $delivery, DeliveryFolder $folder, Packing $packing): ?string
    {
        return (new OnePdf($delivery, $packing->place, true))->make($packing->goesOn);
    }
}
