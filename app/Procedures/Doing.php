<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Models\Document;
use App\Models\ProcedureCase;
use App\Models\User;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Record\CaseState;

/** The case that an act is done in, with what was decided in it last. */
final readonly class Doing
{
    /**
     * @param  User|null  $decider  who decided last
     * @param  string  $decision  its label; empty where nothing was decided
     * @param  string  $decidedOn  a day, as 2026-03-01
     */
    public function __construct(
        public ProcedureCase $case,
        public Document $document,
        public ProcedurePart $part,
        public CaseState $state,
        public ?User $decider,
        public string $decision,
        public string $decidedOn,
        public string $comment,
    ) {
    }
}
