<?php

declare(strict_types=1);

namespace App\Intake\Sources;

use App\Support\Refused;

/** A way by which documents arrive by themselves. Adding one is a class, a line in Watch, and its place in the design. */
interface SourceOf
{
    /** What is done once, before the first look. */
    public function make(): void;

    /**
     * Takes in what is there and whole.
     *
     * @return int how many documents came in
     *
     * @throws Refused when the source cannot be looked at; it is asked again later
     */
    public function look(ArrivingFile $arriving): int;
}
