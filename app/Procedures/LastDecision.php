<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Models\ProcedureCase;
use App\Models\User;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Shape\Detail;
use Illuminate\Support\Facades\DB;

/** What was decided last in a case. */
final readonly class LastDecision
{
    /**
     * @param  User|null  $by  null where it counts so because the deadline was over
     * @param  string  $label  as the step that it was made in has it
     * @param  string  $on  a day, as 2026-03-01
     */
    private function __construct(public ?User $by, public string $label, public string $on, public string $comment)
    {
    }

    /** Null where nothing was decided yet. */
    public static function in(ProcedureCase $case, ProcedurePart $part): ?self
    {
        $row = DB::table('case_events')->where('case_id', $case->id)->where('kind', 'decided')->orderByDesc('number')->first();
        if ($row === null) {
            return null;
        }
        $detail = (array) json_decode((string) $row->detail, true, 64, JSON_THROW_ON_ERROR);
        $step = $part->procedure->steps[(string) $row->step] ?? null;
        $code = Detail::text($detail, 'decision');

        return new self(
            $row->user_id === null ? null : User::query()->find((int) $row->user_id),
            $step instanceof AskStep ? $step->decision($code)->label ?? $code : $code,
            substr((string) $row->at, 0, 10),
            Detail::text($detail, 'comment'),
        );
    }
}
