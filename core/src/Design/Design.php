<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\Kinds\FieldKinds;
use Brenvic\Core\Fields\Vocabulary;

/**
 * A whole design: repositories, vocabularies, fields, types, libraries, views and the rest of DesignKind, each part by its
 * code with its content as in a design file (docs/design.schema.json). Designs never change; a part put in or taken out makes a new one.
 */
final readonly class Design
{
    /** @param  array<string, array<string, array<string, mixed>>>  $parts  kind => code => content, in their order */
    public function __construct(private array $parts = [])
    {
    }

    /** @return array<string, array<string, mixed>> by code */
    public function all(DesignKind $kind): array
    {
        return $this->parts[$kind->value] ?? [];
    }

    /** @return array<string, mixed>|null */
    public function part(DesignKind $kind, string $code): ?array
    {
        return $this->parts[$kind->value][$code] ?? null;
    }

    /**
     * The parts of a kind as values.
     *
     * @template T of Part
     *
     * @param  class-string<T>  $class
     * @return array<string, T> by code, in their order
     */
    public function parts(string $class): array
    {
        $parts = [];
        foreach ($this->all($class::kind()) as $code => $content) {
            $parts[$code] = $class::of((string) $code, $content);
        }

        return $parts;
    }

    /**
     * @template T of Part
     *
     * @param  class-string<T>  $class
     * @return T|null
     */
    public function one(string $class, string $code): ?Part
    {
        $content = $this->part($class::kind(), $code);

        return $content === null ? null : $class::of($code, $content);
    }

    /** Whether what is in a repository is elsewhere. */
    public function isRemote(string $repository): bool
    {
        return $this->one(RepositoryPart::class, $repository)?->isRemote() === true;
    }

    /**
     * The design with a part put in, or taken out.
     *
     * @param  array<string, mixed>|null  $content
     */
    public function with(DesignKind $kind, string $code, ?array $content): self
    {
        $parts = $this->parts;
        if ($content === null) {
            unset($parts[$kind->value][$code]);
        } else {
            $parts[$kind->value][$code] = $content;
        }

        return new self($parts);
    }

    /** Whether two contents say the same, whatever the order of their properties. */
    public static function same(mixed $a, mixed $b): bool
    {
        return json_encode(self::sorted($a)) === json_encode(self::sorted($b));
    }

    private static function sorted(mixed $value): mixed
    {
        if (is_array($value)) {
            array_is_list($value) || ksort($value);
            $value = array_map(self::sorted(...), $value);
        }

        return $value;
    }

    /**
     * What a part is called by people.
     *
     * @param  array<string, mixed>|null  $content
     */
    public static function nameOf(DesignKind $kind, string $code, ?array $content): string
    {
        $name = $content[$kind === DesignKind::Field ? 'label' : 'name'] ?? null;

        return is_string($name) && $name !== '' ? $name : $code;
    }

    /** @throws InvalidDefinition */
    public function field(string $code): ?FieldDefinition
    {
        $content = $this->part(DesignKind::Field, $code);
        if ($content === null) {
            return null;
        }
        $text = static fn (string $property): string => is_string($content[$property] ?? null) ? $content[$property] : '';
        $number = static fn (string $property): ?float => is_numeric($content[$property] ?? null) ? (float) $content[$property] : null;
        $kind = FieldKinds::find($text('kind')) ?? throw new InvalidDefinition('kind', "There is no kind of field “{$text('kind')}”.");

        return new FieldDefinition(
            code: $code,
            label: $text('label'),
            kind: $kind,
            multiple: ($content['multiple'] ?? false) === true,
            faceted: ($content['faceted'] ?? false) === true,
            sensitive: ($content['sensitive'] ?? false) === true,
            vocabulary: $text('vocabulary') === '' ? null : $this->vocabulary($text('vocabulary')),
            unit: $text('unit'),
            pattern: $text('pattern'),
            minimum: $number('minimum'),
            maximum: $number('maximum'),
            help: $text('help'),
            dublinCore: $text('dublin_core') === '' ? null : $text('dublin_core'),
            maxLength: is_int($content['max_length'] ?? null) ? $content['max_length'] : null,
            default: $text('default'),
            refersTo: $text('refers_to') === 'dossier' ? 'dossier' : 'document',
            formerly: self::codes($content, 'formerly'),
        );
    }

    /** @return array<string, FieldDefinition> by code */
    public function fields(): array
    {
        $fields = [];
        foreach (array_keys($this->all(DesignKind::Field)) as $code) {
            $field = $this->field((string) $code);
            if ($field !== null) {
                $fields[$field->code] = $field;
            }
        }

        return $fields;
    }

    /** @throws InvalidDefinition when terms go in circles or hang in the air */
    public function vocabulary(string $code): ?Vocabulary
    {
        $content = $this->part(DesignKind::Vocabulary, $code);
        if ($content === null) {
            return null;
        }
        $terms = new Terms(self::entries($content, 'terms'));
        $dependsOn = is_string($content['depends_on'] ?? null) ? $content['depends_on'] : null;

        return new Vocabulary($code, $terms->ordered(($content['order'] ?? 'hand') === 'name'), $dependsOn);
    }

    /**
     * The entries of a list within a part that are objects.
     *
     * @param  array<string, mixed>|null  $content
     * @return list<array<string, mixed>>
     */
    public static function entries(?array $content, string $property): array
    {
        /** @var list<array<string, mixed>> */
        return array_values(array_filter(is_array($content[$property] ?? null) ? $content[$property] : [], is_array(...)));
    }

    /**
     * The codes that a list within a part names.
     *
     * @param  array<string, mixed>|null  $content
     * @param  string  $key  the property of each entry that holds the code; empty when the entries are codes
     * @return list<string>
     */
    public static function codes(?array $content, string $property, string $key = ''): array
    {
        $codes = [];
        foreach (is_array($content[$property] ?? null) ? $content[$property] : [] as $entry) {
            $code = $key === '' ? $entry : (is_array($entry) ? $entry[$key] ?? null : null);
            if (is_string($code)) {
                $codes[] = $code;
            }
        }

        return $codes;
    }
}
