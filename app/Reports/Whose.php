<?php

declare(strict_types=1);

namespace App\Reports;

use App\Access\Rights;
use App\Find\Searching;
use App\Models\Right;
use App\Models\User;
use App\Redaction\Redactions;
use Brenvic\Core\Index\DocumentSet;

/**
 * Whose searches a person may be told of: those of people who see nothing that they do not see. Otherwise what others looked for,
 * and found, would tell of it.
 */
final readonly class Whose
{
    public function __construct(private Rights $rights, private Redactions $redactions, private Searching $searching)
    {
    }

    /** @return array<int, User> by id */
    public function toldTo(User $user): array
    {
        return $this->searching->snapshot(function () use ($user): array {
            $sight = $this->rights->sight($user);
            $bound = $this->redactions->bound($user);
            $isWithin = [];
            $told = [];
            foreach (User::query()->orderBy('id')->get() as $person) {
                $name = $this->rights->asker($person)->name();
                $isWithin[$name] ??= $this->isWithin($person, $sight);
                if (
                    $isWithin[$name] &&
                    ($user->may(Right::Sensitive) || ! $person->may(Right::Sensitive)) &&
                    array_diff($bound, $this->redactions->bound($person)) === []
                ) {
                    $told[$person->id] = $person;
                }
            }

            return $told;
        });
    }

    private function isWithin(User $person, DocumentSet $sight): bool
    {
        return $this->rights->sight($person)->minus($sight)->count() === 0;
    }
}
