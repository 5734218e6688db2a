<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Support\Facades\DB;

/** What the office has set, or what is noted for all of it, by name. */
final class OfficeSetting
{
    /** @return mixed null where nothing was set */
    public static function get(string $name): mixed
    {
        return json_decode((string) DB::table('office_settings')->where('name', $name)->value('value'), true);
    }

    public static function put(string $name, mixed $value): void
    {
        DB::table('office_settings')->upsert(['name' => $name, 'value' => json_encode($value)], ['name'], ['value']);
    }
}
