<?php

declare(strict_types=1);

namespace App\Support;

/** A column of what a query found, as the list it is. */
final class Column
{
    /**
     * @param  iterable<mixed>  $values  from pluck, modelKeys or map
     * @return list<int>
     */
    public static function numbers(iterable $values): array
    {
        $numbers = [];
        foreach ($values as $value) {
            $numbers[] = (int) $value;
        }

        return $numbers;
    }

    /**
     * @param  iterable<mixed>  $values
     * @return list<string>
     */
    public static function texts(iterable $values): array
    {
        $texts = [];
        foreach ($values as $value) {
            $texts[] = (string) $value;
        }

        return $texts;
    }
}
