<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\Document;
use App\Models\ProcedureCase;
use App\Support\Refused;
use Brenvic\Core\Procedures\Machine;
use Brenvic\Core\Procedures\Record\CaseState;
use Brenvic\Core\Procedures\Record\Status;
use Carbon\CarbonInterface;
use Illuminate\Contracts\Foundation\Application;

/**
 * Does what follows from what was recorded in a case: people are told, and where a step acts by itself its acts are done, each
 * in one transaction with its entry in the record. Killed in between, the act and its entry are both there or both not.
 */
final class CarryOn extends BackgroundJob
{
    /** More acts in a row are a circle; the machine stops it long before. */
    private const MOST = 2_000;

    public function __construct(public readonly int $case)
    {
    }

    public static function begin(int $case): void
    {
        self::dispatch($case)->onQueue(Urgency::Awaited->value)->afterCommit();
    }

    public function handle(Application $application): void
    {
        // The design may have changed since the worker began.
        $application->forgetScopedInstances();
        $cases = $application->make(Cases::class);
        $performing = $application->make(Performing::class);
        for ($i = 0; $i < self::MOST; $i++) {
            $cases->tellOf($this->case);
            $case = ProcedureCase::query()->with('document')->find($this->case);
            // A document that was removed may come back, and its case goes on then.
            if ($case?->status !== Status::Acting || $case->document === null) {
                return;
            }
            $this->act($cases, $performing, $case);
        }
    }

    private function act(Cases $cases, Performing $performing, ProcedureCase $case): void
    {
        try {
            $cases->act(
                $case,
                static function (Machine $machine, CaseState $state, ProcedureCase $case, Document $document) use ($cases, $performing): array {
                    if ($state->status !== Status::Acting) {
                        return [];
                    }
                    $act = $machine->next($state);
                    if ($act === null) {
                        return $machine->goOn($state);
                    }
                    $said = $performing->perform($act, $case, $document, $state);
                    // Where it goes on is asked of the document as it is now.
                    $cases->changed($document);

                    return $machine->acted($state, $said);
                },
            );
        } catch (Refused $why) {
            // What the act had begun is undone; that it could not be done is recorded.
            $cases->act($case, static fn (Machine $machine): array => $machine->failed($why->getMessage()));
        }
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(
            ProcedureCase::query()
                ->where('since', '<', $before)
                ->whereHas('document')
                ->where(static fn ($q) => $q->where('status', Status::Acting->value)->orWhereColumn('told', '<', 'length'))
                ->toBase(),
        );
    }

    public function about(): int
    {
        return $this->case;
    }

    protected function givenUp(string $reason): void
    {
        $case = ProcedureCase::query()->find($this->case);
        if ($case?->status === Status::Acting) {
            app(Cases::class)->act($case, static fn (Machine $machine): array => $machine->failed("It stopped: {$reason}."));
        }
    }
}
