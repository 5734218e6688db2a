<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\User;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\SourcePart;
use Illuminate\Support\Facades\DB;

/** Shapes how sources fare for the API. */
final class SourceResource
{
    /** @return list<array{code: string, name: string, says: string}> the sources of a person’s groups that do not work */
    public static function troubled(Design $design, User $user): array
    {
        $says = DB::table('source_states')->where('says', '<>', '')->pluck('says', 'source');
        $troubled = [];
        foreach ($design->parts(SourcePart::class) as $code => $source) {
            if (isset($says[$code]) && in_array($source->group, $user->groupNames(), true)) {
                $troubled[] = ['code' => (string) $code, 'name' => $source->name, 'says' => (string) $says[$code]];
            }
        }

        return $troubled;
    }
}
