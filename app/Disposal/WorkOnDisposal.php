<?php

declare(strict_types=1);

namespace App\Disposal;

use App\Jobs\BackgroundJob;
use App\Models\Disposal;
use Brenvic\Core\Retention\Disposal\DisposalState;
use Carbon\CarbonInterface;
use Illuminate\Contracts\Foundation\Application;

/** Gathers what is due, and carries out what was approved. Each document is done whole or not at all; stopped work goes on where it was. */
final class WorkOnDisposal extends BackgroundJob
{
    public int $timeout = 3_500;

    public function __construct(private readonly int $disposal)
    {
    }

    public function handle(Application $application): void
    {
        // The design may have been read before it was changed.
        $application->forgetScopedInstances();
        $disposal = Disposal::query()->with(['preparer', 'submitter', 'approver', 'recipient'])->find($this->disposal);
        match ($disposal?->state) {
            DisposalState::Preparing => $application->make(Disposals::class)->gather($disposal),
            DisposalState::Running => $application->make(Carrying::class)->out($disposal),
            default => null,
        };
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(
            Disposal::query()
                ->whereIn('state', [DisposalState::Preparing->value, DisposalState::Running->value])
                ->where('updated_at', '<', $before),
        );
    }

    public function about(): int
    {
        return $this->disposal;
    }

    protected function givenUp(string $reason): void
    {
        $of = Disposal::query()->whereKey($this->disposal);
        (clone $of)->where('state', DisposalState::Preparing)->update(['state' => DisposalState::Cancelled, 'says' => "It could not be prepared: {$reason}."]);
        // What is approved stays so: it goes on when somebody says so.
        $of->where('state', DisposalState::Running)->update(['says' => "It stopped: {$reason}. What was done is done; continue with the rest."]);
    }
}
