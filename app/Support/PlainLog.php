<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Database\QueryException;
use Illuminate\Log\Logger;
use Monolog\Formatter\JsonFormatter;
use Monolog\Handler\FormattableHandlerInterface;
use Monolog\LogRecord;
use Throwable;

/**
 * Logs as JSON, one object a line, with the name of the request. Of faults their kinds and places: what was asked of the database is
 * written without the values that were asked for, and where somebody's words may stand in a message it is left out.
 */
final class PlainLog
{
    public function __invoke(Logger $logger): void
    {
        $monolog = $logger->getLogger();
        if (! $monolog instanceof \Monolog\Logger) {
            return;
        }
        $monolog->pushProcessor(self::plain(...));
        foreach ($monolog->getHandlers() as $handler) {
            $handler instanceof FormattableHandlerInterface && $handler->setFormatter(new JsonFormatter());
        }
    }

    public static function plain(LogRecord $record): LogRecord
    {
        $fault = $record->context['exception'] ?? null;
        if (! $fault instanceof Throwable) {
            return $record;
        }
        $context = $record->context;
        // Who asked is found by the request, by those who may.
        unset($context['userId']);
        $context['exception'] = self::told($fault);

        return $record->with(message: $fault::class, context: $context);
    }

    /** @return array<string, mixed> */
    private static function told(Throwable $fault): array
    {
        $root = base_path().'/';
        $place = static fn (array $frame): string => str_replace($root, '', (string) ($frame['file'] ?? '')).':'.($frame['line'] ?? 0);

        return [
            'class' => $fault::class,
            'message' => $fault instanceof QueryException
                ? ($fault->errorInfo[2] ?? 'SQL')." ({$fault->getSql()})"
                : (string) preg_replace('/(["“\'])[^"”\']{0,500}(["”\'])/u', '$1…$2', $fault->getMessage()),
            'at' => $place(['file' => $fault->getFile(), 'line' => $fault->getLine()]),
            'trace' => array_map($place, array_slice($fault->getTrace(), 0, 20)),
            ...$fault->getPrevious() === null ? [] : ['because' => self::told($fault->getPrevious())],
        ];
    }
}
