<?php

declare(strict_types=1);

namespace Brenvic\Core\Classification;

/** N-Triples (W3C Recommendation, 25 February 2014): one statement a line, the plainest form of RDF. */
final class NTriples
{
    private const LINE = '/^\s*(?:<([^>]*)>|(_:\S+))\s+<([^>]*)>\s+(?:<([^>]*)>|(_:\S+)|"((?:[^"\\\\]|\\\\.)*)"(?:@([A-Za-z0-9-]+)|\^\^<[^>]*>)?)\s*\.\s*$/us';

    /** @return list<Triple> lines that are no statement are left out */
    public static function read(string $text): array
    {
        $triples = [];
        foreach (explode("\n", $text) as $line) {
            if (preg_match(self::LINE, $line, $m, PREG_UNMATCHED_AS_NULL) === 1) {
                $triples[] = new Triple(
                    self::plain($m[1] ?? $m[2] ?? ''), self::plain($m[3]), self::plain($m[4] ?? $m[5] ?? $m[6] ?? ''),
                    $m[6] !== null, strtolower($m[7] ?? ''),
                );
            }
        }

        return $triples;
    }

    /** @param  iterable<Triple>  $triples */
    public static function write(iterable $triples): string
    {
        $node = static fn (string $name): string => str_starts_with($name, '_:') ? $name : '<'.preg_replace_callback('/[\x00-\x20<>"{}|^`\\\\]/', static fn (array $m): string => rawurlencode($m[0]), $name).'>';
        $text = '';
        foreach ($triples as $triple) {
            $object = $triple->isText
                ? '"'.strtr($triple->object, ['\\' => '\\\\', '"' => '\\"', "\n" => '\\n', "\r" => '\\r', "\t" => '\\t']).'"'.($triple->language === '' ? '' : "@{$triple->language}")
                : $node($triple->object);
            $text .= "{$node($triple->subject)} {$node($triple->predicate)} {$object} .\n";
        }

        return $text;
    }

    private static function plain(string $escaped): string
    {
        return (string) preg_replace_callback('/\\\\(?:u([0-9A-Fa-f]{4})|U([0-9A-Fa-f]{8})|(.))/s', static fn (array $m): string => match (true) {
            isset($m[3]) => ['n' => "\n", 'r' => "\r", 't' => "\t", 'b' => "\x08", 'f' => "\f"][$m[3]] ?? $m[3],
            default => mb_chr((int) hexdec($m[2] ?? $m[1])) ?: '',
        }, $escaped);
    }
}
