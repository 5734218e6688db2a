<?php

declare(strict_types=1);

namespace App\Oversight;

use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Models\Document;
use App\Models\User;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;

/** What is decided about how long one document is kept, against or beside its rules. */
final readonly class Decisions
{
    public const BEGIN_ANEW = 'begin_anew';

    public const POSTPONE = 'postpone';

    public const EXEMPT = 'exempt';

    public const AS_RULED = 'as_ruled';

    public const ALL = [self::BEGIN_ANEW, self::POSTPONE, self::EXEMPT, self::AS_RULED];

    public function __construct(private Indexer $indexer)
    {
    }

    /** @param  string|null  $day  from which it begins anew, or to which it is postponed */
    public function decide(User $by, Document $document, string $what, ?string $day, string $reason): void
    {
        if ($document->destroyed_at !== null) {
            throw new Refused('The document was destroyed.');
        }
        if (trim($reason) === '') {
            throw new Refused('Give a reason. It stands in the history.');
        }
        if ($day === null && in_array($what, [self::BEGIN_ANEW, self::POSTPONE], true)) {
            throw new Refused('Give a day.');
        }
        DB::transaction(function () use ($by, $document, $what, $day, $reason): void {
            $document->update(match ($what) {
                self::BEGIN_ANEW => ['kept_from' => $day],
                self::POSTPONE => ['kept_until' => $day],
                self::EXEMPT => ['exempt_reason' => trim($reason)],
                default => ['kept_from' => null, 'kept_until' => null, 'exempt_reason' => null],
            });
            History::record(Act::RetentionDecided, $by, $document, [
                'decision' => $what,
                'reason' => trim($reason),
                ...$day === null ? [] : ['day' => $day],
            ]);
            $this->indexer->retention([$document->id]);
        });
    }
}
