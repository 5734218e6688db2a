<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Retention\Facts\KeptDocument;
use Brenvic\Core\Retention\Trigger\About;
use Brenvic\Core\Retention\Trigger\ProcedureTrigger;
use Brenvic\Core\Retention\Trigger\SupersededTrigger;

/**
 * All retention rules of a design, and which of them are in force for a document: those of its concepts, its type and the
 * kinds of its dossiers. A concept without a rule has that of the nearest concept above it, by each of its places.
 */
final class Rules
{
    /** @var array<string, array<string, list<RetentionRule>>> by field and term, found once */
    private array $ofTerms = [];

    /**
     * @param  array<string, Vocabulary>  $vocabularies  of the fields that documents are classified by, by field code
     * @param  array<string, array<string, RetentionRule>>  $concepts  by field code and term
     * @param  array<string, RetentionRule>  $types  by code
     * @param  array<string, RetentionRule>  $dossierKinds  by code
     * @param  int  $fiscalYearStart  month
     */
    public function __construct(
        private readonly array $vocabularies,
        private readonly array $concepts,
        private readonly array $types,
        private readonly array $dossierKinds,
        private readonly int $fiscalYearStart,
    ) {
    }

    public function isEmpty(): bool
    {
        return $this->all() === [];
    }

    /** @return array<string, RetentionRule> by code */
    public function all(): array
    {
        $all = [];
        foreach ([...array_values($this->concepts), $this->types, $this->dossierKinds] as $rules) {
            foreach ($rules as $rule) {
                $all[$rule->code] = $rule;
            }
        }

        return $all;
    }

    public function of(KeptDocument $document): Keeping
    {
        if ($document->isDestroyed) {
            return Keeping::destroyed();
        }
        $outcomes = [];
        foreach ($this->inForce($document) as $rule) {
            $outcomes[] = $rule->outcome($document, $this->fiscalYearStart);
        }

        return Keeping::of($document, $outcomes);
    }

    /** @return array<string, RetentionRule> by code: all that cover a document */
    private function inForce(KeptDocument $document): array
    {
        $rules = [];
        foreach ($this->concepts as $field => $_) {
            foreach ($document->values[$field] ?? [] as $term) {
                foreach ($this->ofTerm((string) $field, $term) as $rule) {
                    $rules[$rule->code] = $rule;
                }
            }
        }
        $ofType = $document->type === null ? null : $this->types[$document->type] ?? null;
        if ($ofType !== null) {
            $rules[$ofType->code] = $ofType;
        }
        foreach ($document->dossiers as ['kind' => $kind]) {
            if (isset($this->dossierKinds[$kind])) {
                $rules[$this->dossierKinds[$kind]->code] = $this->dossierKinds[$kind];
            }
        }

        return $rules;
    }

    /** @return list<RetentionRule> its own, or the nearest above it by each of its places */
    private function ofTerm(string $field, string $term): array
    {
        if (! isset($this->ofTerms[$field][$term])) {
            $found = $seen = [];
            $waiting = [$term];
            while (($code = array_pop($waiting)) !== null) {
                if (isset($seen[$code])) {
                    continue;
                }
                $seen[$code] = true;
                if (isset($this->concepts[$field][$code])) {
                    $found[] = $this->concepts[$field][$code];
                } else {
                    array_push($waiting, ...($this->vocabularies[$field]->terms[$code] ?? null)?->parents() ?? []);
                }
            }
            $this->ofTerms[$field][$term] = $found;
        }

        return $this->ofTerms[$field][$term];
    }

    /** @return list<string> codes of all fields that the rules look at, those that documents are classified by among them */
    public function fields(): array
    {
        $fields = array_map(strval(...), array_keys($this->concepts));
        foreach ($this->all() as $rule) {
            foreach ($rule->about() as $about) {
                if ($about->kind === About::FIELD) {
                    $fields[] = $about->code;
                }
            }
        }

        return array_values(array_unique($fields));
    }

    /** Whether any rule asks for the ends of procedures. */
    public function asksForProcedures(): bool
    {
        return array_filter($this->all(), static fn (RetentionRule $rule): bool => $rule->trigger instanceof ProcedureTrigger) !== [];
    }

    /** @return list<string> codes of the fields in which newer documents name those that they supersede */
    public function superseding(): array
    {
        $codes = [];
        foreach ($this->all() as $rule) {
            if ($rule->trigger instanceof SupersededTrigger) {
                $codes[] = $rule->trigger->code;
            }
        }

        return array_values(array_unique($codes));
    }
}
