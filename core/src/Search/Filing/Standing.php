<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Filing;

/** Where a document stands in one procedure. */
final readonly class Standing
{
    /**
     * @param  string  $procedure  code
     * @param  string  $step  code of the step it is at, or ended with
     * @param  string|null  $decision  code of what was decided last
     * @param  list<string>  $with  names of the people or groups that it waits for
     * @param  string  $since  a day, as 2026-03-01
     */
    public function __construct(
        public string $procedure,
        public string $step,
        public ?string $decision,
        public array $with,
        public string $since,
    ) {
    }

    /** The value by which a step, or a decision, of a procedure is found: other procedures may have one of the same code. */
    public static function named(string $procedure, string $code): string
    {
        return "{$procedure}.{$code}";
    }
}
