<?php

declare(strict_types=1);

namespace App\Files;

/** The title that a file’s name makes, where nothing else makes one. */
final class FileTitle
{
    public static function of(string $name): string
    {
        $title = trim((string) preg_replace('/[_\s]+/u', ' ', pathinfo($name, PATHINFO_FILENAME)));

        return $title === '' ? $name : $title;
    }
}
