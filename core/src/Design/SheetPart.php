<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** What document types and dossier kinds have alike: a sheet of fields, and a title made of it. */
abstract readonly class SheetPart extends Part
{
    /**
     * @param  list<SheetEntry>  $fields
     * @param  array<string, mixed>|null  $retention  how long is kept what it is about (see RetentionOfDesign)
     */
    protected function __construct(
        string $code,
        string $name,
        public string $titlePattern,
        public array $fields,
        public ?array $retention = null,
    ) {
        parent::__construct($code, $name);
    }

    /** @return list<string> */
    final public function fieldCodes(): array
    {
        return array_map(static fn (SheetEntry $entry): string => $entry->code, $this->fields);
    }

    public function refersTo(): array
    {
        return [...self::each(DesignKind::Field, $this->fieldCodes()), ...RetentionOfDesign::refersTo($this->retention)];
    }

    public function check(DesignCheck $check): void
    {
        $codes = $this->fieldCodes();
        $check->fields($codes, 'fields');
        DesignCheck::once($codes, 'fields', 'field');
        $check->title($this->titlePattern, $codes);
        foreach ($this->fields as $entry) {
            $check->entry($entry);
        }
        RetentionOfDesign::check($check, $this->retention);
    }
}
