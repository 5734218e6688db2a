<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru\Serving;

use RuntimeException;

/** What is wrong with a request, by its number in the list of diagnostics `info:srw/diagnostic/1`. */
final class Diagnostic extends RuntimeException
{
    public const LIST = 'info:srw/diagnostic/1/';

    public const SYSTEM = 1;

    public const OPERATION = 4;

    public const VERSION = 5;

    public const VALUE = 6;

    public const MISSING = 7;

    public const PARAMETER = 8;

    public const SYNTAX = 10;

    public const TOO_LONG = 12;

    public const RESULT_SET = 51;

    public const FIRST_RECORD = 61;

    public const RECORD_GONE = 65;

    public const SCHEMA = 66;

    public const PACKING = 71;

    public const SORT_KEY = 83;

    public const STYLESHEET = 110;

    public const POSITION = 120;

    public const TOO_MANY_TERMS = 121;

    private const MESSAGES = [
        self::SYSTEM => 'General system error',
        3 => 'Authentication error',
        self::OPERATION => 'Unsupported operation',
        self::VERSION => 'Unsupported version',
        self::VALUE => 'Unsupported parameter value',
        self::MISSING => 'Mandatory parameter not supplied',
        self::PARAMETER => 'Unsupported parameter',
        self::SYNTAX => 'Query syntax error',
        self::TOO_LONG => 'Too many characters in query',
        15 => 'Unsupported context set',
        16 => 'Unsupported index',
        19 => 'Unsupported relation',
        20 => 'Unsupported relation modifier',
        22 => 'Unsupported combination of relation and index',
        28 => 'Masking character not supported',
        36 => 'Term in invalid format for index or relation',
        37 => 'Unsupported boolean operator',
        46 => 'Unsupported boolean modifier',
        48 => 'Query feature unsupported',
        self::RESULT_SET => 'Result set does not exist',
        self::FIRST_RECORD => 'First record position out of range',
        self::RECORD_GONE => 'Record does not exist',
        self::SCHEMA => 'Unknown schema for retrieval',
        self::PACKING => 'Unsupported record packing',
        self::SORT_KEY => 'Unsupported sort sequence',
        self::STYLESHEET => 'Stylesheets not supported',
        self::POSITION => 'Response position out of range',
        self::TOO_MANY_TERMS => 'Too many terms requested',
    ];

    /** @param  string  $details  what in the request it is about, and how it is meant */
    public function __construct(public readonly int $number, public readonly string $details = '')
    {
        parent::__construct(self::MESSAGES[$number] ?? self::MESSAGES[self::SYSTEM]);
    }

    public function uri(): string
    {
        return self::LIST.$this->number;
    }
}
