<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\Delivery;

/** All formats of deliveries, in the order in which they are offered. A new one is a class of its own, and a line here. */
final class DeliveryFormats
{
    private const CLASSES = [
        BagFormat::class,
        FilesFormat::class,
        PdfFormat::class,
        PrintFormat::class,
        MailFormat::class,
        CsvFormat::class,
        OdsFormat::class,
    ];

    /** @return array<string, DeliveryFormat> by code */
    public static function all(): array
    {
        $formats = array_map(static fn (string $class): DeliveryFormat => app($class), self::CLASSES);

        return array_column($formats, null, 'value');
    }

    public static function of(Delivery $delivery): DeliveryFormat
    {
        return self::all()[$delivery->format];
    }

    /** @return list<string> */
    public static function codes(): array
    {
        return array_map(strval(...), array_keys(self::all()));
    }
}
