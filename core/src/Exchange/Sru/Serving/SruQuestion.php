<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru\Serving;

use Brenvic\Core\Query\SortKey;

/** A request to an SRU server, read and found to be one. */
final readonly class SruQuestion
{
    /** Records in one answer, and what is meant where nothing is said. */
    public const MOST = 1_000;

    private const USUAL = 10;

    private const TERMS = 20;

    public const MOST_TERMS = 1_000;

    /** Values of a facet. */
    public const MOST_VALUES = 1_000;

    private const USUAL_VALUES = 10;

    private const LONGEST = 60_000;

    private const KNOWN = [
        'operation',
        'version',
        'query',
        'queryType',
        'startRecord',
        'maximumRecords',
        'recordSchema',
        'recordPacking',
        'recordXMLEscaping',
        'resultSetTTL',
        'sortKeys',
        'stylesheet',
        'renderedBy',
        'extraRequestData',
        'httpAccept',
        'responseType',
        'facetLimit',
        'facetStart',
        'facetSort',
        'facetCount',
        'scanClause',
        'responsePosition',
        'maximumTerms',
        'recordXPath',
    ];

    /**
     * @param  string  $query  of a search, or the clause of a scan
     * @param  int  $start  from 1
     * @param  bool  $isText  whether records stand in the answer as text
     * @param  list<SortKey>|null  $sort  that of version 1.1; null where the query says it
     * @param  int|null  $facets  values of each facet; null for none
     * @param  array<string, int>  $facetLimits  by index, where only some are asked for
     * @param  array<string, int>  $facetStarts  from 1, by index; '' for all
     * @param  int  $position  of the term of a scan, from 1; 0 before the first
     * @param  array<string, string>  $given  as it came
     */
    private function __construct(
        public Version $version,
        public Operation $operation,
        public string $query,
        public int $start,
        public int $most,
        public string $schema,
        public bool $isText,
        public ?array $sort,
        public ?int $facets,
        public array $facetLimits,
        public array $facetStarts,
        public bool $facetsByName,
        public int $position,
        public array $given,
    ) {
    }

    /**
     * The version that an answer to some parameters has, whatever is wrong with them.
     *
     * @param  array<array-key, mixed>  $given
     */
    public static function versionOf(array $given): Version
    {
        $said = is_string($given['version'] ?? null) ? $given['version'] : '';

        return Version::tryFrom($said) ?? (isset($given['operation']) || $said !== '' ? Version::V12 : Version::V20);
    }

    /** @param  array<array-key, mixed>  $given */
    public static function operationOf(array $given): Operation
    {
        return match (true) {
            is_string($given['operation'] ?? null) => Operation::tryFrom($given['operation']) ?? Operation::Explain,
            isset($given['scanClause']) => Operation::Scan,
            isset($given['query']) => Operation::SearchRetrieve,
            default => Operation::Explain,
        };
    }

    /**
     * @param  array<array-key, mixed>  $given  the parameters
     *
     * @throws Diagnostic
     */
    public static function read(array $given): self
    {
        $texts = [];
        foreach ($given as $name => $value) {
            if (! is_string($value)) {
                throw new Diagnostic(Diagnostic::VALUE, (string) $name);
            }
            // What is not ours may be given to anybody (`x-…`).
            if (! in_array($name, self::KNOWN, true) && ! str_starts_with((string) $name, 'x-')) {
                throw new Diagnostic(Diagnostic::PARAMETER, (string) $name);
            }
            $texts[(string) $name] = $value;
        }
        $version = self::versionOf($texts);
        $said = $texts['version'] ?? '';
        if ($said !== '' && Version::tryFrom($said) === null) {
            throw new Diagnostic(Diagnostic::VERSION, Version::V20->value);
        }
        if (isset($texts['operation']) && Operation::tryFrom($texts['operation']) === null) {
            throw new Diagnostic(Diagnostic::OPERATION, $texts['operation']);
        }
        foreach (['stylesheet', 'recordXPath'] as $not) {
            ($texts[$not] ?? '') === '' ||
                throw new Diagnostic($not === 'stylesheet' ? Diagnostic::STYLESHEET : Diagnostic::PARAMETER, $not);
        }
        $operation = self::operationOf($texts);
        $query = match ($operation) {
            Operation::SearchRetrieve => $texts['query'] ?? throw new Diagnostic(Diagnostic::MISSING, 'query'),
            Operation::Scan => $texts['scanClause'] ?? throw new Diagnostic(Diagnostic::MISSING, 'scanClause'),
            Operation::Explain => '',
        };
        strlen($query) <= self::LONGEST || throw new Diagnostic(Diagnostic::TOO_LONG, (string) self::LONGEST);
        if (! in_array($texts['queryType'] ?? 'cql', ['cql', ''], true)) {
            throw new Diagnostic(Diagnostic::VALUE, 'queryType');
        }
        [$facets, $limits] = self::limits($texts['facetLimit'] ?? '');

        return new self(
            $version,
            $operation,
            $query,
            self::number($texts, 'startRecord', 1, 1, PHP_INT_MAX),
            min(self::MOST, self::number($texts, 'maximumRecords', self::USUAL, 0, PHP_INT_MAX)),
            $texts['recordSchema'] ?? '',
            self::isText($texts),
            ($texts['sortKeys'] ?? '') === '' ? null : self::sortKeys($texts['sortKeys']),
            $facets,
            $limits,
            self::starts($texts['facetStart'] ?? ''),
            str_starts_with(strtolower($texts['facetSort'] ?? ''), 'alphanumeric'),
            self::number($texts, 'responsePosition', 1, 0, self::MOST_TERMS),
            $texts,
        );
    }

    /** How many terms a scan is asked for. */
    public function terms(): int
    {
        $most = self::number($this->given, 'maximumTerms', self::TERMS, 1, PHP_INT_MAX);

        return $most <= self::MOST_TERMS ? $most : throw new Diagnostic(Diagnostic::TOO_MANY_TERMS, (string) self::MOST_TERMS);
    }

    /** @param  array<string, string>  $given */
    private static function number(array $given, string $name, int $usual, int $least, int $most): int
    {
        $text = $given[$name] ?? '';
        if ($text === '') {
            return $usual;
        }
        $number = preg_match('/^\d{1,18}$/D', $text) === 1 ? (int) $text : -1;
        if ($number < $least || $number > $most) {
            throw new Diagnostic(Diagnostic::VALUE, $name);
        }

        return $number;
    }

    /** @param  array<string, string>  $given */
    private static function isText(array $given): bool
    {
        $said = $given['recordXMLEscaping'] ?? ($given['recordPacking'] ?? 'xml');

        return match ($said) {
            'xml', '', 'packed', 'unpacked' => false,
            'string' => true,
            default => throw new Diagnostic(Diagnostic::PACKING, $said),
        };
    }

    /**
     * `path,schema,ascending,caseSensitive,missingValue`, several with blanks between (SRU 1.1).
     *
     * @return list<SortKey>
     */
    private static function sortKeys(string $text): array
    {
        $keys = [];
        foreach (preg_split('/\s+/', trim($text)) ?: [] as $key) {
            $parts = explode(',', $key);
            $path = trim($parts[0], '/');
            $set = trim($parts[1] ?? '');
            // A path of the schema for Dublin Core is an element of it.
            $index = $set === '' || $set === 'brenvic' ? $path : (str_contains($path, '.') ? $path : "dc.{$path}");
            $index === '' && throw new Diagnostic(Diagnostic::SORT_KEY, $key);
            $keys[] = SortKey::of($index, ($parts[2] ?? '') === '0' || strtolower($parts[2] ?? '') === 'descending');
        }

        return $keys;
    }

    /**
     * `10`, or `10:dc.subject,5:type` (SRU 2.0, faceted results).
     *
     * @return array{int|null, array<string, int>}
     */
    private static function limits(string $text): array
    {
        $all = null;
        $each = [];
        foreach ($text === '' ? [] : explode(',', $text) as $limit) {
            [$number, $index] = [...explode(':', trim($limit), 2), ''];
            if (preg_match('/^\d{1,9}$/D', $number) !== 1) {
                throw new Diagnostic(Diagnostic::VALUE, 'facetLimit');
            }
            $most = min(self::MOST_VALUES, (int) $number);
            $index === '' ? ($all = $most) : ($each[$index] = $most);
        }

        return [$all ?? ($each === [] ? null : self::USUAL_VALUES), $each];
    }

    /** @return array<string, int> */
    private static function starts(string $text): array
    {
        $starts = [];
        foreach ($text === '' ? [] : explode(',', $text) as $start) {
            [$number, $index] = [...explode(':', trim($start), 2), ''];
            if (preg_match('/^[1-9]\d{0,8}$/D', $number) !== 1) {
                throw new Diagnostic(Diagnostic::VALUE, 'facetStart');
            }
            $starts[$index] = (int) $number;
        }

        return $starts;
    }
}
