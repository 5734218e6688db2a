<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\Delivery;

final class FilesFormat extends DeliveryFormat
{
    public function __construct()
    {
        parent::__construct('zip', 'Files in folders', 'A ZIP of the files.', 'zip');
    }

    public function levels(): string
    {
        return 'Folders';
    }

    public function pack(Delivery $delivery, DeliveryFolder $folder, Packing $packing): string
    {
        return $folder->zipped('', "{$packing->place}/files.zip");
    }
}
