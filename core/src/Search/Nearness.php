<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Query\Modifier;

/** Two sequences of words at most so many words from each other (CQL `prox/unit=word/distance<=n`). */
final readonly class Nearness implements StreamTest
{
    private function __construct(
        private WordSequence $left,
        private WordSequence $right,
        private int $least,
        private int $most,
        private bool $ordered,
    ) {
    }

    /**
     * @param  list<Modifier>  $modifiers
     *
     * @throws SearchError
     */
    public static function ofModifiers(array $modifiers, WordSequence $left, WordSequence $right): self
    {
        [$least, $most, $ordered] = [1, 1, false];
        foreach ($modifiers as $modifier) {
            $value = $modifier->value ?? '';
            if ($modifier->name === 'distance') {
                if (! ctype_digit($value) || strlen($value) > 6) {
                    throw new SearchError("The distance of prox is a whole number, not “{$value}”.");
                }
                $number = (int) $value;
                [$least, $most] = match ($modifier->comparitor) {
                    '<' => [0, $number - 1],
                    '<=' => [0, $number],
                    '>' => [$number + 1, PHP_INT_MAX],
                    '>=' => [$number, PHP_INT_MAX],
                    default => [$number, $number],
                };
            } elseif ($modifier->name === 'unit' && $value !== 'word') {
                throw new SearchError("prox counts in words; unit={$value} is not supported.");
            } elseif ($modifier->name === 'ordered') {
                $ordered = true;
            }
        }

        return new self($left, $right, $least, $most, $ordered);
    }

    public function holds(string $stream): bool
    {
        $rights = $this->right->positions($stream);
        foreach ($this->left->positions($stream) as $left) {
            foreach ($rights as $right) {
                $distance = $right > $left ? $right - $left - $this->left->length() + 1 : $left - $right - $this->right->length() + 1;
                if ($distance >= $this->least && $distance <= $this->most && $right !== $left && ($right > $left || ! $this->ordered)) {
                    return true;
                }
            }
        }

        return false;
    }
}
