<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Reading\Direction;
use Brenvic\Core\Reading\KindRule;
use Brenvic\Core\Reading\PatternRule;
use Brenvic\Core\Reading\PositionRule;
use Brenvic\Core\Reading\ReadingRule;
use Brenvic\Core\Reading\SafePattern;
use Brenvic\Core\Reading\WordListRule;

/** A reading rule: how values of a field are read out of the text of documents. */
final readonly class ReadingPart extends Part
{
    /** Whatever fits the kind of the field. */
    public const KIND = 'kind';

    public const WORDS = 'words';

    public const PATTERN = 'pattern';

    public const POSITION = 'position';

    /**
     * @param  string  $field  code of the field whose values it reads
     * @param  list<string>  $types  codes of the document types that it reads; none for all that have the field
     * @param  list<array{string, list<string>}>  $words  values, each with its other spellings
     * @param  string|null  $vocabulary  code of the vocabulary whose terms are looked for, in place of words
     * @param  string  $anchor  the printed words beside which a value stands
     * @param  bool  $isMention  whether all that it finds counts as mentioned in the text, instead of being proposed for the sheet
     * @param  bool  $isStored  whether it is put on the sheet where the field is empty, without being asked
     */
    protected function __construct(
        string $code,
        string $name,
        public string $field,
        public array $types,
        public string $method,
        public array $words,
        public ?string $vocabulary,
        public string $pattern,
        public string $anchor,
        public Direction $direction,
        public bool $isMention,
        public bool $isStored,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        $words = [];
        foreach (Design::entries($content, 'words') as $entry) {
            $value = self::text($entry, 'value');
            if ($value !== '') {
                $words[] = [$value, Design::codes($entry, 'spellings')];
            }
        }

        return new self(
            $code,
            self::text($content, 'name'),
            self::text($content, 'field'),
            Design::codes($content, 'types'),
            self::text($content, 'method') ?: self::KIND,
            $words,
            self::code($content, 'vocabulary'),
            self::text($content, 'pattern'),
            trim(self::text($content, 'anchor')),
            Direction::tryFrom(self::text($content, 'direction')) ?? Direction::Behind,
            ($content['for'] ?? 'sheet') === 'mention',
            ($content['for'] ?? 'sheet') === 'stored',
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Reading;
    }

    public function refersTo(): array
    {
        return [
            [DesignKind::Field, $this->field],
            ...self::each(DesignKind::Type, $this->types),
            ...self::each(DesignKind::Vocabulary, array_filter([$this->vocabulary])),
        ];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return [[DesignKind::Field, $this->field]];
    }

    /** Documents whose texts it read, and those whose texts it reads from now on. */
    public static function touchedBy(DesignChange $change, Design $new): Touched
    {
        $types = $libraries = [];
        foreach (array_filter([$change->before, $change->after]) as $content) {
            $part = self::of($change->code, $content);
            if ($part->isMention) {
                array_push($types, ...$part->types);
                array_push($libraries, ...$part->types === [] ? array_map(strval(...), array_keys($new->all(DesignKind::Library))) : []);
            }
        }

        return new Touched(types: array_values(array_unique($types)), libraries: array_values(array_unique($libraries)));
    }

    /** Whether it reads documents of a type. */
    public function reads(?string $type): bool
    {
        return $this->types === [] || in_array($type, $this->types, true);
    }

    /**
     * The rule as it works.
     *
     * @throws InvalidDefinition
     */
    public function rule(Design $design): ReadingRule
    {
        return match ($this->method) {
            self::WORDS => new WordListRule($this->vocabulary === null ? $this->words : self::terms($design, $this->vocabulary)),
            self::PATTERN => new PatternRule(SafePattern::of($this->pattern)),
            self::POSITION => new PositionRule($this->anchor, $this->direction),
            default => new KindRule(),
        };
    }

    public function check(DesignCheck $check): void
    {
        $check->fields([$this->field], 'field');
        $check->parts(DesignKind::Type, $this->types, 'types');
        $check->parts(DesignKind::Vocabulary, array_filter([$this->vocabulary]), 'vocabulary');
        if ($this->method === self::WORDS && $this->vocabulary === null && $this->words === []) {
            throw new InvalidDefinition('words', 'Enter words, or choose a vocabulary.');
        }
        if ($this->method === self::POSITION && Tokenizer::words($this->anchor) === []) {
            throw new InvalidDefinition('anchor', 'Enter the words printed beside the value, such as “Permit no.”.');
        }
        if ($this->isMention) {
            $this->checkMention($check);
        }
        $this->rule($check->design);
    }

    /** What texts mention is nobody's to type, and mostly several. */
    private function checkMention(DesignCheck $check): void
    {
        foreach ([TypePart::class, DossierKindPart::class] as $class) {
            foreach ($check->design->parts($class) as $sheet) {
                if (in_array($this->field, $sheet->fieldCodes(), true)) {
                    throw new InvalidDefinition(
                        'field',
                        "This field is on the sheet of “{$sheet->calledBy()}”. A field for mentioned values cannot be on any sheet.",
                    );
                }
            }
        }
        if ($check->field($this->field)?->multiple !== true) {
            throw new InvalidDefinition('field', 'A text can mention several values. Allow several values in this field.');
        }
    }

    /** @return list<array{string, list<string>}> the terms of a vocabulary, as words */
    private static function terms(Design $design, string $vocabulary): array
    {
        $terms = $design->vocabulary($vocabulary)->terms ?? [];

        return array_values(array_map(static fn (VocabularyTerm $term): array => [$term->label, $term->synonyms], $terms));
    }
}
