<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Oai;

use DateTimeImmutable;

/** A request of OAI-PMH 2.0, read and found to be one. */
final readonly class OaiQuestion
{
    private const LONGEST = 8_000;

    /**
     * @param  array<string, string>  $arguments  without the verb
     * @param  string  $from  the first moment, ISO 8601 in UTC to the second; empty for all, as the last
     */
    private function __construct(public Verb $verb, public array $arguments, public string $from, public string $until)
    {
    }

    public function argument(string $name): string
    {
        return $this->arguments[$name] ?? '';
    }

    /**
     * @param  string  $query  as it stands in the address or in what was posted: an argument that is there twice is a fault
     *
     * @throws OaiFault
     */
    public static function read(string $query): self
    {
        $given = self::parts($query);
        $verb = Verb::tryFrom($given['verb'] ?? '');
        if ($verb === null) {
            throw new OaiFault(OaiFault::BAD_VERB, isset($given['verb']) ? 'There is no such verb.' : 'The verb is missing.');
        }
        unset($given['verb']);
        if (isset($given['resumptionToken'])) {
            if (! $verb->isList()) {
                throw new OaiFault(OaiFault::BAD_ARGUMENT, "{$verb->value} takes no resumptionToken.");
            }
            count($given) === 1 || throw new OaiFault(OaiFault::BAD_ARGUMENT, 'A resumptionToken stands alone.');

            return new self($verb, $given, '', '');
        }
        foreach (array_diff($verb->needed(), array_keys($given)) as $missing) {
            throw new OaiFault(OaiFault::BAD_ARGUMENT, "{$missing} is missing.");
        }
        foreach (array_diff(array_keys($given), $verb->needed(), $verb->allowed()) as $other) {
            throw new OaiFault(OaiFault::BAD_ARGUMENT, "{$verb->value} takes no {$other}.");
        }
        $from = self::moment($given['from'] ?? '', 'from', '00:00:00');
        $until = self::moment($given['until'] ?? '', 'until', '23:59:59');
        if ($from !== '' && $until !== '') {
            strlen($given['from'] ?? '') === strlen($given['until'] ?? '') ||
                throw new OaiFault(OaiFault::BAD_ARGUMENT, 'from and until are both days, or both seconds.');
            $from <= $until || throw new OaiFault(OaiFault::BAD_ARGUMENT, 'until is before from.');
        }

        return new self($verb, $given, $from, $until);
    }

    /**
     * @return array<string, string>
     *
     * @throws OaiFault
     */
    private static function parts(string $query): array
    {
        strlen($query) <= self::LONGEST || throw new OaiFault(OaiFault::BAD_ARGUMENT, 'The request is too long.');
        $given = [];
        foreach ($query === '' ? [] : explode('&', $query) as $part) {
            [$name, $value] = [...explode('=', $part, 2), ''];
            [$name, $value] = [urldecode($name), urldecode($value)];
            if (isset($given[$name])) {
                throw new OaiFault($name === 'verb' ? OaiFault::BAD_VERB : OaiFault::BAD_ARGUMENT, 'An argument is there twice.');
            }
            if (! mb_check_encoding($value, 'UTF-8') || ! mb_check_encoding($name, 'UTF-8')) {
                throw new OaiFault(OaiFault::BAD_ARGUMENT, 'An argument is not UTF-8.');
            }
            $name === '' || ($given[$name] = $value);
        }

        return $given;
    }

    /** @throws OaiFault */
    private static function moment(string $text, string $name, string $time): string
    {
        if ($text === '') {
            return '';
        }
        $whole = strlen($text) === 10 ? "{$text}T{$time}Z" : $text;
        $isWritten = preg_match('/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/D', $whole) === 1;
        $at = $isWritten ? DateTimeImmutable::createFromFormat('!Y-m-d\TH:i:s\Z', $whole) : false;
        if ($at === false || $at->format('Y-m-d\TH:i:s\Z') !== $whole) {
            throw new OaiFault(OaiFault::BAD_ARGUMENT, "{$name} is a day (2026-11-29) or a second (2026-11-29T14:05:00Z).");
        }

        return $whole;
    }
}
