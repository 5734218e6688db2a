<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Query\SearchClause;

/** How far the words of a criterion reach, as one plain choice. */
enum Reach: string
{
    case AsWritten = 'as_written';
    case SameStem = 'same_stem';
    case SoundsAlike = 'sounds_alike';
    case Misspelt = 'misspelt';

    private const NAMES = ['stem', 'phonetic', 'fuzzy'];

    public function words(): string
    {
        return match ($this) {
            self::AsWritten => 'as written',
            self::SameStem => 'also other endings',
            self::SoundsAlike => 'also words that sound alike',
            self::Misspelt => 'also misspellings',
        };
    }

    /** @return list<self> those that reach further */
    public static function further(self $than): array
    {
        return array_slice(self::cases(), (int) array_search($than, self::cases(), true) + 1);
    }

    public static function of(SearchClause $clause): self
    {
        return match (true) {
            $clause->modifier('fuzzy') !== null => self::Misspelt,
            $clause->modifier('phonetic') !== null => self::SoundsAlike,
            $clause->modifier('stem') !== null => self::SameStem,
            default => self::AsWritten,
        };
    }

    /** The criterion with this reach; words that were left out are let in again. */
    public function applied(SearchClause $clause): SearchClause
    {
        $modifiers = array_values(
            array_filter($clause->modifiers, static fn (Modifier $m): bool => ! in_array($m->name, [...self::NAMES, 'without'], true)),
        );

        return new SearchClause($clause->index, $clause->relation, $clause->term, [...$modifiers, ...$this->modifiers()]);
    }

    /** @return list<Modifier> what says it in CQL */
    public function modifiers(): array
    {
        return match ($this) {
            self::AsWritten => [],
            self::SameStem => [new Modifier('stem')],
            self::SoundsAlike => [new Modifier('stem'), new Modifier('phonetic')],
            self::Misspelt => [new Modifier('stem'), new Modifier('fuzzy', '=', '2')],
        };
    }

    /** The criterion with one of its variants left out, or let in again. */
    public static function toggled(SearchClause $clause, string $word): SearchClause
    {
        $without = preg_split('/\s+/', $clause->modifier('without')->value ?? '', -1, PREG_SPLIT_NO_EMPTY) ?: [];
        $without = in_array($word, $without, true) ? array_values(array_diff($without, [$word])) : [...$without, $word];
        $modifiers = array_values(array_filter($clause->modifiers, static fn (Modifier $m): bool => $m->name !== 'without'));
        if ($without !== []) {
            $modifiers[] = new Modifier('without', '=', implode(' ', $without));
        }

        return new SearchClause($clause->index, $clause->relation, $clause->term, $modifiers);
    }
}
