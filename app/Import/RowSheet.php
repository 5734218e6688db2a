<?php

declare(strict_types=1);

namespace App\Import;

/** What a row says of a file: of a values file, of a register, or of the folders it lies in. */
final readonly class RowSheet
{
    /**
     * @param  string  $type  code of the document type; empty when the row names none
     * @param  array<string, list<string>>  $values  as given, by field code
     * @param  array<string, array<string, list<string>>>  $dossiers  kind => values of the dossier that it belongs in, the key first
     * @param  string  $title  where the file has no other than its name; empty for none
     * @param  bool  $isLenient  whether a value that its field refuses is left out and named, rather than the file refused
     */
    public function __construct(
        public string $type = '',
        public array $values = [],
        public array $dossiers = [],
        public bool $isLenient = false,
        public string $title = '',
    ) {
    }

    /** @return array{type: string, values: array<string, list<string>>, dossiers: array<string, array<string, list<string>>>} */
    public function kept(): array
    {
        return ['type' => $this->type, 'values' => $this->values, 'dossiers' => $this->dossiers];
    }

    /** @param  array{type: string, values: array<string, list<string>>, dossiers: array<string, array<string, list<string>>>}  $kept */
    public static function ofKept(array $kept): self
    {
        return new self($kept['type'], $kept['values'], $kept['dossiers'], true);
    }
}
