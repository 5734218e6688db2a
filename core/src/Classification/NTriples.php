<?php

declare(strict_types=1);

namespace Brenvic\Core\Classification;

use Brenvic\Core\Fields\InvalidDefinition;

/** N-Triples (W3C Recommendation, 25 February 2014): one statement a line, the plainest form of RDF. */
final class NTriples
{
    private const LINE = '/^\s*+(?:<([^>]*+)>|(_:\S++))\s++<([^>]*+)>\s++(?:<([^>]*+)>|(_:\S++)|'.
        '"((?:[^"\\\\]++|\\\\.)*+)"(?:@([A-Za-z0-9-]++)|\^\^<([^>]*+)>)?)\s*+\.\s*+$/us';

    private const STRING = 'http://www.w3.org/2001/XMLSchema#string';

    /**
     * @return list<Triple>
     *
     * @throws InvalidDefinition naming the first line that is no statement
     */
    public static function read(string $text): array
    {
        $triples = [];
        foreach (explode("\n", $text) as $i => $line) {
            if (trim($line) === '' || ltrim($line)[0] === '#') {
                continue;
            }
            if (preg_match(self::LINE, $line, $m, PREG_UNMATCHED_AS_NULL) !== 1) {
                throw new InvalidDefinition('file', 'Line '.($i + 1).' is not a statement of RDF: “'.mb_strcut($line, 0, 120).'”.');
            }
            $datatype = self::plain($m[8] ?? '');
            $triples[] = new Triple(
                self::plain($m[1] ?? ($m[2] ?? '')),
                self::plain($m[3]),
                self::plain($m[4] ?? ($m[5] ?? ($m[6] ?? ''))),
                $m[6] !== null,
                strtolower($m[7] ?? ''),
                $datatype === self::STRING ? '' : $datatype,
            );
        }

        return $triples;
    }

    /** @param  iterable<Triple>  $triples */
    public static function write(iterable $triples): string
    {
        $text = '';
        foreach ($triples as $triple) {
            $text .= self::line($triple)."\n";
        }

        return $text;
    }

    /** One statement, without the end of the line. */
    public static function line(Triple $triple): string
    {
        $object = match (true) {
            ! $triple->isText => self::node($triple->object),
            default => '"'.
                strtr($triple->object, ['\\' => '\\\\', '"' => '\\"', "\n" => '\\n', "\r" => '\\r', "\t" => '\\t']).
                '"'.
                match (true) {
                    $triple->language !== '' => "@{$triple->language}",
                    $triple->datatype !== '' => '^^'.self::node($triple->datatype),
                    default => '',
                },
        };

        return self::node($triple->subject).' '.self::node($triple->predicate)." {$object} .";
    }

    public static function node(string $name): string
    {
        return str_starts_with($name, '_:')
            ? $name
            : '<'.preg_replace_callback('/[\x00-\x20<>"{}|^`\\\\]/', static fn (array $m): string => rawurlencode($m[0]), $name).'>';
    }

    private static function plain(string $escaped): string
    {
        return (string) preg_replace_callback(
            '/\\\\(?:u([0-9A-Fa-f]{4})|U([0-9A-Fa-f]{8})|(.))/s',
            static fn (array $m): string => match (true) {
                isset($m[3]) => ['n' => "\n", 'r' => "\r", 't' => "\t", 'b' => "\x08", 'f' => "\f"][$m[3]] ?? $m[3],
                default => mb_chr((int) hexdec($m[2] ?? $m[1])) ?: '',
            },
            $escaped,
        );
    }
}
