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

/** Reads and writes RDF in Turtle, RDF/XML and JSON-LD. The work is done by rdflib (see rdf.py), as PHP has no library for it. */
final class RdfFiles
{
    public const FORMATS = [
        'turtle' => ['ttl', 'text/turtle'],
        'rdfxml' => ['rdf', 'application/rdf+xml'],
        'jsonld' => ['jsonld', 'application/ld+json'],
    ];

    private const MOST_BYTES = 20_000_000;

    private const UNREADABLE = 3;

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
        return self::turn('write', $format, NTriples::write($triples));
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
