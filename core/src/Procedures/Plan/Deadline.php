<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Plan;

use Brenvic\Core\Procedures\Asking\Party;
use Brenvic\Core\Procedures\Shape\Detail;

/** By when something has to be decided, and what happens when it is not. */
final readonly class Deadline
{
    /** It stays where it is, and is told of. */
    public const STAY = 'stay';

    /** Others are asked instead. */
    public const GIVE = 'give';

    /** It counts as decided. */
    public const DECIDE = 'decide';

    /**
     * @param  int  $days  working days
     * @param  int|null  $reminder  working days after which those who are asked are reminded; null for never
     * @param  Party|null  $to  who is asked then, if it is given on
     * @param  string  $decision  what it counts as, if it counts as decided
     */
    public function __construct(
        public int $days,
        public ?int $reminder = null,
        public string $then = self::STAY,
        public ?Party $to = null,
        public string $decision = '',
    ) {
    }

    /** @param  array<array-key, mixed>  $content  of the step */
    public static function of(array $content): ?self
    {
        $of = is_array($content['deadline'] ?? null) ? $content['deadline'] : [];
        $days = Detail::number($of, 'days');
        /** @var array<string, mixed> $to */
        $to = is_array($of['to'] ?? null) ? $of['to'] : [];

        return $days === null || $days < 1
            ? null
            : new self(
                $days,
                Detail::number($of, 'reminder'),
                Detail::text($of, 'then') ?: self::STAY,
                Party::of($to),
                Detail::text($of, 'decision'),
            );
    }
}
