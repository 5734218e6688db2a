<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures;

use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Asking\Audience;
use Brenvic\Core\Procedures\Asking\CannotTell;
use Brenvic\Core\Procedures\Asking\Facts;
use Brenvic\Core\Procedures\Asking\Party;
use Brenvic\Core\Procedures\Plan\ActStep;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Plan\Deadline;
use Brenvic\Core\Procedures\Plan\EndStep;
use Brenvic\Core\Procedures\Plan\Procedure;
use Brenvic\Core\Procedures\Plan\Step;
use Brenvic\Core\Procedures\Plan\Way;
use Brenvic\Core\Procedures\Record\Acted;
use Brenvic\Core\Procedures\Record\Answered;
use Brenvic\Core\Procedures\Record\AskedNext;
use Brenvic\Core\Procedures\Record\CaseState;
use Brenvic\Core\Procedures\Record\Decided;
use Brenvic\Core\Procedures\Record\Ended;
use Brenvic\Core\Procedures\Record\Entered;
use Brenvic\Core\Procedures\Record\Event;
use Brenvic\Core\Procedures\Record\Given;
use Brenvic\Core\Procedures\Record\GivenUp;
use Brenvic\Core\Procedures\Record\Left;
use Brenvic\Core\Procedures\Record\Overdue;
use Brenvic\Core\Procedures\Record\PutBack;
use Brenvic\Core\Procedures\Record\Questioned;
use Brenvic\Core\Procedures\Record\Reminded;
use Brenvic\Core\Procedures\Record\Resumed;
use Brenvic\Core\Procedures\Record\Status;
use Brenvic\Core\Procedures\Record\Stopped;
use Brenvic\Core\Procedures\Record\Taken;
use Brenvic\Core\Procedures\Record\Task;

/**
 * What may happen next in a case, as events for its record. It changes nothing: where the case stands then is what
 * `CaseState::after` makes of them. Nothing here waits, so two who act at once are told apart by who is recorded first.
 */
final readonly class Machine
{
    public function __construct(private Procedure $procedure, private Facts $facts)
    {
    }

    /** @return list<Event> */
    public function begin(): array
    {
        $first = $this->procedure->first();

        return $first === null ? [new Stopped('The procedure has no step.')] : $this->enter(new CaseState(), $first->code);
    }

    /**
     * @return list<Event>
     *
     * @throws NotNow
     */
    public function take(CaseState $state, int $number, int $person): array
    {
        $task = $this->task($state, $number, $person);
        if ($task->holder === $person) {
            throw new NotNow('You have taken this already.');
        }

        return [new Taken($number, $person)];
    }

    /**
     * @return list<Event>
     *
     * @throws NotNow
     */
    public function putBack(CaseState $state, int $number, int $person): array
    {
        $task = $this->task($state, $number, $person);
        if ($task->holder !== $person) {
            throw new NotNow('You have not taken this.');
        }
        // What was given to somebody who is not asked otherwise would be for nobody.
        if ($task->audience->isEmpty()) {
            throw new NotNow('It is for you alone. Give it to somebody else.');
        }

        return [new PutBack($number, $person)];
    }

    /**
     * @return list<Event>
     *
     * @throws NotNow
     */
    public function give(CaseState $state, int $number, int $person, int $to, string $note = ''): array
    {
        $task = $this->task($state, $number, $person);
        if ($to === $task->holder) {
            throw new NotNow('They have it already.');
        }
        if ($this->isKeptOut($task, $to)) {
            throw new NotNow('They may not decide this: it takes somebody else than who filed it or decided before.');
        }

        return [new Given($number, $person, $to, $note)];
    }

    /**
     * @return list<Event>
     *
     * @throws NotNow
     */
    public function question(CaseState $state, int $number, int $person, int $to, string $text): array
    {
        $this->task($state, $number, $person);
        if (trim($text) === '') {
            throw new NotNow('Say what you want to know.');
        }
        if ($to === $person) {
            throw new NotNow('Ask somebody else.');
        }

        return [new Questioned($number, $person, $to, trim($text))];
    }

    /**
     * @return list<Event>
     *
     * @throws NotNow
     */
    public function answer(CaseState $state, int $number, int $person, string $text): array
    {
        $asked = $state->tasks[$number]->asked ?? null;
        if ($asked === null || ($asked['to'] !== $person && ! in_array($asked['to'], $this->facts->standsInFor($person), true))) {
            throw new NotNow('Nothing is asked of you here.');
        }
        if (trim($text) === '') {
            throw new NotNow('Write an answer.');
        }

        return [new Answered($number, $person, trim($text))];
    }

    /**
     * @return list<Event>
     *
     * @throws NotNow
     */
    public function decide(CaseState $state, int $number, int $person, string $decision, string $comment = ''): array
    {
        $task = $this->task($state, $number, $person);
        if ($task->holder !== null && $task->holder !== $person && ! $this->standsIn($person, $task->holder)) {
            throw new NotNow('Somebody else has taken this.');
        }
        $step = $this->asked($state);
        if ($step->mode !== AskStep::ANY && in_array($person, $state->decided(), true)) {
            throw new NotNow('You have decided already: somebody else is asked now.');
        }
        $made = $step->decision($decision) ?? throw new NotNow('There is no such decision.');
        if ($made->needsComment && trim($comment) === '') {
            throw new NotNow("“{$made->label}” needs a comment.");
        }

        return $this->decided($state, $task, $made->code, $person, trim($comment));
    }

    /**
     * What a deadline brings about that is over.
     *
     * @return list<Event>
     */
    public function overdue(CaseState $state, int $number): array
    {
        $task = $state->tasks[$number] ?? null;
        $step = $this->procedure->steps[(string) $state->step] ?? null;
        if ($task === null || $task->isOverdue || ! $step instanceof AskStep) {
            return [];
        }
        $deadline = $step->deadline;
        if ($deadline?->then === Deadline::DECIDE) {
            $over = new Overdue($number);

            return [$over, ...$this->decided($state->after([$over]), $task, $deadline->decision, null, '')];
        }
        $to = $deadline?->then === Deadline::GIVE ? $deadline->to?->find($this->facts) : null;
        // Where those are not there either, it stays with those who have it.
        $isFound = $to !== null && ! $to->isEmpty() && $this->left($to, $task->excluded)->people === $to->people;

        return [new Overdue($number, $isFound ? $to : null)];
    }

    /** @return list<Event> */
    public function remind(CaseState $state, int $number): array
    {
        return ($state->tasks[$number] ?? null)?->remind === null ? [] : [new Reminded($number)];
    }

    /**
     * Somebody is gone: what they had is for the others who were asked, or for those who look after the procedure.
     *
     * @return list<Event>
     */
    public function gone(CaseState $state, int $person, Audience $keepers): array
    {
        $events = [];
        foreach ($state->tasks as $task) {
            $asked = $task->asked ?? ['by' => 0, 'to' => 0];
            if ($task->holder === $person || in_array($person, [...$task->audience->people, $asked['by'], $asked['to']], true)) {
                $others = $task->without($person, null)->audience;
                $events[] = new Left($task->number, $person, $others->isEmpty() ? $keepers : null);
            }
        }

        return $events;
    }

    /**
     * Which act comes next where the step acts by itself; null where none is left.
     */
    public function next(CaseState $state): ?Act
    {
        $step = $this->procedure->steps[(string) $state->step] ?? null;

        return $step instanceof ActStep ? $step->acts[$state->acted] ?? null : null;
    }

    /**
     * The act that came next is done.
     *
     * @return list<Event>
     */
    public function acted(CaseState $state, string $said): array
    {
        $acted = new Acted($state->acted, $said);

        return [$acted, ...$this->onwardFromActs($state->after([$acted]))];
    }

    /** @return list<Event> */
    public function failed(string $why): array
    {
        return [new Stopped($why)];
    }

    /**
     * Goes on where it stands: from a decision whose way was not found, from acts that are done, or by asking once more where
     * nobody was there. Where acts are left it is these that go on, and there is nothing to record.
     *
     * @return list<Event>
     */
    public function goOn(CaseState $state): array
    {
        $step = $this->procedure->steps[(string) $state->step] ?? null;
        if ($state->status->isOver() || $state->tasks !== []) {
            return [];
        }
        if ($step === null) {
            return [new Stopped('The step is not in the procedure any more. Move the case to another one.')];
        }
        if ($step instanceof ActStep) {
            return $this->onwardFromActs($state);
        }
        if ($step instanceof EndStep) {
            return [new Ended($step->code)];
        }
        if ($state->choice !== null) {
            return $this->onward($state, $step->ways()[$state->choice] ?? []);
        }

        return $state->parties > 0 && $step instanceof AskStep
            ? $this->askNext($state, $step)
            : $this->enter($state->with(rounds: array_diff_key($state->rounds, [$step->code => 0])), $step->code);
    }

    /**
     * Somebody has a case go on that stopped.
     *
     * @return list<Event>
     *
     * @throws NotNow
     */
    public function resume(CaseState $state, int $person): array
    {
        if ($state->status !== Status::Stopped) {
            throw new NotNow('The case is going on already.');
        }
        $resumed = new Resumed($person);

        return [$resumed, ...$this->goOn($state->after([$resumed]))];
    }

    /**
     * Somebody who looks after the procedure moves a case to a step, or into another version of it.
     *
     * @return list<Event>
     *
     * @throws NotNow
     */
    public function move(CaseState $state, string $step, int $person): array
    {
        if ($state->status->isOver()) {
            throw new NotNow('The case is over.');
        }
        if (! isset($this->procedure->steps[$step])) {
            throw new NotNow('There is no such step.');
        }

        return $this->enter($state->with(rounds: []), $step, $person);
    }

    /**
     * @return list<Event>
     *
     * @throws NotNow
     */
    public function giveUp(CaseState $state, int $person, string $reason): array
    {
        if ($state->status->isOver()) {
            throw new NotNow('The case is over.');
        }
        if (trim($reason) === '') {
            throw new NotNow('Give a reason.');
        }

        return [new GivenUp($person, trim($reason))];
    }

    /**
     * The steps that a decision would lead through, to the next in which somebody is asked, or to the end.
     *
     * @return list<Step> none where that cannot be told, or depends on what is done in between
     */
    public function leads(CaseState $state, string $decision): array
    {
        $through = [];
        $ways = ($this->procedure->steps[(string) $state->step] ?? null)?->ways()[$decision] ?? [];
        while ($ways !== [] && count($through) < count($this->procedure->steps)) {
            try {
                $step = $this->procedure->steps[(string) $this->wayOf($ways)?->to] ?? null;
            } catch (CannotTell) {
                return $through;
            }
            if ($step === null) {
                return $through;
            }
            $through[] = $step;
            $ways = $step instanceof ActStep ? $step->on : [];
        }

        return $through;
    }

    /**
     * The first way that holds.
     *
     * @param  list<Way>  $ways
     *
     * @throws CannotTell
     */
    private function wayOf(array $ways): ?Way
    {
        foreach ($ways as $way) {
            if ($way->criterion === '' || $this->facts->holds($way->criterion)) {
                return $way;
            }
        }

        return null;
    }

    /** Why a person may not act on a task; null where they may. */
    public function hindrance(CaseState $state, int $number, int $person): ?string
    {
        $task = $state->tasks[$number] ?? null;

        return match (true) {
            $task === null => 'This was decided in the meantime.',
            $this->isKeptOut($task, $person) => 'You may not decide this: it takes somebody else than who filed it or decided before.',
            ! $this->isFor($task, $person) => 'This is not for you to decide.',
            default => null,
        };
    }

    /**
     * A task that a person may act on.
     *
     * @throws NotNow
     */
    private function task(CaseState $state, int $number, int $person): Task
    {
        $why = $this->hindrance($state, $number, $person);
        if ($why !== null) {
            throw new NotNow($why);
        }
        $task = $state->tasks[$number];
        if ($task->holder !== null && $task->holder !== $person && ! $this->standsIn($person, $task->holder)) {
            throw new NotNow('Somebody else has taken this in the meantime.');
        }

        return $task;
    }

    /** Whether a task is for a person, themselves or as a stand-in. */
    private function isFor(Task $task, int $person): bool
    {
        return $this->isOwn($task, $person) || $this->represented($task, $person) !== null;
    }

    private function isOwn(Task $task, int $person): bool
    {
        return $task->holder === $person || $this->facts->isIn($person, $task->audience);
    }

    private function standsIn(int $person, int $for): bool
    {
        return in_array($for, $this->facts->standsInFor($person), true);
    }

    /** Whether somebody may not decide, whoever they stand in for. */
    private function isKeptOut(Task $task, int $person): bool
    {
        return in_array($person, $task->excluded, true);
    }

    private function asked(CaseState $state): AskStep
    {
        $step = $this->procedure->steps[(string) $state->step] ?? null;

        return $step instanceof AskStep ? $step : throw new NotNow('Nothing is asked in this step any more.');
    }

    /** @return list<Event> */
    private function decided(CaseState $state, Task $task, string $decision, ?int $person, string $comment): array
    {
        $step = $this->asked($state);
        $for = $person === null ? null : $this->represented($task, $person);
        $isAgreed = $decision === ($step->decisions[0]->code ?? '');
        $isLast = match ($step->mode) {
            AskStep::ALL => ! $isAgreed || count($state->tasks) === 1,
            AskStep::TURN => ! $isAgreed || $state->parties >= count($step->parties),
            default => true,
        };
        $event = new Decided($task->number, $person, $decision, $comment, $for, $isLast);
        $after = $state->after([$event]);
        if ($isLast) {
            return [$event, ...$this->onward($after, $step->ways()[$decision] ?? [])];
        }
        if ($step->mode === AskStep::ALL) {
            return [$event, ...$this->keptOutNow($after)];
        }

        return [$event, ...$this->askNext($after, $step)];
    }

    /** Whom a person acts for on a task; null where for themselves. */
    private function represented(Task $task, int $person): ?int
    {
        if ($task->holder === $person || ($task->holder === null && $this->facts->isIn($person, $task->audience))) {
            return null;
        }
        foreach ($this->facts->standsInFor($person) as $one) {
            // One who stands in for somebody who may not decide does not decide for them.
            if ($this->isOwn($task, $one) && ! $this->isKeptOut($task, $one)) {
                return $one;
            }
        }

        return null;
    }

    /**
     * Of several who are asked side by side each decides once: what is left is not for who has decided.
     *
     * @return list<Event>
     */
    private function keptOutNow(CaseState $state): array
    {
        foreach ($state->tasks as $task) {
            $people = array_diff($task->audience->people, $state->decided());
            if ($task->audience->groups === [] && $people === [] && $task->holder === null) {
                return [new Stopped('Nobody is left to decide: who is asked has decided already.')];
            }
        }

        return [];
    }

    /** @return list<Event> */
    private function onwardFromActs(CaseState $state): array
    {
        $step = $this->procedure->steps[(string) $state->step] ?? null;
        if (! $step instanceof ActStep || $state->acted < count($step->acts)) {
            return [];
        }

        return $this->onward($state, $step->on);
    }

    /**
     * @param  list<Way>  $ways
     * @return list<Event>
     */
    private function onward(CaseState $state, array $ways): array
    {
        try {
            $way = $this->wayOf($ways);
        } catch (CannotTell $fault) {
            return [new Stopped($fault->getMessage())];
        }

        return $way === null ? [new Stopped('No way on holds for this document.')] : $this->enter($state, $way->to);
    }

    /** @return list<Event> */
    private function enter(CaseState $state, string $code, ?int $by = null): array
    {
        $step = $this->procedure->steps[$code] ?? null;
        if ($step === null) {
            return [new Stopped('The next step is not in the procedure any more.')];
        }
        if (($state->rounds[$code] ?? 0) >= Procedure::ROUNDS) {
            return [new Stopped('“'.$step->name.'” came '.Procedure::ROUNDS.' times. Somebody has to look at it.')];
        }
        if ($step instanceof EndStep) {
            return [new Ended($code, $by)];
        }
        if ($step instanceof AskStep) {
            return $this->ask($state, $step, $by);
        }
        $entered = new Entered($code, [], $by);

        // A step without acts only chooses the way; one with acts waits for who carries them out.
        return [$entered, ...$this->onwardFromActs($state->after([$entered]))];
    }

    /** @return list<Event> */
    private function ask(CaseState $state, AskStep $step, ?int $by): array
    {
        $tasks = [];
        // Whoever decided in an earlier round of this step may do so again.
        $fresh = $state->with(step: $step->code, deciders: [...$state->deciders, $step->code => []]);
        $parties = $step->mode === AskStep::TURN ? array_slice($step->parties, 0, 1) : $step->parties;
        foreach ($parties as $index => $party) {
            $task = $this->made($fresh, $step, $index, $state->lastTask + count($tasks) + 1);
            if ($task === null && $step->mode === AskStep::ANY) {
                continue;
            }
            if ($task === null) {
                return [new Entered($step->code, [], $by), new Stopped($this->nobody($step, $party))];
            }
            $tasks[] = $task;
        }
        $entered = new Entered($step->code, $tasks, $by);

        return $tasks === [] ? [$entered, new Stopped($this->nobody($step, $step->parties[0] ?? null))] : [$entered];
    }

    /** @return list<Event> */
    private function askNext(CaseState $state, AskStep $step): array
    {
        $task = $this->made($state, $step, $state->parties, $state->lastTask + 1);

        return $task === null ? [new Stopped($this->nobody($step, $step->parties[$state->parties] ?? null))] : [new AskedNext($task)];
    }

    private function nobody(AskStep $step, ?Party $party): string
    {
        $why = $party?->find($this->facts)->isEmpty() === false ? 'who is asked may not decide this themselves' : $party?->missing() ?? 'nobody is asked';

        return "Nobody can act in “{$step->name}”: {$why}.";
    }

    /** The task of one of those whom a step asks; null where nobody is there. */
    private function made(CaseState $state, AskStep $step, int $party, int $number): ?Task
    {
        $audience = ($step->parties[$party] ?? null)?->find($this->facts);
        if ($audience === null || $audience->isEmpty()) {
            return null;
        }
        $excluded = $this->excluded($state, $step);
        $left = $this->left($audience, $excluded);
        if ($left->isEmpty()) {
            return null;
        }
        $deadline = $step->deadline;

        return new Task(
            $number,
            $party,
            $left,
            $excluded,
            // What is for one person is theirs from the start.
            $left->groups === [] && count($left->people) === 1 ? $left->people[0] : null,
            null,
            $deadline === null ? null : $this->facts->day($deadline->days),
            $deadline?->reminder === null ? null : $this->facts->day($deadline->reminder),
        );
    }

    /** @param  list<int>  $excluded */
    private function left(Audience $audience, array $excluded): Audience
    {
        return new Audience($audience->groups, array_values(array_diff($audience->people, $excluded)));
    }

    /** @return list<int> who may not decide in a step */
    private function excluded(CaseState $state, AskStep $step): array
    {
        $excluded = $step->mode === AskStep::ANY ? [] : $state->decided();
        foreach ($step->notBy as $who) {
            array_push($excluded, ...$who === AskStep::FILER ? array_filter([$this->facts->filer()]) : $state->deciders[$who] ?? []);
        }

        return array_values(array_unique($excluded));
    }
}
