<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Import\BringIn;
use App\Models\Bringing;

/** Shapes what somebody brings in for the API. */
final class BringingResource
{
    /** @return array<string, mixed> */
    public static function of(Bringing $bringing, string $library): array
    {
        return [
            'library' => $library,
            'what' => $bringing->what,
            'file_name' => $bringing->file_name,
            'state' => $bringing->state,
            'says' => $bringing->says,
            'with_rest' => $bringing->with_rest,
            'counts' => BringIn::counts($bringing),
        ];
    }
}
