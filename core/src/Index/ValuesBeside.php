<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

use Closure;

/**
 * Values of a field that are kept beside the index, since they are not the same for everybody: which documents have each. Searches and
 * facets take them like those in the index.
 */
final class ValuesBeside
{
    /** @var array<int, string> number => normal form */
    public readonly array $terms;

    /** @var array<string, DocumentSet>|null by normal form */
    private ?array $sets = null;

    /**
     * @param  list<string>  $values  normal forms
     * @param  Closure(): array<string, DocumentSet>  $read  gives the documents of each
     */
    public function __construct(public readonly string $field, array $values, private readonly Closure $read)
    {
        $this->terms = $values === [] ? [] : array_combine(range(1, count($values)), $values);
    }

    public function documents(int $number): DocumentSet
    {
        $this->sets ??= ($this->read)();
        if ($number === Keys::ANY) {
            return DocumentSet::union($this->sets);
        }

        return $this->sets[$this->terms[$number] ?? ''] ?? DocumentSet::none();
    }

    /** @return array<int, int> number => how many documents of a set have the value, without zeros */
    public function counts(DocumentSet $set): array
    {
        $counts = [];
        foreach (array_keys($this->terms) as $number) {
            $counts[$number] = $this->documents($number)->countCommon($set);
        }

        return array_filter($counts);
    }
}
