<?php

declare(strict_types=1);

namespace App\Models;

use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Contracts\Database\Eloquent\CastsAttributes;
use Illuminate\Database\Eloquent\Model;

/**
 * A column with a search, as JSON.
 *
 * @implements CastsAttributes<KeptSearch, KeptSearch|array<string, mixed>>
 */
final class AsKeptSearch implements CastsAttributes
{
    /** @param  array<string, mixed>  $attributes */
    public function get(Model $model, string $key, mixed $value, array $attributes): ?KeptSearch
    {
        return $value === null ? null : KeptSearch::of((array) json_decode((string) $value, true));
    }

    /** @param  array<string, mixed>  $attributes */
    public function set(Model $model, string $key, mixed $value, array $attributes): ?string
    {
        $search = is_array($value) ? KeptSearch::of($value) : $value;

        return $search === null ? null : json_encode($search, JSON_THROW_ON_ERROR);
    }
}
