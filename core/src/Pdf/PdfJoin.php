<?php

declare(strict_types=1);

namespace Brenvic\Core\Pdf;

use UnexpectedValueException;

/**
 * Writes one PDF (ISO 32000-1) from many, object after object: only the numbers change. Nothing is held but the objects of
 * one stream; the places of all (7.5.8, eight bytes each) wait in a file. So its memory is the same for ten pages and for
 * a million.
 */
final class PdfJoin
{
    /** How many objects one object stream takes (7.5.7). */
    private const TOGETHER = 200;

    /** How many files one leaf of their name tree has (7.9.6). */
    private const NAMES = 64;

    private const CATALOG = 1;

    private const PAGES = 2;

    /** @var resource */
    private readonly mixed $out;

    /** @var resource where each object is, in the form of a cross-reference stream */
    private readonly mixed $places;

    private int $highest = 2;

    private int $pages = 0;

    /** @var array<int, string> objects that wait for being written together, by number */
    private array $waiting = [];

    /** @var array{list<int>, list<int>} the nodes of the parts, of those that come before all others and of the others */
    private array $nodes = [[], []];

    /** @var list<int> the groups of fields of forms, one for each part that has any */
    private array $forms = [];

    private string $formResources = '';

    /** @var list<array{string, int}> attached files of the present leaf: name and object */
    private array $names = [];

    /** @var list<int> */
    private array $leaves = [];

    private int $attached = 0;

    public function __construct(private readonly string $target)
    {
        $this->out = fopen($target, 'wb') ?: throw new UnexpectedValueException("“{$target}” cannot be written.");
        $this->places = fopen("{$target}.places", 'w+b') ?: throw new UnexpectedValueException("“{$target}” cannot be written.");
        $this->write("%PDF-1.7\n%\xE2\xE3\xCF\xD3\n");
    }

    /** A number for an object that is written later. */
    public function reserve(): int
    {
        return ++$this->highest;
    }

    /** @param  string  $value  a dictionary or another value, not a stream */
    public function put(int $object, string $value): void
    {
        $this->waiting[$object] = $value;
        count($this->waiting) < self::TOGETHER || $this->flush();
    }

    /**
     * Adds the pages of a PDF.
     *
     * @param  \Closure(int): string  $page  takes the object of each page in order, and gives what is to be added to its dictionary
     * @param  bool  $isFirst  whether they come before the pages of those that are not
     *
     * @throws UnexpectedValueException when it cannot be read
     */
    public function add(PdfPart $part, \Closure $page, bool $isFirst = false): void
    {
        $base = $this->highest;
        $this->highest += $part->highest;
        $more = [$part->root => '/Parent '.self::PAGES.' 0 R '];
        foreach ($part->pages() as $number) {
            $more[$number] = $page($base + $number);
            $this->pages++;
        }
        [$fields, $resources] = $part->form();
        if ($fields !== []) {
            // Fields of two parts may have one name: each part is a group of its own.
            $group = $this->forms[] = $this->reserve();
            foreach ($fields as $field) {
                $more[$field] = ($more[$field] ?? '')."/Parent {$group} 0 R ";
            }
            $this->put(
                $group,
                '<< /T '.
                    self::text('Part '.count($this->forms)).
                    ' /Kids [ '.
                    self::references(array_map(static fn (int $f): int => $base + $f, $fields)).
                    '] >>',
            );
            $this->formResources = $this->formResources === '' ? self::renumbered($resources, $base) : $this->formResources;
        }
        for ($number = 1; $number <= $part->highest; $number++) {
            if ($number === $part->catalog) {
                continue;
            }
            [$value, $stream] = $part->object($number);
            $value = self::renumbered($value, $base);
            if (($more[$number] ?? '') !== '') {
                str_starts_with($value, '<< ') || throw new UnexpectedValueException("Object {$number} is no dictionary.");
                $value = "<< {$more[$number]}".substr($value, 3);
            }
            if ($stream === 0) {
                $this->put($base + $number, $value);

                continue;
            }
            $this->begin($base + $number);
            $this->write("{$value}\n");
            $part->copyStream($this->out, $stream);
        }
        $this->nodes[$isFirst ? 0 : 1][] = $base + $part->root;
    }

    /** Puts a file in that goes along as it is (7.11.4). */
    public function attach(string $path, string $name): void
    {
        $file = fopen($path, 'rb') ?: throw new UnexpectedValueException("“{$path}” cannot be read.");
        $object = $this->reserve();
        $bytes = (int) filesize($path);
        $this->begin($object);
        $this->write("<< /Type /EmbeddedFile /Params << /Size {$bytes} >> /Length {$bytes} >>\nstream\n");
        stream_copy_to_stream($file, $this->out, $bytes) === $bytes ||
            throw new UnexpectedValueException("“{$name}” could not be written; is the disk full?");
        $this->write("\nendstream\nendobj\n");
        fclose($file);
        $this->put(
            $of = $this->reserve(),
            '<< /Type /Filespec /F '.self::text($name).' /UF '.self::text($name)." /EF << /F {$object} 0 R /UF {$object} 0 R >> >>",
        );
        // Numbers keep the names in the order that the tree must have, and two files of one name apart.
        $this->names[] = [self::text(sprintf('%08d %s', ++$this->attached, $name)), $of];
        count($this->names) < self::NAMES || $this->leaf();
    }

    /**
     * Ends the file.
     *
     * @param  int|null  $outline  the object of its bookmarks
     */
    public function end(string $title, ?int $outline): void
    {
        $this->leaf();
        $this->put(self::PAGES, "<< /Type /Pages /Count {$this->pages} /Kids [ ".self::references(array_merge(...$this->nodes)).'] >>');
        $this->put(
            self::CATALOG,
            '<< /Type /Catalog /Pages '.
                self::PAGES.
                ' 0 R'.
                ($outline === null ? '' : " /Outlines {$outline} 0 R /PageMode /UseOutlines").
                ($this->leaves === [] ? '' : ' /Names << /EmbeddedFiles << /Kids [ '.self::references($this->leaves).'] >> >>').
                ($this->forms === [] ? '' : ' /AcroForm << /Fields [ '.self::references($this->forms)."] {$this->formResources} >>").
                ' >>',
        );
        $this->put($info = $this->reserve(), '<< /Title '.self::text($title).' /Producer (Brenvic) >>');
        $this->flush();
        $at = (int) ftell($this->out);
        $table = $this->reserve();
        $this->place($table, 1, $at, 0);
        $id = bin2hex(random_bytes(16));
        $size = $table + 1;
        $packed = "{$this->target}.packed";
        $this->pack($packed);
        $this->write(
            "{$table} 0 obj\n<< /Type /XRef /Size {$size} /W [ 1 5 2 ] /Root ".
                self::CATALOG.
                " 0 R /Info {$info} 0 R /ID [ <{$id}> <{$id}> ] /Filter /FlateDecode /Length ".
                filesize($packed).
                " >>\nstream\n",
        );
        $from = fopen($packed, 'rb') ?: throw new UnexpectedValueException('The table of the PDF is gone.');
        stream_copy_to_stream($from, $this->out);
        fclose($from);
        unlink($packed);
        $this->write("\nendstream\nendobj\nstartxref\n{$at}\n%%EOF\n");
        fclose($this->out);
        fclose($this->places);
        unlink("{$this->target}.places");
    }

    /** A text as a string of a PDF (7.9.2.2). */
    public static function text(string $text): string
    {
        return '<feff'.bin2hex(mb_convert_encoding($text, 'UTF-16BE', 'UTF-8')).'>';
    }

    /** @param  list<int>  $objects */
    public static function references(array $objects): string
    {
        return implode('', array_map(static fn (int $object): string => "{$object} 0 R ", $objects));
    }

    /** A value whose references are to other numbers; what looks like one in a string or a name stays. */
    public static function renumbered(string $value, int $by): string
    {
        return (string) preg_replace_callback(
            '~\((?:[^()\\\\]++|\\\\.)*+\)|<[0-9A-Fa-f]*+>|/[^\s()<>\[\]{}/%]*+|(?<![\d.+-])(\d++) 0 R(?![^\s()<>\[\]{}/%])~s',
            static fn (array $m): string => isset($m[1]) ? (int) $m[1] + $by.' 0 R' : $m[0],
            $value,
        );
    }

    private function leaf(): void
    {
        if ($this->names !== []) {
            $this->put(
                $this->leaves[] = $this->reserve(),
                "<< /Limits [ {$this->names[0][0]} {$this->names[count($this->names) - 1][0]} ] /Names [ ".
                    implode(' ', array_map(static fn (array $n): string => "{$n[0]} {$n[1]} 0 R", $this->names)).
                    ' ] >>',
            );
            $this->names = [];
        }
    }

    private function flush(): void
    {
        if ($this->waiting === []) {
            return;
        }
        $stream = $this->reserve();
        $head = $body = '';
        $i = 0;
        foreach ($this->waiting as $object => $value) {
            $head .= "{$object} ".strlen($body).' ';
            $body .= "{$value} ";
            $this->place($object, 2, $stream, $i++);
        }
        $packed = (string) gzcompress($head.$body, 6);
        $this->begin($stream);
        $this->write(
            "<< /Type /ObjStm /N {$i} /First ".
                strlen($head).
                ' /Filter /FlateDecode /Length '.
                strlen($packed).
                " >>\nstream\n{$packed}\nendstream\nendobj\n",
        );
        $this->waiting = [];
    }

    private function begin(int $object): void
    {
        $this->place($object, 1, (int) ftell($this->out), 0);
        $this->write("{$object} 0 obj\n");
    }

    /** Notes where an object is: at a byte (kind 1), or as one of those in an object stream (kind 2). */
    private function place(int $object, int $kind, int $at, int $index): void
    {
        fseek($this->places, 8 * $object);
        fwrite($this->places, chr($kind).substr(pack('J', $at), 3).pack('n', $index)) === 8 ||
            throw new UnexpectedValueException('The table of the PDF could not be written; is the disk full?');
    }

    /** Numbers without an object are zeroes there, which is what a free one is. */
    private function pack(string $target): void
    {
        rewind($this->places);
        $out = fopen($target, 'wb') ?: throw new UnexpectedValueException('The table of the PDF cannot be written.');
        $deflate = deflate_init(ZLIB_ENCODING_DEFLATE) ?: throw new UnexpectedValueException('The table of the PDF cannot be packed.');
        while (! feof($this->places)) {
            fwrite($out, (string) deflate_add($deflate, (string) fread($this->places, 1 << 16), ZLIB_NO_FLUSH));
        }
        fwrite($out, (string) deflate_add($deflate, '', ZLIB_FINISH));
        fclose($out);
    }

    private function write(string $bytes): void
    {
        fwrite($this->out, $bytes) === strlen($bytes) ||
            throw new UnexpectedValueException('The PDF could not be written; is the disk full?');
    }
}
