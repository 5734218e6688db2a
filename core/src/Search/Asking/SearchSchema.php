<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Nearest;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\ValuesBeside;
use Brenvic\Core\Query\IndexNames;
use Brenvic\Core\Query\SearchClause;

/** What can be searched: the parts of documents that hold words, and the fields. */
final readonly class SearchSchema implements IndexNames
{
    /** Other names of the same things, as other systems and Dublin Core have them. */
    private const ALIASES = [
        'filetype' => 'file_type',
        'filename' => 'file_name',
        'textstate' => 'text_state',
        'reference' => 'ref',
        'names' => 'title',
        'comments' => 'comment',
        'paths' => 'path',
    ];

    /** Names that stand for all parts. */
    public const EVERYWHERE = [SearchClause::ANYWHERE, 'anywhere', 'cql.anywhere', 'cql.anyindexes', 'cql.allindexes', 'cql.keywords'];

    /** Fields of which nearly every document has a value of its own: they are in no dictionary of values. */
    public const OWN_NAMES = ['file_name', 'ref'];

    /** The parts behind an element of Dublin Core. */
    private const DUBLIN_CORE_PARTS = ['title' => Part::Names, 'description' => Part::Text];

    public const DUBLIN_CORE = [
        'title',
        'creator',
        'subject',
        'description',
        'publisher',
        'contributor',
        'date',
        'type',
        'format',
        'identifier',
        'source',
        'language',
        'relation',
        'coverage',
        'rights',
    ];

    /** The context sets known here, by the addresses a query may name them by. */
    private const CONTEXT_SETS = [
        // The names the maintenance agency gives them, and shorter ones that are met as well.
        'info:srw/cql-context-set/1/cql-v1.1' => 'cql',
        'info:srw/cql-context-set/1/cql-v1.2' => 'cql',
        'info:srw/cql-context-set/1/dc-v1.1' => 'dc',
        'info:srw/context-set/1/cql-v1.1' => 'cql',
        'info:srw/context-set/1/cql-v1.2' => 'cql',
        'info:srw/context-set/1/dc-v1.1' => 'dc',
        'http://purl.org/dc/elements/1.1/' => 'dc',
        'http://purl.org/dc/terms/' => 'dc',
        'urn:brenvic:fields' => 'brenvic',
    ];

    /** @var array<string, FieldDefinition> by code */
    public array $fields;

    /** @var array<string, string> code of a field that was merged into another => that other */
    private array $merged;

    public Calendar $calendar;

    /**
     * @param  iterable<FieldDefinition>  $fields  those the asker may search
     * @param  list<Part>  $everywhere  where words are looked for when the query names no place
     * @param  Calendar|null  $calendar  what “this month” means; null for today’s
     * @param  bool  $originals  whether the text of redacted documents is looked in whole
     * @param  string  $stamp  changes whenever a field means something else; empty when that is not known
     * @param  list<ValuesBeside>  $beside  fields whose values are not in the index
     */
    public function __construct(
        iterable $fields,
        public array $everywhere = [Part::Names, Part::Values, Part::Text, Part::Comments, Part::Paths],
        ?Calendar $calendar = null,
        public bool $originals = false,
        public string $stamp = '',
        public array $beside = [],
    ) {
        $byCode = $merged = [];
        foreach ($fields as $field) {
            $byCode[$field->code] = $field;
            $merged += array_fill_keys($field->formerly, $field->code);
        }
        $this->fields = $byCode;
        $this->merged = array_diff_key($merged, $byCode);
        $this->calendar = $calendar ?? Calendar::today();
    }

    /**
     * The same, with words that name no place looked for elsewhere.
     *
     * @param  list<string>  $names  of parts, as queries have them; none leaves it as it is
     * @param  bool  $originals  whether the text of redacted documents is looked in whole
     */
    public function lookingIn(array $names, bool $originals = false): self
    {
        $parts = array_values(array_filter(array_map(Part::named(...), $names)));

        return $parts === [] && $originals === $this->originals
            ? $this
            : new self($this->fields, $parts === [] ? $this->everywhere : $parts, $this->calendar, $originals, $this->stamp, $this->beside);
    }

    /**
     * The same with a field whose values are kept beside the index.
     */
    public function with(FieldDefinition $field, ValuesBeside $values): self
    {
        $fields = [...$this->fields, $field->code => $field];

        return new self($fields, $this->everywhere, $this->calendar, $this->originals, $this->stamp, [...$this->beside, $values]);
    }

    /** A name that all schemas share with which a query means the same today; empty when that is not known. */
    public function name(): string
    {
        return $this->stamp === ''
            ? ''
            : md5(
                serialize([
                    $this->stamp,
                    array_keys($this->fields),
                    $this->everywhere,
                    $this->originals,
                    $this->calendar->today->format('Y-m-d'),
                    $this->calendar->fiscalYearStart,
                ]),
            );
    }

    /** The context set that an address names. */
    public static function contextSet(string $address): string
    {
        return self::CONTEXT_SETS[$address] ??
            throw new SearchError(
                "The context set “{$address}” is not known here. Known are ".implode(', ', array_keys(self::CONTEXT_SETS)).'.',
                fault: SearchFault::ContextSet,
            );
    }

    /**
     * What an index name stands for.
     *
     * @param  array<string, string>  $prefixes  prefix => context set, as the query assigned them; '' for names without one
     *
     * @throws SearchError when it stands for nothing the asker may search
     */
    public function resolve(string $index, array $prefixes = []): SearchTarget
    {
        $name = strtolower($index);
        $dot = strpos($name, '.');
        $prefix = $dot === false ? '' : substr($name, 0, $dot);
        $set = $prefixes[$prefix] ?? $prefix;
        if ($set !== $prefix) {
            $name = "{$set}.".($dot === false ? $name : substr($name, $dot + 1));
        }
        if (in_array($name, self::EVERYWHERE, true)) {
            return new SearchTarget($this->whole($this->everywhere));
        }
        if ($set === 'dc' && str_starts_with($name, 'dc.')) {
            return $this->dublinCore(substr($name, 3));
        }
        $name = str_starts_with($name, 'brenvic.') ? substr($name, 8) : $name;
        $name = isset($this->fields[$name]) ? $name : self::ALIASES[$name] ?? ($this->merged[$name] ?? $name);
        $part = Part::named($name);

        return $part !== null
            ? new SearchTarget($this->whole([$part]))
            : new SearchTarget([], [$this->fields[$name] ?? throw $this->unknown($index)]);
    }

    /** Whether a name stands for something that the asker may search. */
    public function isIndex(string $name): bool
    {
        try {
            $this->resolve($name);

            return true;
        } catch (SearchError) {
            return false;
        }
    }

    /**
     * The parts that an index name stands for, or null when it stands for fields alone.
     *
     * @return list<Part>|null
     *
     * @throws SearchError
     */
    public function parts(string $index): ?array
    {
        $parts = $this->resolve($index)->parts;

        return $parts === [] ? null : $parts;
    }

    /**
     * The first field that an index name stands for.
     *
     * @throws SearchError
     */
    public function field(string $index): FieldDefinition
    {
        return $this->resolve($index)->fields[0] ?? throw $this->unknown($index);
    }

    /**
     * @param  list<Part>  $parts
     * @return list<Part>
     */
    private function whole(array $parts): array
    {
        return $this->originals && array_intersect([Part::Text->value, Part::Earlier->value], array_column($parts, 'value')) !== []
            ? [...$parts, Part::Original]
            : $parts;
    }

    private function dublinCore(string $element): SearchTarget
    {
        if (! in_array($element, self::DUBLIN_CORE, true)) {
            $near = Nearest::of($element, self::DUBLIN_CORE);
            throw new SearchError(
                "Dublin Core has no element “{$element}”.".($near === null ? '' : " The nearest one is “dc.{$near}”."),
                $near === null ? null : "dc.{$near}",
                SearchFault::Index,
            );
        }
        $parts = isset(self::DUBLIN_CORE_PARTS[$element]) ? [self::DUBLIN_CORE_PARTS[$element]] : [];
        $fields = array_values(array_filter($this->fields, static fn (FieldDefinition $field): bool => $field->dublinCore === $element));
        if ($parts === [] && $fields === []) {
            throw new SearchError("No field is mapped to dc.{$element}.", fault: SearchFault::Index);
        }

        return new SearchTarget($this->whole($parts), $fields);
    }

    private function unknown(string $index): SearchError
    {
        $near = $this->nearest($index);

        return new SearchError(
            "There is no field “{$index}”.".($near === null ? '' : " The nearest name is “{$near}”."),
            $near,
            SearchFault::Index,
        );
    }

    private function nearest(string $index): ?string
    {
        $names = array_keys($this->fields);
        foreach (Part::cases() as $part) {
            $names[] = $part->indexName();
        }
        $near = Nearest::of($index, $names);
        if ($near !== null) {
            return $near;
        }
        $labels = [];
        foreach ($this->fields as $field) {
            $labels[$field->label] = $field->code;
        }
        $label = Nearest::of(str_replace('_', ' ', $index), array_keys($labels));

        return $label === null ? null : $labels[$label];
    }
}
