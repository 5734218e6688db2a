<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

/** Some whole numbers that agree in their upper binary digits, to be divided by the next. */
interface Pile
{
    public function count(): int;

    /** Its highest binary digit. */
    public function top(): int;

    /**
     * Some of them.
     *
     * @return list<int>
     */
    public function some(int $most): array;

    /** @return array{self|null, self|null} those without the digit, and those with it; null for none */
    public function split(int $digit): array;
}
