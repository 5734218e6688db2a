<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;

/** A source: how documents arrive by themselves, where they wait, and what is known of them before anybody looks. */
final readonly class SourcePart extends Part
{
    /** A folder that is watched. */
    public const FOLDER = 'folder';

    /** A mailbox on a mail server. */
    public const MAILBOX = 'mailbox';

    /** A scanner in the network. */
    public const SCANNER = 'scanner';

    /**
     * @param  string  $way  how it arrives
     * @param  string  $folder  that is watched: its path below the one for all sources
     * @param  string  $mailbox  by which the settings of the server know where it is and who signs in
     * @param  string  $scanner  by which the settings of the server know where it is
     * @param  string|null  $type  code of the document type that is proposed
     * @param  array<string, string>  $values  texts that are proposed, by field code
     * @param  list<MailRule>  $rules  what is known of mails that fit a criterion
     * @param  string  $group  who sees what arrives
     * @param  bool  $isRemoved  whether the original is removed once the document is safe, instead of being kept apart
     */
    protected function __construct(
        string $code,
        string $name,
        public string $way,
        public string $folder,
        public string $mailbox,
        public string $scanner,
        public string $library,
        public ?string $type,
        public NamePattern $pattern,
        public array $values,
        public array $rules,
        public string $group,
        public bool $isRemoved,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        $values = [];
        foreach (Design::entries($content, 'values') as $value) {
            if (is_string($value['code'] ?? null)) {
                $values[$value['code']] = self::text($value, 'value');
            }
        }

        return new self(
            $code,
            self::text($content, 'name'),
            self::text($content, 'way') ?: self::FOLDER,
            trim(self::text($content, 'folder'), '/'),
            self::text($content, 'mailbox'),
            self::text($content, 'scanner'),
            self::text($content, 'library'),
            self::code($content, 'type'),
            new NamePattern(self::text($content, 'pattern')),
            $values,
            MailRule::all($content),
            self::text($content, 'group'),
            ($content['original'] ?? 'kept') === 'removed',
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Source;
    }

    public function groups(): array
    {
        return [$this->group];
    }

    public function refersTo(): array
    {
        return [
            [DesignKind::Library, $this->library],
            ...self::each(DesignKind::Type, $this->typeCodes()),
            ...self::each(DesignKind::Field, $this->fieldCodes()),
        ];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return [[DesignKind::Library, $this->library]];
    }

    /** @return list<string> */
    private function fieldCodes(): array
    {
        return array_values(array_unique([...$this->given(), ...$this->pattern->fields]));
    }

    /** @return list<string> the fields that it gives values to */
    private function given(): array
    {
        $rules = array_map(static fn (MailRule $rule): array => array_keys($rule->values), $this->rules);

        return array_values(array_unique(array_map(strval(...), [...array_keys($this->values), ...array_merge(...$rules)])));
    }

    /** @return list<string> */
    private function typeCodes(): array
    {
        return array_values(array_filter([$this->type, ...array_map(static fn (MailRule $rule): ?string => $rule->type, $this->rules)]));
    }

    public function check(DesignCheck $check): void
    {
        $library = $check->design->one(LibraryPart::class, $this->library);
        if ($library === null) {
            throw new InvalidDefinition('library', "There is no library “{$this->library}”.");
        }
        $check->parts(DesignKind::Type, array_filter([$this->type]), 'type');
        $check->parts(DesignKind::Type, $this->typeCodes(), 'rules');
        foreach ($this->typeCodes() as $type) {
            if (! in_array($type, $library->types, true)) {
                throw new InvalidDefinition($type === $this->type ? 'type' : 'rules', "{$library->name} does not take documents of this type.");
            }
        }
        if ($this->rules !== [] && $this->way !== self::MAILBOX) {
            throw new InvalidDefinition('rules', 'Only mails are held against rules.');
        }
        foreach ($this->rules as $rule) {
            $rule->check();
        }
        match ($this->way) {
            self::MAILBOX => self::checkName($this->mailbox, 'mailbox'),
            self::SCANNER => self::checkName($this->scanner, 'scanner'),
            default => $this->checkFolder($check),
        };
        if ($this->way !== self::FOLDER && $this->pattern->pattern !== '') {
            throw new InvalidDefinition('pattern', 'Only what lies in a folder has names of files.');
        }
        $this->pattern->check('pattern');
        $check->fields($this->pattern->fields, 'pattern');
        $check->fields($this->given(), 'values');
        $check->groups([$this->group], 'group');
    }

    private static function checkName(string $name, string $what): void
    {
        if (preg_match('/^[a-z0-9][a-z0-9_-]*$/', $name) !== 1) {
            throw new InvalidDefinition($what, "Name the {$what} as the settings of the server do, like “office”.");
        }
    }

    private function checkFolder(DesignCheck $check): void
    {
        if ($this->folder === '' || preg_match('#(^|/)\.#', $this->folder) === 1 || preg_match('/[\x00-\x1F\\\\]/', $this->folder) === 1) {
            throw new InvalidDefinition('folder', 'Name a folder below the one for all sources, like “scans/harbour”.');
        }
        foreach ($check->design->parts(self::class) as $other) {
            if ($other->way !== self::FOLDER) {
                continue;
            }
            // What lies in one folder would be seen by both.
            if ($other->code !== $this->code && str_starts_with("{$other->folder}/", "{$this->folder}/")) {
                throw new InvalidDefinition('folder', "The source “{$other->name}” watches this folder, or one in it.");
            }
            if ($other->code !== $this->code && str_starts_with("{$this->folder}/", "{$other->folder}/")) {
                throw new InvalidDefinition('folder', "The source “{$other->name}” watches the folder that this one is in.");
            }
        }
    }
}
