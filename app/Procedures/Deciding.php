<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Change;
use App\Access\Changing;
use App\Access\HindranceKind;
use App\Catalog\Catalog;
use App\History\Act;
use App\History\History;
use App\Intake\DocumentActs;
use App\Intake\Filing;
use App\Intake\InvalidSheet;
use App\Intake\References;
use App\Models\Document;
use App\Models\ProcedureCase;
use App\Models\Task;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Procedures\Machine;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Record\CaseState;
use Closure;

/** What people do with tasks. Whoever decides may fill the fields of the step, whatever they may change otherwise. */
final readonly class Deciding
{
    public function __construct(
        private Cases $cases,
        private ProcedureVersions $versions,
        private Catalog $catalog,
        private Filing $filing,
        private References $references,
        private Changing $changing,
    ) {
    }

    /**
     * @param  array<string, list<string>>  $values  as typed, for fields of the step
     * @param  int|null  $lock  the version of the document that was looked at
     *
     * @throws Refused
     */
    public function decide(Task $task, User $by, string $decision, string $comment, array $values, ?int $lock): ProcedureCase
    {
        return $this->cases->act(
            $task->case,
            function (Machine $machine, CaseState $state, ProcedureCase $case, Document $document) use (
                $task,
                $by,
                $decision,
                $comment,
                $values,
                $lock,
            ): array {
                // Whether they may decide is asked before anything is changed, and told before what is wrong with the values.
                $machine->decide($state, $task->number, $by->id, $decision, $comment);
                $step = $this->versions->of($case)->procedure->steps[(string) $state->step] ?? null;
                if ($step instanceof AskStep) {
                    if ($lock !== null && $values !== [] && $lock !== $document->lock_version) {
                        throw new Refused('The document was changed in the meantime. Look at it again; nothing was decided.');
                    }
                    $this->fill($case, $document, $step, $decision, $values, $by);
                }

                return $machine->decide($state, $task->number, $by->id, $decision, $comment);
            },
        );
    }

    /** @param  Closure(Machine, CaseState): list<\Brenvic\Core\Procedures\Record\Event>  $what */
    public function act(Task $task, Closure $what): ProcedureCase
    {
        return $this->cases->act($task->case, $what);
    }

    /**
     * @param  array<string, list<string>>  $given
     *
     * @throws Refused|InvalidSheet
     */
    private function fill(ProcedureCase $case, Document $document, AskStep $step, string $decision, array $given, User $by): void
    {
        $shown = $this->catalog->fieldsFor($by);
        $open = [...array_column($step->sheet, 0), ...$step->decision($decision)->fields ?? []];
        $given = array_intersect_key($given, array_flip($open), $shown);
        $before = $this->filing->present($document);
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $sheet = $this->catalog->sheet($type);
        $read = $sheet->read([...$before, ...$given], $before);
        $faults = array_intersect_key(
            [...$this->references->faults($sheet, $read['values'], $by, $before), ...$read['faults']],
            $given,
        );
        $required = [
            ...array_column(array_filter($step->sheet, static fn (array $entry): bool => $entry[1]), 0),
            ...$step->decision($decision)->fields ?? [],
        ];
        $all = $read['values'] + (Filing::handedDownTo([$document->id])[$document->id] ?? []);
        foreach ($required as $code) {
            if (($all[$code] ?? []) === [] && ! isset($faults[$code])) {
                $faults[$code] = ($this->catalog->fields()[$code]->label ?? $code).' needs a value for this decision.';
            }
        }
        if ($faults !== []) {
            throw new InvalidSheet($faults);
        }
        $after = [...$before, ...array_intersect_key($read['values'], $given)];
        foreach (array_keys($given) as $code) {
            $after[$code] = $read['values'][$code] ?? [];
        }
        $after = array_filter($after, static fn (array $v): bool => $v !== []);
        if ($after == $before) {
            return;
        }
        $hindrance = $this->changing->hindrance($by, $document, Change::Values);
        $isOwnLock = $hindrance?->kind === HindranceKind::Procedure && $document->locked_by_case === $case->id;
        // The step lets them fill its fields, whatever their role; what keeps the document itself does so here too.
        if ($hindrance !== null && $hindrance->kind !== HindranceKind::Right && ! $isOwnLock) {
            throw new Refused("{$hindrance->words} Nothing was decided.");
        }
        $this->filing->put($document, $type, $after, ['lock_version' => $document->lock_version + 1]);
        History::record(Act::Changed, $by, $document, DocumentActs::difference($before, $after));
        $this->cases->changed($document);
    }
}
