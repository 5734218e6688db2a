<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Fields\Nearest;
use Brenvic\Core\Query\Modifier;

/**
 * The relation modifiers of a clause, read. Those of CQL's own context set may bear its prefix. Case and accents are
 * always ignored, so asking for it changes nothing; asking for the contrary is refused rather than not done.
 */
final readonly class ClauseModifiers
{
    /** Modifiers that say what is the case anyway. */
    private const AS_ALWAYS = ['ignorecase', 'ignoreaccents', 'masked', 'relevant', 'isodate', 'number'];

    private const KNOWN = ['stem', 'phonetic', 'fuzzy', 'without', 'word', 'string', 'unmasked', 'only', ...self::AS_ALWAYS];

    /**
     * @param  bool|null  $whole  whether the term is a whole value (`/string`) or words (`/word`); null leaves it to the relation
     * @param  bool  $only  of a tree the term alone, without what is below it
     */
    private function __construct(public Expansion $widening, public ?bool $whole, public bool $masked, public bool $only)
    {
    }

    /**
     * @param  list<Modifier>  $modifiers
     *
     * @throws SearchError
     */
    public static function of(array $modifiers): self
    {
        [$whole, $masked, $only, $widening] = [null, true, false, []];
        foreach ($modifiers as $modifier) {
            $name = $modifier->plainName();
            if (! in_array($name, self::KNOWN, true)) {
                $near = Nearest::of($name, self::KNOWN);
                throw new SearchError(
                    "The modifier /{$modifier->name} is not supported.".($near === null ? '' : " The nearest one is /{$near}."),
                    $near,
                    SearchFault::Modifier,
                );
            }
            match ($name) {
                'word' => ($whole = false),
                'string' => ($whole = true),
                'unmasked' => ($masked = false),
                'only' => ($only = true),
                default => ($widening[] = new Modifier($name, $modifier->comparitor, $modifier->value)),
            };
        }

        return new self(Expansion::ofModifiers($widening), $whole, $masked, $only);
    }
}
