<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Access\WaitingSight;
use App\Catalog\Catalog;
use App\Find\Places;
use App\Find\SavedSearches;
use App\Http\Resources\InProgressResource;
use App\Models\Document;
use App\Models\Library;
use App\Models\PersonalView;
use App\Models\Right;
use App\Models\User;
use Brenvic\Core\Design\ViewPart;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Collection;

/** The start page: what was read last, what came in last, the libraries with their counts. */
final readonly class DeskController
{
    private const ROWS = 8;

    /** How many documents are looked through for those that a person may see. */
    private const WALK = 2_000;

    public function __construct(
        private Catalog $catalog,
        private Places $places,
        private Rights $rights,
        private SavedSearches $searches,
        private InProgressResource $inProgress,
    ) {
    }

    public function __invoke(Request $request): JsonResponse
    {
        $user = User::of($request);
        $mine = array_keys($user->libraryRights());
        $libraries = [];
        $shown = $this->catalog->libraries()->only($mine);
        $counts = $this->places->counts(
            $user,
            $shown
                ->mapWithKeys(static fn (Library $l): array => [$l->code => Printer::node(new SearchClause('library', '==', $l->code))])
                ->all(),
        );
        foreach ($shown as $library) {
            $libraries[] = [
                'code' => $library->code,
                'name' => $library->name,
                'repository' => $library->repository->name,
                'note' => $library->note,
                'documents' => $counts[$library->code] ?? 0,
            ];
        }
        $all = Document::query()->where('state', Document::FILED)->whereIntegerInRaw('library_id', $mine);
        $filed = (clone $all)->whereNull('parent_id');
        $shared = $this->catalog->viewsFor($user);
        $views = [
            ...$shared,
            ...PersonalView::query()
                ->where('user_id', $user->id)
                ->get()
                ->mapWithKeys(static fn (PersonalView $v): array => [$v->code => ViewPart::of($v->code, $v->content)])
                ->all(),
        ];
        $read = (clone $filed)
            ->join('recent_documents', 'recent_documents.document_id', '=', 'documents.id')
            ->where('recent_documents.user_id', $user->id)
            ->orderByDesc('read_at')
            ->limit(self::ROWS * 4)
            ->select('documents.*', 'read_at as moment')
            ->get();
        $sight = $this->rights->sight($user);
        $new = self::lastFiled($filed, $sight);
        $read = $read->filter(static fn (Document $d): bool => $sight->has($d->id))->take(self::ROWS)->values();
        $row = fn (Document $document): array => [
            'ref' => $document->ref,
            'title' => $document->title,
            'library' => $this->catalog->libraries()->get($document->library_id)->name ?? '',
            'type' => $this->catalog->types()->get((int) $document->document_type_id)->name ?? '',
            'moment' => $document->getAttribute('moment'),
            'reading' => $document->text_state === 'pending',
        ];

        return new JsonResponse([
            'libraries' => $libraries,
            'pinned' => (clone $all)
                ->join('pinned_documents', 'pinned_documents.document_id', '=', 'documents.id')
                ->where('pinned_documents.user_id', $user->id)
                ->orderByDesc('pinned_at')
                ->limit(40)
                ->select('documents.*', 'pinned_at as moment')
                ->get()
                ->filter(static fn (Document $d): bool => $sight->has($d->id))
                ->values()
                ->map($row)
                ->all(),
            'searches' => $this->searches->shaped($user),
            'recent' => array_slice(SavedSearchController::recents($user), 0, self::ROWS),
            // A view in which there is nothing for this person is not there for them.
            'views' => (object) array_filter(
                $this->places->counts($user, array_map(static fn (ViewPart $v): string => $v->criterion, $views)),
                static fn (int $count, string $code): bool => $count > 0 || ! isset($shared[$code]),
                ARRAY_FILTER_USE_BOTH,
            ),
            'read' => $read->map($row)->all(),
            'filed' => $new->map($row)->all(),
            'waiting' => $user->may(Right::File)
                ? WaitingSight::of($user)->where('state', Document::WAITING)->whereNull('parent_id')->count()
                : 0,
            'in_progress' => $this->inProgress->of($user),
            'reading' => $this->places->counts($user, ['reading' => 'text_state == pending'])['reading'],
        ]);
    }

    /**
     * What was filed last of what a person may see. Who may see next to nothing of it gets the newest documents instead of a
     * walk through all.
     *
     * @param  Builder<Document>  $filed
     * @return Collection<int, Document>
     */
    private static function lastFiled(Builder $filed, DocumentSet $sight): Collection
    {
        $byTime = (clone $filed)->whereNotNull('filed_at')->orderByDesc('filed_at')->orderByDesc('id');
        $last = (clone $byTime)
            ->select('id')
            ->limit(self::WALK)
            ->toBase()
            ->cursor()
            ->map(static fn (object $row): int => (int) $row->id)
            ->filter($sight->has(...))
            ->take(self::ROWS)
            ->all();
        $ids = count($last) < self::ROWS ? $sight->newest(0, self::WALK) : $last;

        return $byTime
            ->whereIntegerInRaw('id', $ids)
            ->limit(self::ROWS)
            ->select('documents.*', 'filed_at as moment')
            ->get();
    }
}
