<?php

declare(strict_types=1);

// array_first and array_last are part of PHP from 8.5 on; Laravel 12 calls them.

if (! function_exists('array_first')) {
    /**
     * The first value of an array, or null when it is empty.
     *
     * @template T
     *
     * @param  array<array-key, T>  $array
     * @return T|null
     */
    function array_first(array $array): mixed
    {
        return $array === [] ? null : $array[array_key_first($array)];
    }
}

if (! function_exists('array_last')) {
    /**
     * The last value of an array, or null when it is empty.
     *
     * @template T
     *
     * @param  array<array-key, T>  $array
     * @return T|null
     */
    function array_last(array $array): mixed
    {
        return $array === [] ? null : $array[array_key_last($array)];
    }
}
