<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Query\IndexNames;
use JsonSerializable;

/** A search as it is kept by name, with a list, or among those made lately. */
final readonly class KeptSearch implements JsonSerializable
{
    /**
     * @param  bool  $any  whether documents with any of the words are found, not only those with all
     * @param  string  $view  code of the view that shows it; empty for none
     * @param  list<string>  $where  parts that words are looked for in; none means all
     * @param  list<string>|null  $outside  the remote repositories that are asked as well; null where that is left to the search
     * @param  list<array{cql: string, negated: bool, on: bool}>  $criteria
     */
    public function __construct(
        public string $words = '',
        public bool $any = false,
        public string $view = '',
        public array $where = [],
        public ?array $outside = null,
        public array $criteria = [],
    ) {
    }

    /** @param  array<array-key, mixed>  $kept  as JSON has it; what is not of the shape is left out */
    public static function of(array $kept): self
    {
        $texts = static fn (mixed $list): array => array_values(array_filter(is_array($list) ? $list : [], is_string(...)));
        $criteria = [];
        foreach (is_array($kept['criteria'] ?? null) ? $kept['criteria'] : [] as $line) {
            if (is_array($line) && is_string($line['cql'] ?? null)) {
                $criteria[] = ['cql' => $line['cql'], 'negated' => (bool) ($line['negated'] ?? false), 'on' => (bool) ($line['on'] ?? true)];
            }
        }

        return new self(
            is_string($kept['words'] ?? null) ? $kept['words'] : '',
            (bool) ($kept['any'] ?? false),
            is_string($kept['view'] ?? null) ? $kept['view'] : '',
            $texts($kept['where'] ?? []),
            isset($kept['outside']) ? $texts($kept['outside']) : null,
            $criteria,
        );
    }

    /** @throws \Brenvic\Core\Query\SyntaxError */
    public function read(IndexNames $names): Criteria
    {
        return Criteria::of($this->words, $this->criteria, $names, $this->any);
    }

    /** What it asks, to tell it by. */
    public function inWords(): string
    {
        return trim($this->words.' '.implode(' ', array_column($this->criteria, 'cql')));
    }

    /** @return array<string, mixed> */
    public function jsonSerialize(): array
    {
        return [
            'words' => $this->words,
            'any' => $this->any,
            'view' => $this->view,
            'where' => $this->where,
            ...$this->outside === null ? [] : ['outside' => $this->outside],
            'criteria' => $this->criteria,
        ];
    }
}
