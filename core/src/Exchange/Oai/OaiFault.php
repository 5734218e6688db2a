<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Oai;

use RuntimeException;

/** What is wrong with a request, by the codes of OAI-PMH 2.0 (3.6). */
final class OaiFault extends RuntimeException
{
    public const BAD_ARGUMENT = 'badArgument';

    public const BAD_TOKEN = 'badResumptionToken';

    public const BAD_VERB = 'badVerb';

    public const NO_FORMAT = 'cannotDisseminateFormat';

    public const NO_IDENTIFIER = 'idDoesNotExist';

    public const NO_RECORDS = 'noRecordsMatch';

    public function __construct(public readonly string $kind, string $message = '')
    {
        parent::__construct($message);
    }
}
