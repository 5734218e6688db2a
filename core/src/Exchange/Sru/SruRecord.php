<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

/** One record of an answer, as Dublin Core; or why it cannot be shown as that. */
final readonly class SruRecord
{
    /**
     * @param  int  $position  its place in the whole result, from 0
     * @param  array<string, list<string>>  $elements  element in small letters => values
     * @param  string  $fault  in place of elements: what the server says instead of the record, or in which schema it is
     */
    public function __construct(
        public int $position,
        public array $elements,
        public string $fault = '',
    ) {
    }

    public function first(string $element): string
    {
        return $this->elements[$element][0] ?? '';
    }

    /** Where what it describes can be fetched: the first identifier that is an address. */
    public function address(): ?string
    {
        foreach ($this->elements['identifier'] ?? [] as $identifier) {
            if (preg_match('#^https?://[^\s]+$#i', $identifier) === 1) {
                return $identifier;
            }
        }

        return null;
    }
}
