<?php

declare(strict_types=1);

namespace Brenvic\Core\Classification;

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\Terms;

/** What taking in a SKOS file would make of a vocabulary, to be looked at before anything is changed. */
final readonly class SkosImport
{
    /** @var list<string> codes */
    public array $added;

    /** @var list<string> codes of concepts that differ */
    public array $changed;

    /** @var list<string> codes of concepts that the file does not hold */
    public array $lost;

    /**
     * @param  array<string, mixed>  $vocabulary  its content as it would be
     * @param  list<string>  $faults  what was found wrong, in sentences
     * @param  array<string, mixed>  $before
     */
    public function __construct(public array $vocabulary, public array $faults, array $before)
    {
        $was = (new Terms(Design::entries($before, 'terms')))->byCode;
        $is = (new Terms(Design::entries($vocabulary, 'terms')))->byCode;
        $code = static fn (int|string $code): string => (string) $code;
        $this->added = array_map($code, array_keys(array_diff_key($is, $was)));
        $this->lost = array_map($code, array_keys(array_diff_key($was, $is)));
        $plain = static fn (array $term): array => array_filter(
            $term,
            static fn (mixed $value): bool => ! in_array($value, [null, '', [], false], true),
        );
        $this->changed = array_map(
            $code,
            array_keys(
                array_filter(
                    $is,
                    static fn (array $term, int|string $id): bool => isset($was[$id]) && ! Design::same($plain($term), $plain($was[$id])),
                    ARRAY_FILTER_USE_BOTH,
                ),
            ),
        );
    }

    /** How many statements of the file are kept besides what the vocabulary has of its own. */
    public function kept(): int
    {
        $count = count(is_array($this->vocabulary['statements'] ?? null) ? $this->vocabulary['statements'] : []);
        foreach (Design::entries($this->vocabulary, 'terms') as $term) {
            $count += count(is_array($term['statements'] ?? null) ? $term['statements'] : []);
        }

        return $count;
    }
}
