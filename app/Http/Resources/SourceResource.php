<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\User;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\SourcePart;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** Shapes how sources fare for the API. */
final class SourceResource
{
    /**
     * How all sources fare that bring documents into libraries which a person may enter.
     *
     * @param  list<string>  $libraries  their codes
     * @return list<array{code: string, name: string, way: string, says: string, looked_at: string|null, again_at: string|null}>
     */
    public static function faring(Design $design, array $libraries): array
    {
        $states = DB::table('source_states')->get()->keyBy('source');
        $iso = static fn (mixed $at): ?string => $at === null ? null : Carbon::parse((string) $at)->toIso8601String();
        $faring = [];
        foreach ($design->parts(SourcePart::class) as $code => $source) {
            $state = $states->get((string) $code);
            if (in_array($source->library, $libraries, true)) {
                $faring[] = [
                    'code' => (string) $code,
                    'name' => $source->name,
                    'way' => $source->way,
                    'says' => (string) ($state->says ?? ''),
                    'looked_at' => $iso($state?->looked_at),
                    'again_at' => $iso($state?->again_at),
                ];
            }
        }

        return $faring;
    }

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
