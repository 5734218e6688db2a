<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** A document type. */
final readonly class TypePart extends SheetPart
{
    /**
     * @param  list<SheetEntry>  $fields
     * @param  list<string>  $names  titles to choose from where the pattern makes none
     * @param  list<string>  $filers  the groups that file it; none means everybody who files
     * @param  list<string>  $designers
     * @param  array<string, mixed>|null  $retention
     */
    protected function __construct(
        string $code,
        string $name,
        string $titlePattern,
        array $fields,
        public array $names,
        public array $filers,
        private array $designers,
        ?array $retention,
    ) {
        parent::__construct($code, $name, $titlePattern, $fields, $retention);
    }

    public static function of(string $code, array $content): static
    {
        return new self(
            $code,
            self::text($content, 'name'),
            self::text($content, 'title_pattern'),
            SheetEntry::of($content),
            Design::codes($content, 'names'),
            Design::codes($content, 'filers'),
            Design::codes($content, 'designers'),
            RetentionOfDesign::in($content),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Type;
    }

    public function designers(): array
    {
        return $this->designers;
    }

    public function groups(): array
    {
        return [...$this->filers, ...$this->designers];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return $check->users($this, LibraryPart::class);
    }

    /** Its name, and the pattern of its titles. */
    public static function touchedBy(DesignChange $change, Design $new): Touched
    {
        return new Touched(types: [$change->code]);
    }

    public function check(DesignCheck $check): void
    {
        parent::check($check);
        $check->groups($this->filers, 'filers');
        $check->designers($this->designers);
    }
}
