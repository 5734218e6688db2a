<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;

/** A field, as far as it stands in a design; `Design::field` gives what its values are. */
final readonly class FieldPart extends Part
{
    /** @param  list<string>  $formerly  codes of fields that were merged into it */
    protected function __construct(
        string $code,
        string $label,
        public ?string $vocabulary,
        public array $formerly,
    ) {
        parent::__construct($code, $label);
    }

    public static function of(string $code, array $content): static
    {
        return new self($code, self::text($content, 'label'), self::code($content, 'vocabulary'), Design::codes($content, 'formerly'));
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Field;
    }

    public function refersTo(): array
    {
        return $this->vocabulary === null ? [] : [[DesignKind::Vocabulary, $this->vocabulary]];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return $check->users($this, TypePart::class, DossierKindPart::class);
    }

    /** How a value is written, counted and found; and titles. */
    public static function touchedBy(DesignChange $change, Design $new): Touched
    {
        return new Touched(fields: [$change->code]);
    }

    public function check(DesignCheck $check): void
    {
        if ($this->vocabulary !== null && $check->design->part(DesignKind::Vocabulary, $this->vocabulary) === null) {
            throw new InvalidDefinition('vocabulary', "There is no vocabulary “{$this->vocabulary}”.");
        }
        $field = $check->design->field($this->code);
        if ($field?->vocabulary?->dependsOn === $this->code) {
            throw new InvalidDefinition('vocabulary', 'The terms of this vocabulary depend on the field itself.');
        }
        foreach ($this->formerly as $former) {
            if ($check->design->part(DesignKind::Field, $former) !== null) {
                throw new InvalidDefinition('formerly', "The field “{$former}” is still there.");
            }
        }
    }
}
