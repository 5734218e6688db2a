<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;

/** A vocabulary, or a classification scheme. */
final readonly class VocabularyPart extends Part
{
    /**
     * @param  string|null  $dependsOn  the field whose value decides what may be chosen
     * @param  bool  $isByName  whether the terms stand by their names, and not as they were put
     * @param  list<array<string, mixed>>  $terms  see Terms
     */
    protected function __construct(
        string $code,
        string $name,
        public bool $isScheme,
        public ?string $dependsOn,
        public bool $isByName,
        public string $base,
        public array $terms,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        return new self(
            $code,
            self::text($content, 'name'),
            ($content['scheme'] ?? false) === true,
            self::code($content, 'depends_on'),
            ($content['order'] ?? 'hand') === 'name',
            self::text($content, 'base'),
            Design::entries($content, 'terms'),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Vocabulary;
    }

    public function refersTo(): array
    {
        $retention = array_map(
            static fn (array $term): array => RetentionOfDesign::refersTo(RetentionOfDesign::in($term)),
            $this->terms,
        );

        return [
            ...$this->dependsOn === null ? [] : [[DesignKind::Field, $this->dependsOn]],
            ...array_values(array_unique(array_merge([], ...$retention), SORT_REGULAR)),
        ];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return $check->users($this, FieldPart::class);
    }

    /** How a value is written, counted and found. */
    public static function touchedBy(DesignChange $change, Design $new): Touched
    {
        $choosing = array_filter(
            $new->parts(FieldPart::class),
            static fn (FieldPart $field): bool => $field->vocabulary === $change->code,
        );

        return new Touched(fields: array_map(static fn (FieldPart $field): string => $field->code, array_values($choosing)));
    }

    public function check(DesignCheck $check): void
    {
        $check->design->vocabulary($this->code);
        foreach ($this->terms as $term) {
            RetentionOfDesign::check($check, RetentionOfDesign::in($term));
            if (is_array($term['from'] ?? null)) {
                $check->criterion(is_string($term['from']['criterion'] ?? null) ? $term['from']['criterion'] : '', 'terms');
            }
        }
        if ($this->dependsOn !== null) {
            $check->fields([$this->dependsOn], 'depends_on');
            if ($check->design->one(FieldPart::class, $this->dependsOn)?->vocabulary === null) {
                throw new InvalidDefinition('depends_on', 'A vocabulary depends on a choice field.');
            }
        }
    }
}
