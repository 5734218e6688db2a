<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** What somebody decided about a column whose values gather rows. */
final readonly class GatheringTaken
{
    public function __construct(public GatheredAs $as, public string $name)
    {
    }

    /** What the proposal itself says: called as the column is, without the word for a number behind it. */
    public static function proposed(Gathering $gathering, ColumnProposal $key): self
    {
        return new self($gathering->as, self::name($key->name));
    }

    public static function name(string $column): string
    {
        $name = trim((string) preg_replace('/(?:^|[\s_.-]+)(?:no|nr|num|number|id|ref|reference|code|key)\.?$/iu', '', $column));

        return $name === '' ? $column : $name;
    }
}
