<?php

declare(strict_types=1);

namespace App\Files;

/** Photographs as people see them: a camera notes in EXIF how it was held (CIPA DC-008, tag Orientation), and turns nothing. */
final class UprightPicture
{
    /** @return int 1 for upright, else 2 to 8 as EXIF has it */
    public static function orientation(string $path): int
    {
        if (@exif_imagetype($path) !== IMAGETYPE_JPEG) {
            return 1;
        }
        $read = @exif_read_data($path, 'IFD0');
        $orientation = (int) (is_array($read) ? $read['Orientation'] ?? 1 : 1);

        return $orientation >= 1 && $orientation <= 8 ? $orientation : 1;
    }

    /** @return array{int, int}|null width and height as it is seen; null when it cannot be opened */
    public static function size(string $path): ?array
    {
        $size = @getimagesize($path);
        if ($size === false || $size[0] < 1 || $size[1] < 1) {
            return null;
        }

        return self::orientation($path) >= 5 ? [$size[1], $size[0]] : [$size[0], $size[1]];
    }

    /** The picture turned upright; null when it cannot be opened. */
    public static function image(string $path): ?\GdImage
    {
        $image = @imagecreatefromstring((string) file_get_contents($path));
        if ($image === false) {
            return null;
        }
        $orientation = self::orientation($path);
        // Degrees against the clock; then mirrored where EXIF says so.
        $turned = match ($orientation) {
            3, 4 => imagerotate($image, 180, 0),
            5, 6 => imagerotate($image, 270, 0),
            7, 8 => imagerotate($image, 90, 0),
            default => $image,
        };
        if ($turned === false) {
            return null;
        }
        if (in_array($orientation, [2, 4, 5, 7], true)) {
            imageflip($turned, IMG_FLIP_HORIZONTAL);
        }

        return $turned;
    }
}
