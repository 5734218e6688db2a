<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

/** How what a rule read in a document holds against what people gave. */
enum Outcome: string
{
    case Agrees = 'agrees';
    case Differs = 'differs';

    /** People gave a value, and nothing was found. */
    case Nothing = 'nothing';

    /** Something was found where nobody gave a value. */
    case New = 'new';

    /** Nobody gave a value, and nothing was found. */
    case Empty = 'empty';

    /**
     * @param  list<string>  $read  what would be proposed, as normal forms
     * @param  list<string>  $given  likewise
     */
    public static function of(array $read, array $given): self
    {
        return match (true) {
            $given === [] => $read === [] ? self::Empty : self::New,
            $read === [] => self::Nothing,
            default => self::agree($read, $given) ? self::Agrees : self::Differs,
        };
    }

    /**
     * Whether both say the same; a date that was given less exactly is not contradicted by a day within it.
     *
     * @param  list<string>  $read
     * @param  list<string>  $given
     */
    private static function agree(array $read, array $given): bool
    {
        if (count($read) !== count($given)) {
            return false;
        }
        sort($read);
        sort($given);
        foreach ($given as $i => $value) {
            $isWithin = preg_match('/^\d{4}(-\d{2})?$/', $value) === 1 && str_starts_with($read[$i], "{$value}-");
            if ($read[$i] !== $value && ! $isWithin) {
                return false;
            }
        }

        return true;
    }
}
