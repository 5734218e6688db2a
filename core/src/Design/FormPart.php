<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** A search form. */
final readonly class FormPart extends Part
{
    /**
     * @param  list<string>  $libraries  codes of those it is about; none means all
     * @param  list<string>  $types  codes likewise
     * @param  list<array{code: string, relation: string}>  $fields
     */
    protected function __construct(
        string $code,
        string $name,
        public array $libraries,
        public array $types,
        public array $fields,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        return new self(
            $code,
            self::text($content, 'name'),
            Design::codes($content, 'libraries'),
            Design::codes($content, 'types'),
            array_map(
                static fn (array $field): array => ['code' => self::text($field, 'code'), 'relation' => self::text($field, 'relation')],
                Design::entries($content, 'fields'),
            ),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Form;
    }

    public function refersTo(): array
    {
        return [...self::each(DesignKind::Field, array_column($this->fields, 'code')), ...$this->places()];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return $this->places();
    }

    /** @return list<array{DesignKind, string}> */
    private function places(): array
    {
        return [...self::each(DesignKind::Library, $this->libraries), ...self::each(DesignKind::Type, $this->types)];
    }

    public function check(DesignCheck $check): void
    {
        $codes = array_column($this->fields, 'code');
        $check->fields($codes, 'fields');
        DesignCheck::once($codes, 'fields', 'field');
        $check->parts(DesignKind::Library, $this->libraries, 'libraries');
        $check->parts(DesignKind::Type, $this->types, 'types');
    }
}
