<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;

/**
 * A part of a design as a value. Each kind of part is a class of its own: what it has, what of it must fit, what it refers to,
 * and what belongs together when it is changed. `DesignKind` names the classes.
 */
abstract readonly class Part
{
    protected function __construct(public string $code, public string $name)
    {
    }

    /**
     * Reads a part as a design has it. What is not of the shape that the schema asks for is left out.
     *
     * @param  array<string, mixed>  $content
     */
    abstract public static function of(string $code, array $content): static;

    abstract public static function kind(): DesignKind;

    /** What people call it. */
    final public function calledBy(): string
    {
        return $this->name === '' ? $this->code : $this->name;
    }

    /**
     * Whether it works and fits what is around it.
     *
     * @throws InvalidDefinition naming the property at fault
     */
    abstract public function check(DesignCheck $check): void;

    /** @return list<array{DesignKind, string}> kinds and codes of the parts that it refers to */
    public function refersTo(): array
    {
        return [];
    }

    /** @return list<string> the groups that design it, where it names them */
    public function designers(): array
    {
        return [];
    }

    /** @return list<string> all groups that it names, for whatever */
    public function groups(): array
    {
        return $this->designers();
    }

    /**
     * What it belongs to, or what would change with it: who may not change one of these may not change it either.
     *
     * @param  DesignCheck  $check  of the design that it is in
     * @return list<array{DesignKind, string}> kinds and codes
     */
    public function belongsTo(DesignCheck $check): array
    {
        return [];
    }

    /** Which documents a change of a part of this kind touches, as far as titles and the index are made of it. */
    public static function touchedBy(DesignChange $change, Design $new): Touched
    {
        return new Touched();
    }

    /**
     * @param  list<string>  $codes
     * @return list<array{DesignKind, string}>
     */
    final protected static function each(DesignKind $kind, array $codes): array
    {
        return array_map(static fn (string $code): array => [$kind, $code], $codes);
    }

    /** @param  array<string, mixed>  $content */
    final protected static function text(array $content, string $property): string
    {
        return is_string($content[$property] ?? null) ? $content[$property] : '';
    }

    /**
     * @param  array<string, mixed>  $content
     * @return string|null null when it is empty too
     */
    final protected static function code(array $content, string $property): ?string
    {
        $code = self::text($content, $property);

        return $code === '' ? null : $code;
    }
}
