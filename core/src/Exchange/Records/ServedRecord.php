<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Records;

/** A document as another program is told of it. */
final readonly class ServedRecord
{
    /**
     * @param  string  $address  at which a person opens it
     * @param  string  $changedAt  ISO 8601, in UTC
     * @param  array<string, array{label: string, values: list<array{string, string}>}>  $fields  by code: normal forms with what people read
     * @param  array<string, list<string>>  $dublinCore  values by element
     */
    public function __construct(
        public int $number,
        public string $ref,
        public string $title,
        public string $library,
        public string $libraryName,
        public string $type,
        public string $typeName,
        public string $mediaType,
        public string $fileName,
        public int $pages,
        public string $filedOn,
        public string $changedAt,
        public string $address,
        public array $fields,
        public array $dublinCore,
    ) {
    }
}
