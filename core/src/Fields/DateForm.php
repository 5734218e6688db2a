<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** How days are written for people. Each can be typed back as it stands. */
enum DateForm: string
{
    case Words = 'words';
    case Slashes = 'slashes';
    case Dots = 'dots';
    case Iso = 'iso';

    /** `14 Mar 2024`, `14/03/2024`, `14.03.2024` or `2024-03-14`; what is known only in part has words, or is ISO 8601. */
    public function write(PartialDate $date): string
    {
        if ($this === self::Iso) {
            return $date->iso();
        }
        $sign = match ($this) {
            self::Slashes => '/',
            self::Dots => '.',
            default => '',
        };

        return $sign === '' || $date->day === null
            ? $date->display()
            : sprintf('%02d%s%02d%s%04d', $date->day, $sign, (int) $date->month, $sign, $date->year);
    }
}
