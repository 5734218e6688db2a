<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;

/**
 * What the name of a file says of it: `{structure}_{document_date}` takes `Swan lock_2024-03-14.pdf` apart. Folders below the one
 * that is watched are named with slashes, `{waterway}/{document_date} {title}`; the ending of the file is no part of it.
 */
final readonly class NamePattern
{
    private const FIELD = '/\{([a-z0-9][a-z0-9_-]{0,39})\}/';

    /** A name of a file is a line: what is longer is none. */
    private const LONGEST = 1_000;

    /** @var list<string> codes of the fields, in their order */
    public array $fields;

    public function __construct(public string $pattern)
    {
        preg_match_all(self::FIELD, $pattern, $found);
        $this->fields = $found[1];
    }

    /** @throws InvalidDefinition when it cannot tell the fields apart */
    public function check(string $property): void
    {
        if ($this->pattern === '') {
            return;
        }
        if ($this->fields === []) {
            throw new InvalidDefinition($property, 'Name at least one field, like {structure}.');
        }
        if (count(array_unique($this->fields)) < count($this->fields)) {
            throw new InvalidDefinition($property, 'A field can stand there once only.');
        }
        if (preg_match('/\}\{/', $this->pattern) === 1) {
            throw new InvalidDefinition($property, 'Something must stand between two fields, or nobody can tell where one ends.');
        }
        if (str_contains(preg_replace(self::FIELD, '', $this->pattern) ?? '', '{')) {
            throw new InvalidDefinition($property, 'There is a brace that encloses no field.');
        }
    }

    /**
     * The texts of the fields, by code; null when a name is not of this form.
     *
     * @param  string  $path  of the file within the watched folder
     * @return array<string, string>|null
     */
    public function read(string $path): ?array
    {
        if ($this->pattern === '' || strlen($path) > self::LONGEST) {
            return null;
        }
        $stem = (string) preg_replace('/\.[\p{L}\d]{1,8}$/u', '', $path);
        $parts = preg_split(self::FIELD, $this->pattern, -1, PREG_SPLIT_DELIM_CAPTURE) ?: [];
        $regex = '';
        foreach ($parts as $i => $part) {
            // As little as can be: what stands between two fields ends the first of them.
            $regex .= $i % 2 === 0 ? preg_quote($part, '/') : '([^\/]+?)';
        }
        if (preg_match("/^{$regex}$/u", $stem, $found) !== 1) {
            return null;
        }

        return array_combine($this->fields, array_map(trim(...), array_slice($found, 1)));
    }
}
