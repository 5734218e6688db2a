<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Fixity\Fixity;
use App\Fixity\ReadFiles;
use App\Health\Check;
use App\Health\Health;
use App\Index\IndexState;
use App\Index\RebuildIndex;
use App\Models\Document;
use App\Models\StoredFile;
use App\Models\User;
use App\Support\Refused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** Whether everything is still there bit by bit, and found. */
final readonly class CollectionHealthController
{
    private const SHOWN = 200;

    public function __construct(private Rights $rights)
    {
    }

    public function index(Request $request): JsonResponse
    {
        return $this->shaped(User::of($request));
    }

    public function readFiles(Request $request): JsonResponse
    {
        Fixity::begin();
        ReadFiles::begin();

        return $this->shaped(User::of($request));
    }

    public function restore(Request $request, string $sha256, Fixity $fixity): JsonResponse
    {
        $fixity->restore(User::of($request), $sha256);

        return $this->shaped(User::of($request));
    }

    public function rebuild(Request $request): JsonResponse
    {
        if (IndexState::read()->building !== null && DB::table('jobs')->where('payload', 'like', '%RebuildIndex%')->exists()) {
            throw new Refused('The index is being made anew already.');
        }
        RebuildIndex::begin();

        return $this->shaped(User::of($request));
    }

    private function shaped(User $user): JsonResponse
    {
        $round = Fixity::last();
        $state = IndexState::read();
        $iso = static fn (mixed $at): ?string => $at === null ? null : Carbon::parse((string) $at)->toIso8601String();
        $filed = Document::query()->where('state', Document::FILED);

        return new JsonResponse([
            'files' => [
                'has_backup' => (string) config('brenvic.backup.folder') !== '',
                'round' => $round === null
                    ? null
                    : [
                        'begun_at' => $iso($round->begun_at),
                        'ended_at' => $iso($round->ended_at),
                        'percent' => $round->ended_at === null ? self::percent((int) $round->files, StoredFile::query()->count()) : 100,
                    ],
                'faults' => array_values(
                    DB::table('file_faults')
                        ->orderByDesc('found_at')
                        ->limit(self::SHOWN)
                        ->get()
                        ->map(fn (object $fault): array => [
                            'sha256' => $fault->sha256,
                            'fault' => $fault->fault,
                            'found_at' => $iso($fault->found_at),
                            'documents' => $this->documents($user, (string) $fault->sha256),
                        ])
                        ->all(),
                ),
            ],
            'index' => [
                'building' => $state->building !== null,
                'percent' => $state->building === null
                    ? 100
                    : self::percent((clone $filed)->where('id', '<=', $state->reached)->count(), (clone $filed)->count()),
            ],
            'checks' => array_map(static fn (Check $check): array => $check->toArray(), Health::checks()),
        ]);
    }

    /** How many there are would tell of what a person may not see: how far it has come does not. */
    private static function percent(int $done, int $all): int
    {
        return (int) min(100, intdiv(100 * $done, max(1, $all)));
    }

    /** @return list<array{ref: string, title: string}> that the person may see */
    private function documents(User $user, string $sha256): array
    {
        $seen = $this->rights->seen($user, Fixity::documents($sha256));

        return array_values(
            Document::query()
                ->whereIntegerInRaw('id', $seen)
                ->get(['ref', 'title'])
                ->map(static fn (Document $of): array => ['ref' => $of->ref, 'title' => $of->title])
                ->all(),
        );
    }
}
