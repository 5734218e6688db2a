<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

use Brenvic\Core\Procedures\Asking\Audience;
use Brenvic\Core\Procedures\Shape\Detail;

/** What waits for somebody in a case. */
final readonly class Task
{
    /**
     * @param  int  $number  in the case, from 1
     * @param  int  $party  which of those whom the step asks, from 0
     * @param  list<int>  $excluded  people who may not decide
     * @param  int|null  $holder  who took it, or was given it
     * @param  array{by: int, to: int, text: string}|null  $asked  a question that has to be answered first
     * @param  string|null  $due  a day, as 2026-03-01
     * @param  string|null  $remind  a day
     */
    public function __construct(
        public int $number,
        public int $party,
        public Audience $audience,
        public array $excluded = [],
        public ?int $holder = null,
        public ?array $asked = null,
        public ?string $due = null,
        public ?string $remind = null,
        public bool $isOverdue = false,
    ) {
    }

    public function heldBy(?int $holder): self
    {
        return $this->with(['holder' => $holder]);
    }

    /** @param  array{by: int, to: int, text: string}|null  $asked */
    public function asking(?array $asked): self
    {
        return $this->with(['asked' => $asked]);
    }

    public function reminded(): self
    {
        return $this->with(['remind' => null]);
    }

    /** @param  Audience|null  $audience  who is asked from now on, if others are */
    public function overdue(?Audience $audience): self
    {
        $to = $audience === null ? [] : ['audience' => $audience->detail(), 'holder' => null];

        return $this->with(['remind' => null, 'overdue' => true, ...$to]);
    }

    /** @param  array<string, mixed>  $changed  as `detail` has it */
    private function with(array $changed): self
    {
        return self::of([...$this->detail(), ...$changed]);
    }

    /** Somebody who is gone neither holds it nor is asked any more; who is asked instead may be told. */
    public function without(int $person, ?Audience $instead): self
    {
        $people = array_values(array_diff($this->audience->people, [$person]));

        $isAsking = $this->asked !== null && in_array($person, [$this->asked['by'], $this->asked['to']], true);
        $audience = new Audience(
            array_values(array_unique([...$this->audience->groups, ...$instead->groups ?? []])),
            array_values(array_unique([...$people, ...$instead->people ?? []])),
        );

        return $this->with([
            'audience' => $audience->detail(),
            'holder' => $this->holder === $person ? null : $this->holder,
            'asked' => $isAsking ? null : $this->asked,
        ]);
    }

    /** @return array<string, mixed> */
    public function detail(): array
    {
        return [
            'number' => $this->number,
            'party' => $this->party,
            'audience' => $this->audience->detail(),
            'excluded' => $this->excluded,
            'holder' => $this->holder,
            'asked' => $this->asked,
            'due' => $this->due,
            'remind' => $this->remind,
            'overdue' => $this->isOverdue,
        ];
    }

    /** @param  array<array-key, mixed>  $detail */
    public static function of(array $detail): self
    {
        $audience = $detail['audience'] ?? null;
        $asked = $detail['asked'] ?? null;

        return new self(
            (int) Detail::number($detail, 'number'),
            (int) Detail::number($detail, 'party'),
            Audience::of(is_array($audience) ? $audience : []),
            Detail::numbers($detail, 'excluded'),
            Detail::number($detail, 'holder'),
            is_array($asked)
                ? ['by' => (int) Detail::number($asked, 'by'), 'to' => (int) Detail::number($asked, 'to'), 'text' => Detail::text($asked, 'text')]
                : null,
            Detail::text($detail, 'due') ?: null,
            Detail::text($detail, 'remind') ?: null,
            ($detail['overdue'] ?? false) === true,
        );
    }
}
