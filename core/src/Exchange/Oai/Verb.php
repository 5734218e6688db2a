<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Oai;

/** The six requests of OAI-PMH 2.0. */
enum Verb: string
{
    case Identify = 'Identify';
    case ListMetadataFormats = 'ListMetadataFormats';
    case ListSets = 'ListSets';
    case ListIdentifiers = 'ListIdentifiers';
    case ListRecords = 'ListRecords';
    case GetRecord = 'GetRecord';

    /** @return list<string> the arguments that it has to have */
    public function needed(): array
    {
        return match ($this) {
            self::GetRecord => ['identifier', 'metadataPrefix'],
            self::ListIdentifiers, self::ListRecords => ['metadataPrefix'],
            default => [],
        };
    }

    /** @return list<string> those that it may have */
    public function allowed(): array
    {
        return match ($this) {
            self::ListIdentifiers, self::ListRecords => ['from', 'until', 'set'],
            self::ListMetadataFormats => ['identifier'],
            default => [],
        };
    }

    /** Whether it gives a list that may be gone on with by a token, which then stands alone. */
    public function isList(): bool
    {
        return in_array($this, [self::ListIdentifiers, self::ListRecords, self::ListSets], true);
    }
}
