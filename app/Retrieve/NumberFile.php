<?php

declare(strict_types=1);

namespace App\Retrieve;

use RuntimeException;

/** Many numbers in a file instead of memory: four bytes each, added one after another and read in any order. */
final class NumberFile
{
    /** @var resource */
    private readonly mixed $stream;

    public function __construct(string $path)
    {
        $this->stream = fopen($path, 'w+b') ?: throw new RuntimeException("“{$path}” cannot be written.");
    }

    /** @param  int  $number  of 32 bits, without a sign */
    public function add(int $number): void
    {
        fseek($this->stream, 0, SEEK_END);
        fwrite($this->stream, pack('N', $number)) === 4 || throw new RuntimeException('A number could not be written; is the disk full?');
    }

    /** The number that was added after so many others. */
    public function at(int $place): int
    {
        fseek($this->stream, 4 * $place);

        return (int) (unpack('N', (string) fread($this->stream, 4)) ?: throw new RuntimeException("There is no number {$place}."))[1];
    }
}
