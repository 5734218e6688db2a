<?php

declare(strict_types=1);

namespace App\Console;

use Illuminate\Console\Command;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Output\OutputInterface;

/**
 * A command whose output is written as it is: texts of documents and people hold backslashes and what looks like the
 * console's own tags, which its formatter would eat.
 */
abstract class PlainCommand extends Command
{
    /** It was looked at, and something is wrong with what was looked at; that it could not be done is FAILURE. */
    protected const AMISS = self::INVALID;

    /** For programs what is wrong is a line of JSON like all else. */
    public function error($string, $verbosity = null): void
    {
        $this->isForPrograms() ? $this->json(['error' => (string) $string]) : parent::error($string, $verbosity);
    }

    protected function isForPrograms(): bool
    {
        return $this->input->hasOption('json') && $this->input->getOption('json') === true;
    }

    /** What info, warn and error write goes this way too. */
    public function line($string, $style = null, $verbosity = null): void
    {
        parent::line(OutputFormatter::escape((string) $string), $style, $verbosity);
    }

    /** One line of JSON, for programs. */
    protected function json(mixed $value): void
    {
        $this->raw(
            json_encode($value, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR).
                "\n",
        );
    }

    /** Text for programs, in a format of its own. */
    protected function raw(string $text): void
    {
        $this->output->write($text, false, OutputInterface::OUTPUT_RAW);
    }
}
