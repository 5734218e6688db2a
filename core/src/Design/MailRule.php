<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SyntaxError;

/**
 * A rule of a mailbox: what is known of mails that fit a criterion. It is written in CQL as every other criterion is, over the
 * parts of a mail.
 */
final readonly class MailRule
{
    /** What may be asked of a mail. */
    public const PARTS = ['from', 'to', 'subject', 'attachment'];

    private const RELATIONS = ['=', 'adj', '==', 'exact', '<>', 'any', 'all'];

    /**
     * @param  array<string, string>  $values  texts by field code
     */
    public function __construct(public string $criterion, public ?string $type, public array $values)
    {
    }

    /**
     * @param  array<string, mixed>  $content
     * @return list<self>
     */
    public static function all(array $content): array
    {
        $rules = [];
        foreach (Design::entries($content, 'rules') as $entry) {
            $values = [];
            foreach (Design::entries($entry, 'values') as $value) {
                if (is_string($value['code'] ?? null) && is_string($value['value'] ?? null)) {
                    $values[$value['code']] = $value['value'];
                }
            }
            $type = $entry['type'] ?? null;
            $criterion = $entry['criterion'] ?? '';
            $rules[] = new self(is_string($criterion) ? $criterion : '', is_string($type) && $type !== '' ? $type : null, $values);
        }

        return $rules;
    }

    /** @throws InvalidDefinition when it cannot be held against mails */
    public function check(): void
    {
        try {
            self::clauses(Parser::parse($this->criterion)->root);
        } catch (SyntaxError $fault) {
            throw new InvalidDefinition('rules', "“{$this->criterion}”: {$fault->getMessage()}");
        }
    }

    /** @param  array<string, list<string>>  $mail  texts by part */
    public function fits(array $mail): bool
    {
        try {
            return self::holds(Parser::parse($this->criterion)->root, $mail);
        } catch (SyntaxError) {
            return false;
        }
    }

    private static function clauses(Node $node): void
    {
        if ($node instanceof BooleanNode && $node->operator !== BooleanOperator::Prox) {
            self::clauses($node->left);
            self::clauses($node->right);
        } elseif ($node instanceof PrefixNode) {
            self::clauses($node->inner);
        } elseif ($node instanceof SearchClause) {
            if ($node->index !== SearchClause::ANYWHERE && ! in_array($node->index, self::PARTS, true)) {
                throw new InvalidDefinition('rules', "A mail has no “{$node->index}”. Ask for ".implode(', ', self::PARTS).'.');
            }
            if (! in_array($node->relation, self::RELATIONS, true)) {
                throw new InvalidDefinition('rules', "“{$node->relation}” does not go with mails. Use =, ==, <>, any or all.");
            }
        } else {
            throw new InvalidDefinition('rules', 'Words near one another cannot be asked of mails.');
        }
    }

    /** @param  array<string, list<string>>  $mail */
    private static function holds(Node $node, array $mail): bool
    {
        return match (true) {
            $node instanceof PrefixNode => self::holds($node->inner, $mail),
            $node instanceof SearchClause => self::clause($node, $mail),
            $node instanceof BooleanNode => match ($node->operator) {
                BooleanOperator::Or => self::holds($node->left, $mail) || self::holds($node->right, $mail),
                BooleanOperator::Not => self::holds($node->left, $mail) && ! self::holds($node->right, $mail),
                default => self::holds($node->left, $mail) && self::holds($node->right, $mail),
            },
            default => false,
        };
    }

    /** @param  array<string, list<string>>  $mail */
    private static function clause(SearchClause $clause, array $mail): bool
    {
        $texts = $clause->index === SearchClause::ANYWHERE ? array_merge(...array_values($mail)) : $mail[$clause->index] ?? [];
        $isWhole = static fn (string $text): bool => preg_match(self::pattern(Tokenizer::fold(trim($clause->term))), Tokenizer::fold(trim($text))) === 1;
        $words = self::patterns($clause->term);
        $found = match ($clause->relation) {
            '==', 'exact' => array_filter($texts, $isWhole) !== [],
            '<>' => array_filter($texts, $isWhole) === [],
            'any' => array_filter($words, static fn (string $word): bool => self::says($texts, [$word])) !== [],
            'all' => array_filter($words, static fn (string $word): bool => ! self::says($texts, [$word])) === [],
            default => self::says($texts, $words),
        };

        return $found && ($words !== [] || in_array($clause->relation, ['==', 'exact', '<>'], true));
    }

    /**
     * Whether one of the texts says the words one behind the other.
     *
     * @param  list<string>  $texts
     * @param  list<string>  $patterns
     */
    private static function says(array $texts, array $patterns): bool
    {
        foreach ($texts as $text) {
            $words = Tokenizer::words($text);
            for ($at = 0; $at <= count($words) - count($patterns); $at++) {
                $i = 0;
                while ($i < count($patterns) && preg_match($patterns[$i], $words[$at + $i]) === 1) {
                    $i++;
                }
                if ($i === count($patterns)) {
                    return true;
                }
            }
        }

        return false;
    }

    /** @return list<string> a pattern for each word of a term */
    private static function patterns(string $term): array
    {
        $patterns = [];
        foreach (preg_split('/\s+/', trim($term), -1, PREG_SPLIT_NO_EMPTY) ?: [] as $piece) {
            $words = preg_match('/(?<!\\\\)[*?]/', $piece) === 1 ? [Tokenizer::fold($piece)] : Tokenizer::words($piece);
            $patterns = [...$patterns, ...array_map(self::pattern(...), $words)];
        }

        return $patterns;
    }

    private static function pattern(string $word): string
    {
        $signs = preg_replace_callback(
            '/\\\\(.)|([*?])|([^\\\\*?]+)/us',
            static fn (array $m): string => match (true) {
                ($m[3] ?? '') !== '' => preg_quote($m[3], '/'),
                ($m[2] ?? '') === '*' => '.*',
                ($m[2] ?? '') === '?' => '.',
                default => preg_quote($m[1], '/'),
            },
            $word,
        );

        return "/^{$signs}$/us";
    }
}
