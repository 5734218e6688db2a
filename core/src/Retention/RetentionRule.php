<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Retention\Facts\KeptDocument;
use Brenvic\Core\Retention\Trigger\About;
use Brenvic\Core\Retention\Trigger\FieldTrigger;
use Brenvic\Core\Retention\Trigger\Trigger;
use Brenvic\Core\Retention\Trigger\Triggers;

/** How long something is kept, and what is done then, as a concept, a type or a dossier kind says it. */
final readonly class RetentionRule
{
    /**
     * @param  string  $code  tells it from all others of the design
     * @param  string  $of  whose rule it is, as "concept NAV.02"
     * @param  list<FieldTrigger>  $restarts  dates that begin the period anew where they are later
     * @param  string  $authority  the law, contract or decision that it rests on
     */
    public function __construct(
        public string $code,
        public string $of,
        public Trigger $trigger,
        public Period $period,
        public RetentionAction $action,
        public string $authority = '',
        private array $restarts = [],
        private ?Lifting $lifting = null,
    ) {
    }

    /**
     * As a design file has it (docs/design.schema.json).
     *
     * @param  array<array-key, mixed>  $content
     * @param  array<string, FieldDefinition>  $fields  of the design, by code
     * @param  array<string, string>  $procedures  their names by code
     */
    public static function read(string $code, string $of, array $content, array $fields, array $procedures): self
    {
        $text = static fn (string $name): string => is_string($content[$name] ?? null) ? $content[$name] : '';
        $number = static fn (string $name): int => is_int($content[$name] ?? null) ? $content[$name] : 0;
        $lifted = is_array($content['lifted_by'] ?? null) ? $content['lifted_by'] : [];
        $by = is_string($lifted['field'] ?? null) ? $lifted['field'] : '';

        return new self(
            $code,
            $of,
            Triggers::named($text('after'), $text('of') === '' ? null : $text('of'), $fields, $procedures),
            new Period($number('years'), $number('months'), CountedFrom::tryFrom($text('from')) ?? CountedFrom::Day),
            RetentionAction::tryFrom($text('action')) ?? RetentionAction::Review,
            $text('authority'),
            array_map(
                static fn (string $field): FieldTrigger => new FieldTrigger($field, $fields[$field] ?? null),
                self::texts($content['restarts'] ?? []),
            ),
            $by === '' ? null : new Lifting($by, self::texts($lifted['values'] ?? []), $fields[$by] ?? null),
        );
    }

    /** "7 years after Document date", or what else it says. */
    public function words(): string
    {
        $words = $this->action === RetentionAction::Keep
            ? 'kept permanently'
            : "{$this->period->words()} after {$this->period->from->words()}{$this->trigger->words()}";

        return $this->restarts === [] || $this->action === RetentionAction::Keep
            ? $words
            : $words.', or a later '.implode(' or ', array_map(static fn (FieldTrigger $of): string => $of->words(), $this->restarts));
    }

    /** "by concept NAV.02, 7 years after Document date". */
    public function reason(): string
    {
        return "by {$this->of}, {$this->words()}";
    }

    /** @param  int  $fiscalYearStart  month */
    public function outcome(KeptDocument $document, int $fiscalYearStart): RuleOutcome
    {
        if ($this->action === RetentionAction::Keep) {
            return new RuleOutcome($this, KeepingState::Permanent);
        }
        if ($this->lifting?->holds($document) === true) {
            return new RuleOutcome($this, KeepingState::Lifted, null, "while {$this->lifting->words()}");
        }
        $begun = $this->trigger->of($document);
        $days = [$begun->day];
        foreach ($this->restarts as $restart) {
            $days[] = $restart->of($document)->day;
        }
        if ($document->restarted !== null) {
            $days[] = PartialDate::parse($document->restarted)->firstDay();
        }
        $days = array_filter($days, is_int(...));

        return $days === []
            ? new RuleOutcome($this, $begun->isToCome ? KeepingState::Waiting : KeepingState::NoDate, null, $begun->why)
            : new RuleOutcome($this, KeepingState::Dated, $this->period->after(max($days), $fiscalYearStart));
    }

    /** @return list<About> all that it names of the design */
    public function about(): array
    {
        return array_values(
            array_filter([
                $this->trigger->about(),
                ...array_map(static fn (FieldTrigger $of): About => $of->about(), $this->restarts),
                $this->lifting === null ? null : new About(About::FIELD, $this->lifting->code),
            ]),
        );
    }

    /** What is wrong with it, in a sentence; null when nothing is. */
    public function fault(): ?string
    {
        if ($this->action === RetentionAction::Keep) {
            return $this->lifting === null ? null : 'What is kept permanently cannot be exempt from it: remove the exemption.';
        }
        foreach ([$this->trigger, ...$this->restarts] as $trigger) {
            if ($trigger->fault() !== null) {
                return $trigger->fault();
            }
        }

        return $this->lifting?->fault();
    }

    /** @return list<string> */
    private static function texts(mixed $list): array
    {
        return array_values(array_filter(is_array($list) ? $list : [], is_string(...)));
    }
}
