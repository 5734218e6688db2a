<?php

declare(strict_types=1);

namespace App\Served;

use App\Find\Searching;
use App\Models\User;
use Brenvic\Core\Exchange\Sru\Serving\Diagnostic;
use Brenvic\Core\Exchange\Sru\Serving\ServedTerm;
use Brenvic\Core\Exchange\Sru\Serving\SruQuestion;
use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchSchema;

/** The terms of an index around one, with the documents that have each: of those that a person sees, and none that only others have. */
final readonly class TermScan
{
    /** Words that are asked for at a time, and all in all: many are only in what a person does not see. */
    private const PIECE = 200;

    private const LOOKED = 5_000;

    public function __construct(private Searching $searching)
    {
    }

    /**
     * @return list<ServedTerm>
     *
     * @throws Diagnostic|\Brenvic\Core\Query\SyntaxError|\Brenvic\Core\Search\Asking\SearchError
     */
    public function of(User $user, SruQuestion $question, SearchSchema $schema): array
    {
        $clause = Parser::parse($question->query)->root;
        if (! ($clause instanceof SearchClause)) {
            throw new Diagnostic(Diagnostic::SYNTAX, 'A scan has one clause: index relation term.');
        }
        $most = $question->terms();
        if ($question->position > $most + 1) {
            throw new Diagnostic(Diagnostic::POSITION, (string) $question->position);
        }
        $target = $schema->resolve($clause->index);
        $term = Criterion::unescaped($clause->term);
        $before = max(0, $question->position - 1);
        $after = $most - $before;
        $isPast = $question->position === 0;

        return $this->searching->snapshot(function () use ($user, $schema, $clause, $target, $term, $before, $after, $isPast): array {
            $field = $target->parts === [] ? $target->fields[0] ?? null : null;
            if ($field === null || (! $field->faceted && $field->kind->hasWords() && ! Cover::hides($field))) {
                return $this->words($user, $schema, $clause->index, $term, $before, $after, $isPast);
            }
            if (Cover::hides($field) || ! $field->faceted || $field->kind->isNumber()) {
                throw new Diagnostic(16, "{$clause->index} is searched, and not scanned.");
            }

            return $this->values($user, $schema, $field, $term, $before, $after, $isPast);
        });
    }

    /** @return list<ServedTerm> */
    private function words(User $user, SearchSchema $schema, string $index, string $term, int $before, int $after, bool $isPast): array
    {
        $word = Tokenizer::words($term)[0] ?? '';
        $found = [];
        foreach ([true, false] as $isBefore) {
            $most = $isBefore ? $before : $after;
            $one = $this->wordsFrom($user, $schema, $index, $word, $most, $isBefore, $isPast);
            array_push($found, ...$isBefore ? array_reverse($one) : $one);
        }

        return $found;
    }

    /** @return list<ServedTerm> */
    private function wordsFrom(
        User $user,
        SearchSchema $schema,
        string $index,
        string $word,
        int $most,
        bool $isBefore,
        bool $isPast,
    ): array {
        $reader = $this->searching->reader($schema);
        $reader->refresh();
        $searcher = $this->searching->searcher($schema);
        $asker = $this->searching->asker($user);
        $found = [];
        $last = $word;
        for ($looked = 0; count($found) < $most && $looked < self::LOOKED; $looked += self::PIECE) {
            $words = $reader->wordsFrom($last, self::PIECE + 1, $isBefore);
            foreach ($words as $of) {
                $isSame = $of === $last;
                $last = $of;
                if (($isSame && $looked > 0) || ($isPast && $of === $word) || count($found) >= $most) {
                    continue;
                }
                $documents = $searcher->documents($asker, new SearchClause($index, '=', Criterion::escaped($of)))->count();
                $documents > 0 && ($found[] = new ServedTerm($of, $of, $documents));
            }
            if (count($words) <= self::PIECE) {
                break;
            }
        }

        return $found;
    }

    /** @return list<ServedTerm> by their labels */
    private function values(
        User $user,
        SearchSchema $schema,
        FieldDefinition $field,
        string $term,
        int $before,
        int $after,
        bool $isPast,
    ): array {
        $reader = $this->searching->reader($schema);
        $reader->refresh();
        $asker = $this->searching->asker($user);
        $sight = $this->searching->searcher($schema)->sight($asker);
        $numbers = $reader->valueTerms($field->code);
        $counts = (new FacetCounter($reader))->byNumber($field->code, $sight, $asker->name());
        $terms = [];
        foreach ($counts as $number => $documents) {
            $normal = $numbers[$number] ?? null;
            if ($normal !== null && $documents > 0 && ($field->vocabulary === null || isset($field->vocabulary->terms[$normal]))) {
                $shown = $field->display($normal);
                $terms[Tokenizer::fold($shown)."\n{$normal}"] = [$shown, $documents];
            }
        }
        ksort($terms, SORT_STRING);
        $keys = array_map(strval(...), array_keys($terms));
        $wanted = Tokenizer::fold($term);
        $at = 0;
        while ($at < count($keys) && strcmp($keys[$at], $wanted) < 0) {
            $at++;
        }
        while ($isPast && $at < count($keys) && explode("\n", $keys[$at])[0] === $wanted) {
            $at++;
        }
        $served = [];
        for ($i = max(0, $at - $before); $i < min(count($keys), $at + $after); $i++) {
            [$shown, $documents] = $terms[$keys[$i]];
            $where = match (true) {
                count($keys) === 1 => 'only',
                $i === 0 => 'first',
                $i === count($keys) - 1 => 'last',
                default => 'inner',
            };
            $served[] = new ServedTerm($shown, $shown, $documents, $where);
        }

        return $served;
    }
}
