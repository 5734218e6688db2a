<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** A kind of dossiers. */
final readonly class DossierKindPart extends SheetPart
{
    /**
     * @param  list<SheetEntry>  $fields
     * @param  list<array{code: string, name: string}>  $sections
     * @param  list<string>  $types  codes of those that belong in it; none means all
     * @param  string|null  $view  that shows what is in a dossier
     * @param  string|null  $listView  that shows the dossiers
     * @param  array<string, mixed>|null  $retention
     */
    protected function __construct(
        string $code,
        string $name,
        string $titlePattern,
        array $fields,
        public array $sections,
        public array $types,
        public ?string $view,
        public ?string $listView,
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
            array_map(
                static fn (array $section): array => ['code' => self::text($section, 'code'), 'name' => self::text($section, 'name')],
                Design::entries($content, 'sections'),
            ),
            Design::codes($content, 'types'),
            self::code($content, 'view'),
            self::code($content, 'list_view'),
            RetentionOfDesign::in($content),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::DossierKind;
    }

    public function refersTo(): array
    {
        return [
            ...parent::refersTo(),
            ...self::each(DesignKind::Type, $this->types),
            ...self::each(DesignKind::View, array_values(array_filter([$this->view, $this->listView]))),
        ];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return self::each(DesignKind::Type, $this->types);
    }

    /** What it hands down. */
    public static function touchedBy(DesignChange $change, Design $new): Touched
    {
        return new Touched(dossierKinds: [$change->code]);
    }

    public function check(DesignCheck $check): void
    {
        parent::check($check);
        DesignCheck::once(array_column($this->sections, 'code'), 'sections', 'section');
        $check->parts(DesignKind::Type, $this->types, 'types');
        $check->parts(DesignKind::View, array_filter([$this->view]), 'view');
        $check->parts(DesignKind::View, array_filter([$this->listView]), 'list_view');
    }
}
