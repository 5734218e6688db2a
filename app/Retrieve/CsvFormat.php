<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\Delivery;

final class CsvFormat extends DeliveryFormat
{
    public function __construct()
    {
        parent::__construct('csv', 'CSV table', 'The index values of each document.', 'csv');
    }

    public function hasFiles(): bool
    {
        return false;
    }

    public function hasTable(): bool
    {
        return true;
    }

    public function isForSpreadsheet(): bool
    {
        return true;
    }

    public function pack(Delivery $delivery, DeliveryFolder $folder, Packing $packing): string
    {
        return $packing->table;
    }
}
