<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\DocumentType;

/** A row as it is filed. */
final readonly class ReadRow
{
    /**
     * @param  array<string, list<string>>  $values  normal forms by field code
     * @param  array<string, string>  $left  label of a field => why its value was left out
     */
    public function __construct(public ?DocumentType $type, public array $values, public array $left)
    {
    }

    public function note(): string
    {
        $left = array_map(
            static fn (string $label, string $why): string => "{$label} (".rtrim($why, '.').')',
            array_keys($this->left),
            $this->left,
        );

        return $left === [] ? '' : 'Without '.implode(', ', $left).'.';
    }
}
