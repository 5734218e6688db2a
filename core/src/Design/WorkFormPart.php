<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;

/** A form that people outside fill in: what they are asked, and what becomes of what they send. */
final readonly class WorkFormPart extends Part
{
    /**
     * @param  list<string>  $types  codes of the document types: one document is made of each
     * @param  list<SheetEntry>  $fields  what is asked for
     * @param  int  $files  that may be sent along
     * @param  string  $group  who sees what waits
     * @param  bool  $isFiled  whether it is filed at once, so that procedures begin; it waits in intake otherwise
     */
    protected function __construct(
        string $code,
        string $name,
        public string $intro,
        public string $thanks,
        public string $library,
        public array $types,
        public array $fields,
        public int $files,
        public string $group,
        public bool $isFiled,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        return new self(
            $code,
            self::text($content, 'name'),
            self::text($content, 'intro'),
            self::text($content, 'thanks'),
            self::text($content, 'library'),
            Design::codes($content, 'types'),
            SheetEntry::of($content),
            is_int($content['files'] ?? null) ? $content['files'] : 0,
            self::text($content, 'group'),
            ($content['goes'] ?? 'intake') === 'filed',
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::WorkForm;
    }

    public function groups(): array
    {
        return [$this->group];
    }

    public function refersTo(): array
    {
        return [
            [DesignKind::Library, $this->library],
            ...self::each(DesignKind::Type, $this->types),
            ...self::each(DesignKind::Field, $this->fieldCodes()),
        ];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return [[DesignKind::Library, $this->library]];
    }

    /** @return list<string> */
    public function fieldCodes(): array
    {
        return array_map(static fn (SheetEntry $entry): string => $entry->code, $this->fields);
    }

    public function check(DesignCheck $check): void
    {
        $library = $check->design->one(LibraryPart::class, $this->library)
            ?? throw new InvalidDefinition('library', "There is no library “{$this->library}”.");
        if ($this->types === []) {
            throw new InvalidDefinition('types', 'Choose the document type that is made of it.');
        }
        $check->parts(DesignKind::Type, $this->types, 'types');
        DesignCheck::once($this->types, 'types', 'document type');
        DesignCheck::once($this->fieldCodes(), 'fields', 'field');
        $check->groups([$this->group], 'group');
        $onSheets = [];
        foreach ($this->types as $code) {
            $type = $check->design->one(TypePart::class, $code);
            if ($type === null || ! in_array($code, $library->types, true)) {
                throw new InvalidDefinition('types', "{$library->name} does not take documents of the type “".($type->name ?? $code).'”.');
            }
            foreach ($type->fields as $entry) {
                $onSheets[$entry->code] = true;
                $isAsked = array_filter($this->fields, static fn (SheetEntry $of): bool => $of->code === $entry->code && $of->isRequired) !== [];
                $default = $entry->default !== '' ? $entry->default : $check->design->field($entry->code)->default ?? '';
                if ($this->isFiled && $entry->isRequired && ! $isAsked && $default === '') {
                    throw new InvalidDefinition(
                        'fields',
                        "“{$type->name}” needs ".($check->field($entry->code)->label ?? $entry->code).': ask for it, as required, or have it wait in intake.',
                    );
                }
            }
        }
        foreach ($this->fieldCodes() as $code) {
            if (! isset($onSheets[$code])) {
                throw new InvalidDefinition('fields', ($check->field($code)->label ?? $code).' is on the index sheet of none of its document types.');
            }
        }
    }
}
