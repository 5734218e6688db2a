<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Capture\UnreadableFile;
use Brenvic\Core\Classification\NTriples;
use Brenvic\Core\Classification\Triple;
use Illuminate\Support\Facades\File;
use Illuminate\Support\Str;

/**
 * Reads and writes RDF in Turtle, RDF/XML and JSON-LD. The work is done by rdflib (see rdf.py), as PHP has no library for it; Turtle is
 * written by rapper where the machine has it, which takes a tenth of the time.
 */
final class RdfFiles
{
    public const FORMATS = [
        'turtle' => ['ttl', 'text/turtle'],
        'rdfxml' => ['rdf', 'application/rdf+xml'],
        'jsonld' => ['jsonld', 'application/ld+json'],
    ];

    private const MOST_BYTES = 20_000_000;

    private const UNREADABLE = 3;

    private const RAPPER = 'rapper';

    private const NAMES = ['skos' => 'http://www.w3.org/2004/02/skos/core#', 'dct' => 'http://purl.org/dc/terms/'];

    /**
     * @return list<Triple>
     *
     * @throws Refused with what is wrong in the file
     */
    public static function read(string $contents, string $format): array
    {
        if (strlen($contents) > self::MOST_BYTES) {
            throw new Refused('The file is larger than 20 MB.');
        }

        return NTriples::read(self::turn('read', $format, $contents));
    }

    /** @param  iterable<Triple>  $triples */
    public static function write(iterable $triples, string $format): string
    {
        $lines = NTriples::write($triples);

        return $format === 'turtle' && ExternalProgram::isThere(self::RAPPER) ? self::turtle($lines) : self::turn('write', $format, $lines);
    }

    /** Only of what is made here: nothing that came from outside is read by it. */
    private static function turtle(string $lines): string
    {
        return ExternalProgram::inFolder(static function (string $folder) use ($lines): string {
            file_put_contents("{$folder}/in.nt", $lines);
            $names = array_map(
                static fn (string $name, string $space): string => "xmlns:{$name}=\"{$space}\"",
                array_keys(self::NAMES),
                self::NAMES,
            );
            $named = array_merge(...array_map(static fn (string $of): array => ['-f', $of], $names));
            [$code, $turtle, $errors] = ExternalProgram::run(
                [self::RAPPER, '-q', '-i', 'ntriples', '-o', 'turtle', ...$named, "{$folder}/in.nt"],
                $folder,
            );

            return $code === 0 ? $turtle : throw new Refused('The RDF program failed. '.Str::limit(trim($errors), 200));
        });
    }

    /** The format of a file by its name and first characters. */
    public static function formatOf(string $name, string $contents): string
    {
        $start = ltrim(substr($contents, 0, 200));

        return match (true) {
            str_ends_with($name, '.jsonld') || str_ends_with($name, '.json') || ($start !== '' && ($start[0] === '{' || $start[0] === '[')) => 'jsonld',
            str_ends_with($name, '.rdf') ||
                str_ends_with($name, '.xml') ||
                str_starts_with($start, '<?xml') ||
                str_starts_with($start, '<rdf:') => 'rdfxml',
            default => 'turtle',
        };
    }

    private static function turn(string $way, string $format, string $contents): string
    {
        $folder = sys_get_temp_dir().'/brenvic-rdf-'.Str::random(16);
        File::makeDirectory($folder, 0700);
        try {
            file_put_contents("{$folder}/in", $contents);
            // Debian's own Python: it is the one that has the library.
            [$code, , $errors] = ExternalProgram::run(
                ['/usr/bin/python3', base_path('app/Exchange/rdf.py'), $way, $format, "{$folder}/in", "{$folder}/out"],
                $folder,
            );
            if ($code === self::UNREADABLE) {
                throw new Refused('The file cannot be read: '.rtrim(trim($errors), '.').'.');
            }
            if ($code !== 0) {
                throw new Refused('The RDF program failed. '.Str::limit(trim($errors), 200));
            }

            return (string) file_get_contents("{$folder}/out");
        } catch (UnreadableFile $fault) {
            throw new Refused($fault->getMessage());
        } finally {
            File::deleteDirectory($folder);
        }
    }
}
