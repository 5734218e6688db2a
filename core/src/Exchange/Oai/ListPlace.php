<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Oai;

use JsonException;

/**
 * What a list is about and how far it is: all that a resumption token says. A token is this, signed, so that it holds when the server
 * is started anew, and nobody can make one for a list that they did not begin.
 */
final readonly class ListPlace
{
    /**
     * @param  string  $asker  a name of what who asks may see
     * @param  string  $from  the first moment, ISO 8601 in UTC; empty for all
     * @param  string  $until  the last
     * @param  string  $stamp  that of the last record given, and its number; empty before the first
     * @param  int  $given  how many records were given
     */
    public function __construct(
        public string $asker,
        public string $verb,
        public string $prefix,
        public string $set,
        public string $from,
        public string $until,
        public string $stamp = '',
        public int $number = 0,
        public int $given = 0,
    ) {
    }

    public function at(string $stamp, int $number, int $given): self
    {
        return new self($this->asker, $this->verb, $this->prefix, $this->set, $this->from, $this->until, $stamp, $number, $given);
    }

    /** @param  string  $key  that nobody else knows */
    public function token(string $key): string
    {
        $says = json_encode(
            [$this->asker, $this->verb, $this->prefix, $this->set, $this->from, $this->until, $this->stamp, $this->number, $this->given],
            JSON_THROW_ON_ERROR,
        );

        return rtrim(strtr(base64_encode(hash_hmac('sha256', $says, $key, true).$says), '+/', '-_'), '=');
    }

    /** @throws OaiFault */
    public static function read(string $token, string $key, string $asker, string $verb): self
    {
        $packed = (string) base64_decode(strtr($token, '-_', '+/'), true);
        $says = substr($packed, 32);
        if ($says === '' || ! hash_equals(hash_hmac('sha256', $says, $key, true), substr($packed, 0, 32))) {
            throw new OaiFault(OaiFault::BAD_TOKEN, 'The token was not given out here.');
        }
        try {
            $of = (array) json_decode($says, true, 4, JSON_THROW_ON_ERROR);
        } catch (JsonException) {
            throw new OaiFault(OaiFault::BAD_TOKEN, 'The token cannot be read.');
        }
        $texts = array_map(static fn (int $i): string => is_string($of[$i] ?? null) ? $of[$i] : '', range(0, 6));
        $numbers = array_map(static fn (int $i): int => is_int($of[$i] ?? null) ? $of[$i] : 0, [7, 8]);
        $place = new self($texts[0], $texts[1], $texts[2], $texts[3], $texts[4], $texts[5], $texts[6], $numbers[0], $numbers[1]);
        if ($place->asker !== $asker) {
            throw new OaiFault(OaiFault::BAD_TOKEN, 'The token is of somebody who sees other records. Begin the list again.');
        }
        if ($place->verb !== $verb) {
            throw new OaiFault(OaiFault::BAD_TOKEN, "The token goes on with {$place->verb}.");
        }

        return $place;
    }
}
