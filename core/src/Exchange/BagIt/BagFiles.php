<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\BagIt;

/** The files of a bag that came, wherever they lie. Paths are relative to the bag, with `/` between their parts. */
interface BagFiles
{
    /** @return list<string> of all files, in any order */
    public function paths(): array;

    public function text(string $path): string;

    public function bytes(string $path): int;

    /** @param  string  $algorithm  as `hash` has it */
    public function sum(string $path, string $algorithm): string;
}
