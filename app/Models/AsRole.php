<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Contracts\Database\Eloquent\CastsAttributes;
use Illuminate\Database\Eloquent\Model;

/** @implements CastsAttributes<Role, Role|string> */
final class AsRole implements CastsAttributes
{
    public bool $withoutObjectCaching = true;

    public function get(Model $model, string $key, mixed $value, array $attributes): Role
    {
        return app(Roles::class)->of((string) $value);
    }

    public function set(Model $model, string $key, mixed $value, array $attributes): string
    {
        return $value instanceof Role ? $value->code : (string) $value;
    }
}
