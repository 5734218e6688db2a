<?php

declare(strict_types=1);

namespace App\Procedures;

use App\History\Act as HistoryAct;
use App\History\History;
use App\Models\Document;
use App\Models\ProcedureCase;
use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\BeginProcedure;
use Brenvic\Core\Procedures\Acts\LockVersion;
use Brenvic\Core\Procedures\Acts\MakeDossier;
use Brenvic\Core\Procedures\Acts\PutInDossier;
use Brenvic\Core\Procedures\Acts\ReleaseVersion;
use Brenvic\Core\Procedures\Acts\SendMail;
use Brenvic\Core\Procedures\Acts\SendNotice;
use Brenvic\Core\Procedures\Acts\SetValue;
use Brenvic\Core\Procedures\Acts\Stamp;
use Brenvic\Core\Procedures\Acts\StartRetention;
use Brenvic\Core\Procedures\Record\CaseState;
use Illuminate\Contracts\Container\Container;

/** Finds who carries out an act, and records that it was done. */
final readonly class Performing
{
    /** @var array<class-string<Act>, class-string<Performs<covariant Act>>> */
    private const KINDS = [
        SetValue::class => SetsValues::class,
        Stamp::class => Stamps::class,
        PutInDossier::class => PutsInDossiers::class,
        MakeDossier::class => MakesDossiers::class,
        SendNotice::class => SendsNotices::class,
        SendMail::class => SendsMails::class,
        BeginProcedure::class => BeginsProcedures::class,
        StartRetention::class => StartsRetention::class,
        LockVersion::class => LocksVersions::class,
        ReleaseVersion::class => ReleasesVersions::class,
    ];

    public function __construct(private Container $container, private ProcedureVersions $versions)
    {
    }

    /** @return string what came of it, in words */
    public function perform(Act $act, ProcedureCase $case, Document $document, CaseState $state): string
    {
        /** @var Performs<Act> $performs */
        $performs = $this->container->make(self::KINDS[$act::class]);
        $doing = $this->doing($case, $document, $state);
        $said = $performs->perform($act, $doing);
        History::record(HistoryAct::Acted, null, $document, ['procedure' => $doing->part->name, 'did' => $said]);

        return $said;
    }

    private function doing(ProcedureCase $case, Document $document, CaseState $state): Doing
    {
        $part = $this->versions->of($case);
        $last = LastDecision::in($case, $part);

        return new Doing(
            $case,
            $document,
            $part,
            $state,
            $last?->by,
            $last->label ?? '',
            $last->on ?? '',
            $last->comment ?? '',
        );
    }
}
