<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Query\IndexNames;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SyntaxError;
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
     * @param  Reach  $reach  how far plain words reach: kept with the search, which so goes on finding the same whoever opens it
     * @param  bool  $once  whether near copies are counted once
     */
    public function __construct(
        public string $words = '',
        public bool $any = false,
        public string $view = '',
        public array $where = [],
        public ?array $outside = null,
        public array $criteria = [],
        public Reach $reach = Reach::AsWritten,
        public bool $once = false,
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
            Reach::tryFrom(is_string($kept['reach'] ?? null) ? $kept['reach'] : '') ?? Reach::AsWritten,
            (bool) ($kept['once'] ?? false),
        );
    }

    /** @throws \Brenvic\Core\Query\SyntaxError */
    public function read(IndexNames $names): Criteria
    {
        return Criteria::of($this->words, $this->criteria, $names, $this->any, $this->reach);
    }

    /** What it asks, as the ledger says it; a line that is switched off or cannot be read any more is left out. */
    public function inWords(SearchSchema $schema): string
    {
        $told = $this->words === '' ? [] : [$this->words];
        foreach ($this->criteria as $line) {
            try {
                $of = Criterion::describe(Parser::parse($line['cql'])->root, $schema, $line['negated']);
            } catch (SyntaxError|SearchError) {
                continue;
            }
            if ($line['on']) {
                $told[] = trim(($of['field'] === null && $of['subject'] === 'Document' ? '' : "{$of['subject']} ")."{$of['relation']} {$of['value']}");
            }
        }

        return implode('; ', $told);
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
            ...$this->reach === Reach::AsWritten ? [] : ['reach' => $this->reach->value],
            ...$this->once ? ['once' => true] : [],
        ];
    }
}
