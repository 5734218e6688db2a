<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Plan;

use Brenvic\Core\Procedures\Asking\Party;
use Brenvic\Core\Procedures\Shape\Detail;

/** Somebody is asked something. */
final readonly class AskStep extends Step
{
    /** The first answer of whomever counts. */
    public const ANY = 'any';

    /** All are asked at once: the first decision is made when all have made it, any other by whoever makes it. */
    public const ALL = 'all';

    /** The same, one after the other. */
    public const TURN = 'turn';

    /** Stands for who filed the document, among those who may not decide. */
    public const FILER = 'filer';

    /**
     * @param  list<Party>  $parties
     * @param  list<string>  $notBy  who may not decide: `filer`, and codes of steps whose deciders may not
     * @param  list<array{string, bool}>  $sheet  codes of the fields to be filled or checked, and whether each must have a value
     * @param  list<Decision>  $decisions
     * @param  bool  $isForMany  whether many cases may be decided at once
     */
    public function __construct(
        string $code,
        string $name,
        public array $parties,
        public string $question,
        public array $decisions,
        public string $mode = self::ANY,
        public array $notBy = [],
        public array $sheet = [],
        public ?Deadline $deadline = null,
        public bool $isForMany = false,
    ) {
        parent::__construct($code, $name);
    }

    /** @param  array<array-key, mixed>  $content */
    public static function read(array $content): self
    {
        $sheet = [];
        foreach (Detail::each($content, 'sheet') as $entry) {
            $sheet[] = [Detail::text($entry, 'code'), ($entry['required'] ?? false) === true];
        }
        /** @var list<array<string, mixed>> $parties */
        $parties = Detail::each($content, 'who');

        return new self(
            Detail::text($content, 'code'),
            Detail::text($content, 'name'),
            array_values(array_filter(array_map(Party::of(...), $parties))),
            Detail::text($content, 'question'),
            array_map(Decision::of(...), Detail::each($content, 'decisions')),
            Detail::text($content, 'mode') ?: self::ANY,
            Detail::texts($content, 'not_by'),
            $sheet,
            Deadline::of($content),
            ($content['many'] ?? false) === true,
        );
    }

    public function decision(string $code): ?Decision
    {
        foreach ($this->decisions as $decision) {
            if ($decision->code === $code) {
                return $decision;
            }
        }

        return null;
    }

    public function ways(): array
    {
        return array_column(
            array_map(static fn (Decision $decision): array => [$decision->code, $decision->ways], $this->decisions),
            1,
            0,
        );
    }

    public function fault(): ?string
    {
        $deadline = $this->deadline;

        return match (true) {
            $this->parties === [] => 'Nobody is asked. Say who acts.',
            trim($this->question) === '' => 'Say in a sentence what is asked.',
            $this->decisions === [] => 'It has no decision. Give it at least one.',
            in_array('', array_map(static fn (Decision $decision): string => $decision->label, $this->decisions), true) => 'Give each decision a label.',
            count(array_unique(array_column($this->decisions, 'code'))) < count($this->decisions) => 'Two of its decisions have the same code.',
            $deadline?->then === Deadline::GIVE && $deadline->to === null => 'Say who is asked after the deadline.',
            $deadline?->then === Deadline::DECIDE && $this->decision($deadline->decision) === null => 'Say as what it counts after the deadline.',
            $deadline?->reminder !== null && $deadline->reminder >= $deadline->days => 'The reminder comes after the deadline.',
            default => null,
        };
    }

    public function groups(): array
    {
        return array_merge([], ...array_map(static fn (Party $party): array => $party->groups(), $this->asked()));
    }

    public function fields(): array
    {
        return [
            ...array_column($this->sheet, 0),
            ...array_merge([], ...array_map(static fn (Decision $decision): array => $decision->fields, $this->decisions)),
            ...array_merge([], ...array_map(static fn (Party $party): array => $party->fields(), $this->asked())),
        ];
    }

    /** @return list<Party> those who are asked after the deadline too */
    private function asked(): array
    {
        return array_values(array_filter([...$this->parties, $this->deadline?->to]));
    }
}
