<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

/** The addresses by which an SRU server is asked (version 1.2, which servers of 2.0 answer as well). */
final class SruRequest
{
    /** @param  string  $base  the server’s own address */
    public static function explain(string $base): string
    {
        return self::with($base, ['operation' => 'explain', 'version' => '1.2']);
    }

    /**
     * @param  int  $from  the first record, counted from 0
     * @param  int  $most  how many records
     * @param  string  $schema  the server’s short name for Dublin Core
     */
    public static function search(string $base, string $cql, int $from, int $most, string $schema): string
    {
        return self::with($base, [
            'operation' => 'searchRetrieve', 'version' => '1.2', 'query' => $cql, 'startRecord' => (string) ($from + 1),
            'maximumRecords' => (string) $most, 'recordSchema' => $schema, 'recordPacking' => 'xml',
        ]);
    }

    /** @param  array<string, string>  $parameters */
    private static function with(string $base, array $parameters): string
    {
        return $base.(str_contains($base, '?') ? '&' : '?').http_build_query($parameters, '', '&', PHP_QUERY_RFC3986);
    }
}
