<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidValue;

/**
 * Where something stands in the web. The normal form is an absolute address (RFC 3986) with scheme and host in small letters
 * and a host of other scripts in ASCII (UTS 46). Only http and https: what else an address may do is not for a link.
 */
final class WebAddressKind extends FieldKind
{
    public function __construct()
    {
        parent::__construct('web_address', 'Web address');
    }

    public function widget(): string
    {
        return 'web-address';
    }

    public function hint(): string
    {
        return 'https://tarnwick.example/locks';
    }

    /** Nearly every one is another. */
    public function mayBeFaceted(): bool
    {
        return false;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        $address = $this->short($field, $text);
        // A name without a dot is that of a server in the house, or a word; which of them only the scheme tells.
        $isWhole = preg_match('~^[a-z][a-z0-9+.-]*:(?!\d)~i', $address) === 1;
        if (! $isWhole) {
            $address = "https://{$address}";
        }
        $pattern = '~^(https?)://([^\s/?#@:]+)(:\d{1,5})?(?=[/?#]|$)([^\s<>"{}|\\\\^`]*)$~iuD';
        if (preg_match($pattern, $address, $m) !== 1 || (int) substr($m[3], 1) > 65_535) {
            throw new InvalidValue("“{$text}” is no web address. Write it like {$this->hint()}.");
        }
        $host = idn_to_ascii(mb_strtolower($m[2]), IDNA_DEFAULT, INTL_IDNA_VARIANT_UTS46);
        if ($host === false || preg_match('/^(?=.{1,253}$)[a-z0-9](?:[a-z0-9.-]*[a-z0-9])?$/D', $host) !== 1 || (! $isWhole && ! str_contains($host, '.'))) {
            throw new InvalidValue("“{$m[2]}” is no name of a web server.");
        }
        $rest = preg_replace_callback('/[^\x21-\x7E]/u', static fn (array $sign): string => rawurlencode($sign[0]), $m[4]);

        return strtolower($m[1])."://{$host}{$m[3]}{$rest}";
    }

    /** With the letters of other scripts as people know them. */
    public function display(FieldDefinition $field, string $normal): string
    {
        $host = (string) parse_url($normal, PHP_URL_HOST);
        $shown = str_contains($host, 'xn--') ? idn_to_utf8($host, IDNA_DEFAULT, INTL_IDNA_VARIANT_UTS46) : $host;
        [$scheme, $after] = explode('://', $normal, 2);
        $path = rawurldecode(substr($after, strlen($host)));
        $isReadable = mb_check_encoding($path, 'UTF-8') && preg_match('/[\s\p{C}]/u', $path) !== 1;

        return $shown === false || ! $isReadable ? $normal : "{$scheme}://{$shown}{$path}";
    }

    public function datatype(): string
    {
        return 'anyURI';
    }

    public function sought(FieldDefinition $field, string $plain): string
    {
        try {
            return $field->parse($plain) ?? $plain;
        } catch (InvalidValue) {
            return $plain;
        }
    }
}
