<?php

declare(strict_types=1);

namespace App\Loans;

use App\Jobs\BackgroundJob;
use App\Models\Loan;
use App\Support\Refused;
use Carbon\CarbonInterface;

/** Takes a lent copy back on the day it is due. What stands in the way is said with the loan. */
final class ReturnLoan extends BackgroundJob
{
    public function __construct(public readonly int $loan)
    {
    }

    public function handle(Loans $loans): void
    {
        $loan = Loan::query()->with('user')->find($this->loan);
        if ($loan === null || ! $loan->isOpen()) {
            return;
        }
        try {
            $loans->return($loan, $loan->user);
        } catch (Refused $refused) {
            $loan->update(['says' => "It is due and could not be brought back: {$refused->getMessage()}"]);
        }
    }

    // What is being returned is seen as lent until it is back.
    public static function unfinished(CarbonInterface $before): array
    {
        return [];
    }

    public function about(): int
    {
        return $this->loan;
    }

    protected function givenUp(string $reason): void
    {
        Loan::query()->find($this->loan)?->update(['says' => "It is due and could not be brought back: {$reason}. Bring it back by hand."]);
    }
}
