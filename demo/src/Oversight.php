<?php

declare(strict_types=1);

namespace Demo;

use App\Catalog\Catalog;
use App\Catalog\DesignTables;
use App\Design\PartShape;
use App\Disposal\Disposals;
use App\Disposal\WorkOnDisposal;
use App\Dossiers\DossierFiling;
use App\Holds\Holding;
use App\Index\Indexer;
use App\Models\Disposal;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Retention\Disposal\Decision;
use Brenvic\Core\Retention\RetentionAction;
use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Support\Carbon;

/** What the Trust keeps how long beside the rules of its scheme, what it holds, and disposals in every state. */
final class Oversight
{
    private const TYPES = [
        'passage_log' => [
            'after' => 'document_date',
            'years' => 5,
            'from' => 'year',
            'action' => 'destroy',
            'authority' => 'Harbour master’s standing instructions, 7.3',
        ],
        'site_diary' => ['after' => 'dossier_closed', 'years' => 6, 'action' => 'destroy', 'authority' => 'Standing orders of the Trust, 14.5'],
        'quotation' => ['after' => 'document_date', 'years' => 6, 'action' => 'destroy', 'authority' => 'Standing orders of the Trust, 14.2'],
        'pilotage_note' => ['after' => 'document_date', 'years' => 3, 'action' => 'review'],
        'weed_silt_report' => [
            'after' => 'document_date',
            'years' => 12,
            'action' => 'hand_over',
            'authority' => 'Agreement with the county archive, schedule 2',
        ],
    ];

    public static function install(): void
    {
        $design = app(Catalog::class)->design();
        foreach (self::TYPES as $code => $rule) {
            $before = $design->part(DesignKind::Type, $code);
            $before === null || app(DesignTables::class)->apply(
                new DesignChange(DesignKind::Type, $code, $before, PartShape::complete(DesignKind::Type, [...$before, 'retention' => $rule])),
                2,
            );
        }
        app()->forgetScopedInstances();
        foreach (array_chunk(Column::numbers(Document::query()->where('state', Document::FILED)->pluck('id')), 1_000) as $ids) {
            app(Indexer::class)->retention($ids);
        }
    }

    /** @return array{int, int} how many holds and disposals there are */
    public static function make(): array
    {
        foreach (Dossier::query()->orderBy('id')->get()->filter(static fn (Dossier $d): bool => $d->id % 3 === 0) as $dossier) {
            app(DossierFiling::class)->close($dossier, true, self::person('librarian'));
        }

        return [self::holds(), self::disposals()];
    }

    private static function holds(): int
    {
        $holding = app(Holding::class);
        $people = static fn (string ...$signIn): array => array_values(array_map(static fn (string $of): int => self::person($of)->id, $signIn));
        $breach = $holding->make(
            self::person('manager'),
            'The breach at the Oxbeck aqueduct',
            'The insurer of the boatyard claims for the flood; the solicitors ask for all that the board had about it.',
            Carbon::now()->subMonths(4)->toDateString(),
            null,
            $people('clerk', 'works', 'engineer'),
            search: KeptSearch::of(['words' => 'Oxbeck breach', 'criteria' => [['cql' => 'library == board']]]),
        );
        $holding->acknowledge(self::person('clerk'), $breach);
        $holding->acknowledge(self::person('works'), $breach);
        $refs = Column::texts(
            Document::query()->where('state', Document::FILED)->whereRelation('type', 'code', 'incident_report')->orderBy('id')->limit(7)->pluck('ref'),
        );
        $holding->make(
            self::person('librarian'),
            'Inquiry into collisions at the swing bridge',
            'The harbour board inquires into the collisions of the last years.',
            Carbon::now()->subMonths(2)->toDateString(),
            Carbon::now()->addMonths(7)->toDateString(),
            $people('harbour'),
            $refs,
        );
        $ended = $holding->make(
            self::person('librarian'),
            'Wages of the lock keepers',
            'A claim before the tribunal.',
            Carbon::now()->subYear()->toDateString(),
            null,
            [],
            array_slice($refs, 0, 2),
        );
        $holding->end(self::person('manager'), $ended, 'The claim was withdrawn.');

        return 3;
    }

    private static function disposals(): int
    {
        $types = ['stoppage_notice' => 'Old stoppage notices', 'quotation' => 'Quotations that led to nothing', 'passage_log' => 'Passage logs'];
        $made = [];
        foreach ($types as $type => $name) {
            $until = Carbon::now()->subYears($type === 'stoppage_notice' ? 4 : 0)->toDateString();
            $made[] = self::prepared($name, $type, $until);
        }
        [$done, $approval, $review] = $made;
        foreach ([$done, $approval] as $disposal) {
            self::reviewed($disposal);
        }
        $kept = $review->items()->where('state', Disposal::IN)->orderBy('id')->limit(1)->pluck('ref');
        app(Disposals::class)->review(self::person('librarian'), $review->refresh(), Column::texts($kept), Decision::Keep, 'Shown in the anniversary exhibition', null);
        if ($done->items()->where('state', Disposal::IN)->exists()) {
            app(Disposals::class)->approve(self::person('manager'), $done->refresh());
            self::worked($done);
        }

        return count($made);
    }

    private static function prepared(string $name, string $type, string $until): Disposal
    {
        $disposal = app(Disposals::class)->prepare(self::person('librarian'), $name, RetentionAction::Destroy, $until, ["type == {$type}"]);
        self::worked($disposal);

        return $disposal->refresh();
    }

    /** Most are released; one is postponed. */
    private static function reviewed(Disposal $disposal): void
    {
        $disposals = app(Disposals::class);
        $refs = Column::texts($disposal->items()->where('state', Disposal::IN)->orderBy('id')->pluck('ref'));
        if (count($refs) > 1) {
            $until = Carbon::now()->addYears(2)->toDateString();
            $disposals->review(self::person('librarian'), $disposal, [$refs[1]], Decision::Postpone, 'Asked for by the solicitors', $until);
        }
        $disposals->review(self::person('librarian'), $disposal->refresh(), null, Decision::Release, '', null);
        $disposals->submit(self::person('librarian'), $disposal->refresh());
    }

    private static function worked(Disposal $disposal): void
    {
        (new WorkOnDisposal($disposal->id))->handle(app());
    }

    private static function person(string $signIn): User
    {
        return User::query()->where('sign_in', $signIn)->firstOrFail();
    }
}
