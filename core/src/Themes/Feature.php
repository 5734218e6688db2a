<?php

declare(strict_types=1);

namespace Brenvic\Core\Themes;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\Stemmer;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;

/** What documents may have alike: a word in the text, or a value of a field. */
final readonly class Feature
{
    /** @var list<string> the stems of the words that it is called by */
    public array $stems;

    /**
     * @param  FieldDefinition|null  $field  null for a word
     * @param  string  $of  the word, folded, or the normal form of the value
     */
    private function __construct(public ?FieldDefinition $field, public string $of)
    {
        $this->stems = array_map(Stemmer::stem(...), Tokenizer::words($this->label()));
    }

    public static function word(string $word): self
    {
        return new self(null, $word);
    }

    public static function value(FieldDefinition $field, string $normal): self
    {
        return new self($field, $normal);
    }

    public function label(): string
    {
        return $this->field === null ? $this->of : $this->field->display($this->of);
    }

    /** What it is told apart by, and equals are put in order by. */
    public function key(): string
    {
        return $this->field === null ? "w {$this->of}" : "v {$this->field->code} {$this->of}";
    }

    public function clause(): SearchClause
    {
        return $this->field === null
            ? new SearchClause(FoundThemes::WORDS, '=', $this->of)
            : new SearchClause($this->field->code, '==', Criterion::escaped($this->of));
    }
}
