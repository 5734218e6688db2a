<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/**
 * `index relation term`. The term keeps its masking escapes: `*` and `?` are masks, `\*` and `\?` the signs themselves;
 * others it has not (see Escapes).
 */
final readonly class SearchClause implements Node
{
    /** The index of a term that names none. */
    public const ANYWHERE = 'cql.serverchoice';

    /** Together with any term: every document (CQL context set 1.2). */
    public const EVERYTHING = 'cql.allrecords';

    public string $term;

    /**
     * @param  string  $index  in small letters
     * @param  string  $relation  in small letters
     * @param  list<Modifier>  $modifiers
     */
    public function __construct(
        public string $index,
        public string $relation,
        string $term,
        public array $modifiers = [],
    ) {
        $this->term = Escapes::canonical($term);
    }

    public static function everything(): self
    {
        return new self(self::EVERYTHING, '=', '1');
    }

    public function modifier(string $name): ?Modifier
    {
        foreach ($this->modifiers as $modifier) {
            if ($modifier->name === $name) {
                return $modifier;
            }
        }

        return null;
    }
}
