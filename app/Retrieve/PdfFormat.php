<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\Delivery;

final class PdfFormat extends DeliveryFormat
{
    public function __construct()
    {
        parent::__construct('pdf', 'One PDF', 'All pages behind a page of contents, with bookmarks.', 'pdf');
    }

    public function levels(): string
    {
        return 'Bookmarks';
    }

    public function hasNames(): bool
    {
        return false;
    }

    public function pack(Delivery $delivery, DeliveryFolder $folder, Packing $packing): ?string
    {
        return (new OnePdf($delivery, $packing->place, false))->make($packing->goesOn);
    }
}
