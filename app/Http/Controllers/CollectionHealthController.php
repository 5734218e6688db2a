<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Faults\FailedWork;
use App\Fixity\Fixity;
use App\Fixity\ReadFiles;
use App\Health\Check;
use App\Health\Health;
use App\Health\Memory;
use App\Health\Tools;
use App\Http\Resources\SourceResource;
use App\Index\CompareIndex;
use App\Index\Comparison;
use App\Index\IndexState;
use App\Index\RebuildIndex;
use App\Models\Document;
use App\Models\Reindexing;
use App\Models\StoredFile;
use App\Models\User;
use App\Remote\RemoteFault;
use App\Remote\RemoteRepositories;
use App\Remote\RemoteRepository;
use App\Remote\RemoteServer;
use App\Retrieve\Posting;
use App\Support\Column;
use App\Support\Refused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;

/** Whether everything is still there bit by bit, and found. */
final readonly class CollectionHealthController
{
    private const SHOWN = 200;

    public function __construct(
        private Rights $rights,
        private Catalog $catalog,
        private RemoteRepositories $remotes,
        private FailedWork $failed,
    ) {
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

    public function compare(Request $request): JsonResponse
    {
        Comparison::begin();
        CompareIndex::begin();

        return $this->shaped(User::of($request));
    }

    /** What failed with a document is tried again. */
    public function again(Request $request, FailedWork $failed): JsonResponse
    {
        $user = User::of($request);
        $input = $request->validate(['what' => ['required', Rule::in(FailedWork::AGAIN)], 'document' => 'required|string|max:40']);
        $document = Document::query()->where('ref', $input['document'])->where('state', Document::FILED)->first();
        abort_if($document === null || ! $this->rights->sees($user, $document), 404);
        $failed->again($document, (string) $input['what']);

        return $this->shaped($user);
    }

    /** Mail that was given up is sent once more. */
    public function mail(Request $request): JsonResponse
    {
        Posting::again();

        return $this->shaped(User::of($request));
    }

    /** A source that failed is looked at with the next look, and not after its wait. */
    public function source(Request $request, string $source): JsonResponse
    {
        $user = User::of($request);
        abort_unless(in_array($source, array_column($this->sources($user), 'code'), true), 404);
        DB::table('source_states')
            ->where('source', $source)
            ->update(['again_at' => null]);

        return $this->shaped($user);
    }

    /** A repository elsewhere is asked now. */
    public function remote(Request $request, string $code, RemoteServer $server): JsonResponse
    {
        $user = User::of($request);
        $repository = $this->remotes->get($user, $code);
        $server->forget($repository);
        try {
            $server->explain($repository);
        } catch (RemoteFault) {
            // What it says is noted, and told.
        }

        return $this->shaped($user);
    }

    /** @return list<array{code: string, name: string, way: string, says: string, looked_at: string|null, again_at: string|null}> */
    private function sources(User $user): array
    {
        $libraries = Column::texts($this->catalog->libraries()->only(array_keys($user->libraryRights()))->pluck('code'));

        return SourceResource::faring($this->catalog->design(), $libraries);
    }

    /** @return array<string, mixed>|null */
    private function comparison(User $user): ?array
    {
        $check = Comparison::last();
        if ($check === null) {
            return null;
        }
        $all = $check->ended_at === null ? [] : Comparison::differing($check);
        $differing = $this->rights->seen($user, $all);

        return [
            'begun_at' => self::iso($check->begun_at),
            'ended_at' => self::iso($check->ended_at),
            'percent' => Comparison::percent($check),
            'agrees' => $all === [],
            'differing' => count($differing),
            'documents' => $this->named(array_slice($differing, 0, self::SHOWN)),
        ];
    }

    private function shaped(User $user): JsonResponse
    {
        $round = Fixity::last();
        $state = IndexState::read();
        $filed = Document::query()->where('state', Document::FILED);

        return new JsonResponse([
            'files' => [
                'has_backup' => (string) config('brenvic.backup.folder') !== '',
                'round' => $round === null
                        ? null
                        : [
                            'begun_at' => self::iso($round->begun_at),
                            'ended_at' => self::iso($round->ended_at),
                            'percent' => $round->ended_at === null ? self::percent((int) $round->files, StoredFile::query()->count()) : 100,
                        ],
                'faults' => array_values(
                    DB::table('file_faults')
                        ->orderByDesc('found_at')
                        ->limit(self::SHOWN)
                        ->get()
                        ->map(
                            fn (object $fault): array => [
                                'sha256' => $fault->sha256,
                                'fault' => $fault->fault,
                                'found_at' => self::iso($fault->found_at),
                                'documents' => $this->documents($user, (string) $fault->sha256),
                            ],
                        )
                        ->all(),
                ),
            ],
            'index' => [
                'building' => $state->building !== null,
                'percent' => $state->building === null
                        ? 100
                        : self::percent((clone $filed)->where('id', '<=', $state->reached)->count(), (clone $filed)->count()),
                'comparison' => $this->comparison($user),
                'design_is_carried_out' => Reindexing::query()->where('state', Reindexing::RUNNING)->exists(),
                'memory' => Memory::says(),
            ],
            'sources' => $this->sources($user),
            'remotes' => array_values(
                array_map(
                    static fn (RemoteRepository $of): array => ['code' => $of->code, 'name' => $of->name, 'last' => RemoteServer::last($of)],
                    $this->remotes->of($user),
                ),
            ),
            'failed' => $this->failed->of($user),
            'mail_given_up' => Posting::hasGivenUp(),
            'tools' => Tools::noted(),
            'checks' => array_map(static fn (Check $check): array => $check->toArray(), Health::checks()),
        ]);
    }

    /** How many there are would tell of what a person may not see: how far it has come does not. */
    private static function percent(int $done, int $all): int
    {
        return (int) min(100, intdiv(100 * $done, max(1, $all)));
    }

    private static function iso(mixed $at): ?string
    {
        return $at === null ? null : Carbon::parse((string) $at)->toIso8601String();
    }

    /** @return list<array{ref: string, title: string}> that the person may see */
    private function documents(User $user, string $sha256): array
    {
        return $this->named($this->rights->seen($user, Fixity::documents($sha256)));
    }

    /**
     * @param  list<int>  $ids
     * @return list<array{ref: string, title: string}>
     */
    private function named(array $ids): array
    {
        return array_values(
            Document::query()
                ->whereIntegerInRaw('id', $ids)
                ->get(['ref', 'title'])
                ->map(static fn (Document $of): array => ['ref' => $of->ref, 'title' => $of->title])
                ->all(),
        );
    }
}
