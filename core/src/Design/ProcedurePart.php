<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\Kinds\PersonKind;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Procedures\Plan\Procedure;

/** A procedure: how documents of some types are handled once they are there. */
final readonly class ProcedurePart extends Part
{
    /**
     * @param  list<string>  $types  codes of the document types it is for; none for all
     * @param  string  $begins  on filing, when its criterion comes true, or by hand
     * @param  string  $criterion  which documents it is for, in CQL; empty for all
     * @param  string  $keepers  the group that looks after its cases
     */
    protected function __construct(
        string $code,
        string $name,
        public array $types,
        public string $begins,
        public string $criterion,
        public string $keepers,
        public Procedure $procedure,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        return new self(
            $code,
            self::text($content, 'name'),
            Design::codes($content, 'types'),
            self::text($content, 'begins') ?: Procedure::HAND,
            trim(self::text($content, 'criterion')),
            self::text($content, 'keepers'),
            Procedure::of($content),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Procedure;
    }

    public function groups(): array
    {
        return array_values(array_unique([$this->keepers, ...$this->ofSteps('groups')]));
    }

    public function refersTo(): array
    {
        return [
            ...self::each(DesignKind::Type, $this->types),
            ...self::each(DesignKind::Field, $this->ofSteps('fields')),
            ...self::each(DesignKind::DossierKind, $this->ofSteps('dossierKinds')),
            ...self::each(DesignKind::Procedure, $this->ofSteps('procedures')),
        ];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return self::each(DesignKind::Type, $this->types);
    }

    /** Whether documents of a type are handled by it. */
    public function isFor(?string $type): bool
    {
        return $this->types === [] || in_array($type, $this->types, true);
    }

    public function check(DesignCheck $check): void
    {
        $check->parts(DesignKind::Type, $this->types, 'types');
        if ($this->begins === Procedure::WHEN && $this->criterion === '') {
            throw new InvalidDefinition('criterion', 'Say what has to be true for it to begin.');
        }
        if ($this->criterion !== '') {
            $check->criterion($this->criterion);
        }
        $check->groups([$this->keepers], 'keepers');
        foreach ($this->procedure->faults() as [, $fault]) {
            throw new InvalidDefinition('steps', $fault);
        }
        $check->groups($this->ofSteps('groups'), 'steps');
        $check->fields($this->ofSteps('fields'), 'steps');
        $check->parts(DesignKind::DossierKind, $this->ofSteps('dossierKinds'), 'steps');
        $check->parts(DesignKind::Procedure, $this->ofSteps('procedures'), 'steps');
        foreach ($this->procedure->criteria() as $criterion) {
            $check->criterion($criterion, 'steps');
        }
        $this->checkPeople($check);
        $this->checkSheets($check);
    }

    /** @throws InvalidDefinition when somebody is looked for in a field that names nobody */
    private function checkPeople(DesignCheck $check): void
    {
        foreach ($this->procedure->steps as $step) {
            foreach ($step instanceof AskStep ? $step->parties : [] as $party) {
                foreach ($party->fields() as $code) {
                    $field = $check->field($code);
                    if ($field !== null && ! $field->kind instanceof PersonKind) {
                        throw new InvalidDefinition('steps', "{$step->name}: {$field->label} does not name people.");
                    }
                }
            }
        }
    }

    /** @throws InvalidDefinition when a field is to be filled that none of its documents has */
    private function checkSheets(DesignCheck $check): void
    {
        $types = array_filter(array_map(static fn (string $type): ?TypePart => $check->design->one(TypePart::class, $type), $this->types));
        foreach ($this->procedure->steps as $step) {
            foreach ($step instanceof AskStep ? $step->sheet : [] as [$code]) {
                foreach ($types as $type) {
                    if (! in_array($code, array_map(static fn (SheetEntry $entry): string => $entry->code, $type->fields), true)) {
                        throw new InvalidDefinition(
                            'steps',
                            "{$step->name}: “{$type->name}” has no ".($check->field($code)->label ?? $code).' to be filled.',
                        );
                    }
                }
            }
        }
    }

    /**
     * What all steps name of something.
     *
     * @param  'groups'|'fields'|'procedures'|'dossierKinds'  $what
     * @return list<string>
     */
    private function ofSteps(string $what): array
    {
        $named = [];
        foreach ($this->procedure->steps as $step) {
            array_push($named, ...match ($what) {
                'groups' => $step->groups(),
                'fields' => $step->fields(),
                'procedures' => $step->procedures(),
                'dossierKinds' => $step->dossierKinds(),
            });
        }

        return array_values(array_unique($named));
    }
}
