<?php

declare(strict_types=1);

namespace App\Reports;

use App\Models\User;
use Brenvic\Core\Reports\ReportTable;

/** A report about the collection: of what the person who asks may see, and of nothing else. */
interface Report
{
    public function code(): string;

    public function name(): string;

    /** Whether it is about a period, and not about how things are now. */
    public function hasPeriod(): bool;

    /** @return list<'library'|'type'> what it can be narrowed by */
    public function narrowedBy(): array;

    /** @return list<ReportTable> */
    public function tables(User $user, Asked $asked): array;
}
