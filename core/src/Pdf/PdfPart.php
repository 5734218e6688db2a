<?php

declare(strict_types=1);

namespace Brenvic\Core\Pdf;

use UnexpectedValueException;

/**
 * Reads the objects of a PDF as `qpdf --object-streams=disable` writes it: one after another by their numbers, each
 * dictionary in a line of its own, a table of their places at the end, and all pages below one node.
 */
final class PdfPart
{
    /** A dictionary, with those in it. */
    private const DICTIONARY = '(<<(?:[^<>]|<(?!<)|>(?!>)|(?1))*>>)';

    /** @var resource */
    private readonly mixed $stream;

    /** @var array<int, int> where each object begins, by its number */
    private array $places = [];

    /** The number of the catalog. */
    public readonly int $catalog;

    /** The number of the node that all pages are below. */
    public readonly int $root;

    /** The highest number. */
    public readonly int $highest;

    /** @throws UnexpectedValueException when the file is not written so */
    public function __construct(string $path)
    {
        $this->stream = fopen($path, 'rb') ?: throw new UnexpectedValueException("“{$path}” cannot be read.");
        fseek($this->stream, -64, SEEK_END);
        preg_match('/startxref\s+(\d+)\s+%%EOF\s*$/', (string) stream_get_contents($this->stream), $m) === 1 ||
            throw self::otherwise('its end');
        $table = (int) $m[1];
        fseek($this->stream, $table);
        (fgets($this->stream) === "xref\n" && preg_match('/^0 (\d+)$/', rtrim((string) fgets($this->stream)), $m) === 1) ||
            throw self::otherwise('its table');
        $this->highest = (int) $m[1] - 1;
        fgets($this->stream);
        for ($number = 1; $number <= $this->highest; $number++) {
            $this->places[$number] = (int) fgets($this->stream);
            $this->places[$number] > ($this->places[$number - 1] ?? 0) || throw self::otherwise("the place of object {$number}");
        }
        $this->places[] = $table;
        $this->catalog = self::reference((string) fgets($this->stream), 'Root') ?? throw self::otherwise('its trailer');
        $this->root = self::reference($this->object($this->catalog)[0], 'Pages') ?? throw self::otherwise('its catalog');
    }

    /**
     * An object: its value, and how much of a stream follows it. `copyStream` then gives the stream away.
     *
     * @return array{string, int} the value, and the bytes from the word `stream` to the word `endobj`; 0 when there is none
     */
    public function object(int $number): array
    {
        fseek($this->stream, $this->places[$number]);
        fgets($this->stream) === "{$number} 0 obj\n" || throw self::otherwise("object {$number}");
        $value = rtrim((string) fgets($this->stream), "\n");
        $rest = $this->places[$number + 1] - (int) ftell($this->stream);
        $next = (string) fread($this->stream, 6);
        $next === 'stream' || $next === 'endobj' || throw self::otherwise("the value of object {$number}");

        return [$value, $next === 'stream' ? $rest : 0];
    }

    /**
     * The stream of the object that was read last, as it stands in the file.
     *
     * @param  resource  $target
     */
    public function copyStream(mixed $target, int $bytes): void
    {
        fseek($this->stream, -6, SEEK_CUR);
        stream_copy_to_stream($this->stream, $target, $bytes) === $bytes ||
            throw new UnexpectedValueException('A stream could not be written; is the disk full?');
    }

    /** @return list<int> the objects of the pages in order */
    public function pages(): array
    {
        [$node] = $this->object($this->root);
        (preg_match('#/Kids \[([ 0-9R]*)\]#', $node, $kids) === 1 && preg_match('#/Count (\d+)#', $node, $count) === 1) ||
            throw self::otherwise('its pages');
        $pages = self::numbers($kids[1]);
        count($pages) === (int) $count[1] || throw self::otherwise('the tree of its pages');

        return $pages;
    }

    /**
     * The fields of a form that stand on the pages, and the entry of its dictionary that has what they are drawn with.
     *
     * @return array{list<int>, string} empty when there are none
     */
    public function form(): array
    {
        [$catalog] = $this->object($this->catalog);
        $form =
            ($at = self::reference($catalog, 'AcroForm')) !== null
                ? $this->object($at)[0]
                : (preg_match('#/AcroForm '.self::DICTIONARY.'#', $catalog, $m) === 1
                    ? $m[1]
                    : '');
        $fields =
            ($at = self::reference($form, 'Fields')) !== null
                ? $this->object($at)[0]
                : (preg_match('#/Fields \[[ 0-9R]*\]#', $form, $m) === 1
                    ? $m[0]
                    : '');

        return [
            self::numbers($fields),
            preg_match('#/DR (?:\d+ 0 R|'.self::DICTIONARY.')#', $form, $resources) === 1 ? $resources[0] : '',
        ];
    }

    /** @return list<int> */
    private static function numbers(string $references): array
    {
        preg_match_all('/(\d+) 0 R/', $references, $found);

        return array_map(intval(...), $found[1]);
    }

    private static function reference(string $dictionary, string $key): ?int
    {
        return preg_match("#/{$key} (\\d+) 0 R#", $dictionary, $m) === 1 ? (int) $m[1] : null;
    }

    private static function otherwise(string $what): UnexpectedValueException
    {
        return new UnexpectedValueException("A PDF to be joined is written otherwise than expected: {$what}.");
    }
}
