<?php

declare(strict_types=1);

use Brenvic\Core\Pdf\PdfJoin;
use Brenvic\Core\Pdf\PdfOutline;
use Brenvic\Core\Pdf\PdfPart;

beforeEach(function () {
    $this->folder = sys_get_temp_dir().'/brenvic-pdf-'.bin2hex(random_bytes(6));
    mkdir($this->folder);
});

afterEach(function () {
    array_map(unlink(...), glob("{$this->folder}/*") ?: []);
    rmdir($this->folder);
});

/**
 * A PDF as qpdf writes it.
 *
 * @param  array<int, string>  $objects  by number, from 1; those with a stream end with it
 */
function writtenPart(string $path, array $objects): string
{
    $out = "%PDF-1.7\n";
    $table = '';
    foreach ($objects as $number => $object) {
        $table .= sprintf("%010d 00000 n \n", strlen($out));
        $out .= "{$number} 0 obj\n{$object}\nendobj\n";
    }
    $size = count($objects) + 1;
    file_put_contents(
        $path,
        "{$out}xref\n0 {$size}\n0000000000 65535 f \n{$table}trailer << /Root 1 0 R /Size {$size} >>\nstartxref\n".
            strlen($out).
            "\n%%EOF\n",
    );

    return $path;
}

/** A part with pages that say who they are, and fields of a form. */
function pagesPart(string $path, string $name, int $pages, int $fields = 0): string
{
    $kids = range(3, 2 + $pages);
    $of = $fields === 0 ? [] : range(3 + 2 * $pages, 2 + 2 * $pages + $fields);
    $objects = [
        1 => '<< /Pages 2 0 R /Type /Catalog'.
            ($of === [] ? '' : ' /AcroForm << /DR << /Font << /F 3 0 R >> >> /Fields [ '.PdfJoin::references($of).'] >>').
            ' >>',
        '<< /Count '.$pages.' /Kids [ '.PdfJoin::references($kids).'] /Type /Pages >>',
    ];
    foreach ($kids as $i => $kid) {
        $objects[$kid] = '<< /Contents '.(3 + $pages + $i)." 0 R /Parent 2 0 R /Type /Page /Says (page {$i} of {$name}, not 7 0 R) >>";
    }
    foreach ($kids as $i => $kid) {
        $stream = "({$name}) 3 0 R endobj\n".str_repeat("\0\xff", $i);
        $objects[3 + $pages + $i] = '<< /Length '.strlen($stream)." >>\nstream\n{$stream}\nendstream";
    }
    foreach ($of as $field) {
        $objects[$field] = '<< /FT /Tx /T (sum) /P 3 0 R >>';
    }
    ksort($objects);

    return writtenPart($path, $objects);
}

/** @return array<int, string> all objects of a joined PDF, by its own table */
function joinedObjects(string $path): array
{
    $bytes = (string) file_get_contents($path);
    expect(preg_match('/startxref\n(\d+)\n%%EOF\n$/', $bytes, $m))->toBe(1);
    $stream = static function (int $at) use ($bytes): string {
        expect(preg_match('/\G\d+ 0 obj\n<<.*? \/Length (\d+) >>\nstream\n/s', $bytes, $m, 0, $at))->toBe(1);

        return (string) gzuncompress(substr($bytes, $at + strlen($m[0]), (int) $m[1]));
    };
    $objects = [];
    foreach (str_split($stream((int) $m[1]), 8) as $number => $entry) {
        ['kind' => $kind, 'at' => $at, 'i' => $i] = unpack('Ckind/x/Nat/ni', $entry);
        if ($kind === 1) {
            expect(substr($bytes, $at, strlen("{$number} 0 obj\n")))->toBe("{$number} 0 obj\n");
            $objects[$number] = substr($bytes, $at + strlen("{$number} 0 obj\n"), (int) strpos($bytes, "\nendobj\n", $at) - $at);
        } elseif ($kind === 2) {
            $objects[$number] = [$at, $i];
        }
    }
    foreach (array_filter($objects, is_array(...)) as $number => [$in, $i]) {
        preg_match('/\/First (\d+)/', $objects[$in], $first);
        $together = $stream((int) strpos($bytes, "\n{$in} 0 obj\n") + 1);
        $head = explode(' ', trim(substr($together, 0, (int) $first[1])));
        expect((int) $head[2 * $i])->toBe($number);
        $objects[$number] = trim(
            substr(
                $together,
                (int) $first[1] + (int) $head[2 * $i + 1],
                (int) ($head[2 * $i + 3] ?? strlen($together)) - (int) $head[2 * $i + 1],
            ),
        );
    }

    return $objects;
}

it('changes the numbers of references, and nothing that only looks like one', function () {
    $tokens = [
        ['7 0 R', '1007 0 R'],
        ['(a 7 0 R \\) 8 0 R)', null],
        ['/Name', null],
        ['/A7', null],
        ['<feff0037>', null],
        ['-1.5', null],
        ['7 0', null],
        ['[ 1 0 R 12 0 R ]', '[ 1001 0 R 1012 0 R ]'],
        ['<< /K 3 0 R >>', '<< /K 1003 0 R >>'],
        ['(\\\\)', null],
        ['true', null],
        ['/R', null],
        ['0.5 0', null],
    ];
    seeded(3);
    for ($i = 0; $i < 400; $i++) {
        $of = array_map(static fn (): array => $tokens[mt_rand(0, count($tokens) - 1)], range(0, mt_rand(0, 8)));
        expect(PdfJoin::renumbered(implode(' ', array_column($of, 0)), 1_000))->toBe(
            implode(' ', array_map(static fn (array $t): string => $t[1] ?? $t[0], $of)),
        );
    }
});

it('joins pages in their order, each with its own stream, and finds every object by its table', function () {
    seeded(21);
    for ($round = 0; $round < 6; $round++) {
        $join = new PdfJoin("{$this->folder}/all.pdf");
        $expected = [[], []];
        $seen = [];
        foreach (range(0, mt_rand(0, 4)) as $p) {
            $pages = mt_rand(1, 90);
            $isFirst = mt_rand(0, 3) === 0;
            $join->add(
                new PdfPart(pagesPart("{$this->folder}/part.pdf", "P{$p}", $pages, mt_rand(0, 2))),
                static function (int $page) use (&$seen): string {
                    $seen[] = $page;

                    return '/More true ';
                },
                $isFirst,
            );
            array_push(
                $expected[$isFirst ? 0 : 1],
                ...array_map(static fn (int $i): string => "page {$i} of P{$p}, not 7 0 R", range(0, $pages - 1)),
            );
        }
        file_put_contents("{$this->folder}/note.txt", $note = "endobj\nendstream\n".random_bytes(90));
        $files = mt_rand(0, 150);
        for ($i = 0; $i < $files; $i++) {
            $join->attach("{$this->folder}/note.txt", 'żółw.txt');
        }
        $join->end('Ż', null);
        $objects = joinedObjects("{$this->folder}/all.pdf");
        $list = static fn (string $key, string $of): array => preg_match("#/{$key} \\[ ([0-9 R]*?)\\]#", $of, $m) === 1 &&
        preg_match_all('/(\d+) 0 R/', $m[1], $n)
            ? array_map(intval(...), $n[1])
            : [];
        $says = $numbers = [];
        foreach ($list('Kids', $objects[2]) as $node) {
            expect($objects[$node])->toContain('/Parent 2 0 R');
            foreach ($list('Kids', $objects[$node]) as $page) {
                preg_match('/\/Says \((.*?)\)/', $objects[$page], $m);
                preg_match('/\/Contents (\d+) 0 R/', $objects[$page], $contents);
                preg_match('/of (P\d+)/', $m[1], $name);
                expect($objects[$page])
                    ->toContain("/Parent {$node} 0 R")
                    ->toContain('/More true')
                    ->and($objects[(int) $contents[1]])
                    ->toContain("({$name[1]}) 3 0 R endobj");
                $says[] = $m[1];
                $numbers[] = $page;
            }
        }
        expect($says)
            ->toBe(array_merge(...$expected))
            ->and(array_diff($seen, $numbers))
            ->toBe([])
            ->and($objects[2])
            ->toContain('/Count '.count($says).' ');
        // Fields of one name are kept apart by the part they come from.
        foreach ($list('Fields', $objects[1]) as $group) {
            foreach ($list('Kids', $objects[$group]) as $field) {
                expect($objects[$field])
                    ->toContain("/Parent {$group} 0 R")
                    ->and($numbers)
                    ->toContain((int) substr(strstr($objects[$field], '/P ') ?: '', 3));
            }
        }
        preg_match_all(
            '/<([0-9a-f]+)> (\d+) 0 R/',
            implode(
                ' ',
                array_map(static fn (int $leaf): string => $objects[$leaf], $list('Kids', strstr($objects[1], '/EmbeddedFiles') ?: '')),
            ),
            $names,
        );
        $sorted = $names[1];
        sort($sorted, SORT_STRING);
        expect($names[1])->toHaveCount($files)->toBe($sorted);
        foreach ($names[2] as $file) {
            expect($objects[(int) $file])
                ->toContain(PdfJoin::text('żółw.txt'))
                ->and(preg_match('/\/EF << \/F (\d+)/', $objects[(int) $file], $m))
                ->toBe(1);
            expect($objects[(int) $m[1]])->toStartWith('<< /Type /EmbeddedFile');
        }
        expect(substr_count((string) file_get_contents("{$this->folder}/all.pdf"), "\nstream\n{$note}\nendstream\n"))
            ->toBe($files)
            ->and(glob("{$this->folder}/all.pdf.*"))
            ->toBe([]);
    }
});

it('makes bookmarks that lead through every document in order', function () {
    seeded(8);
    for ($i = 0; $i < 60; $i++) {
        $entries = array_map(
            static fn (int $n): array => [
                'path' => [...array_map(static fn (): string => 'F'.mt_rand(0, 2), range(1, mt_rand(1, 3))), "Doc {$n}"],
                'page' => 5_000 + $n,
            ],
            $i === 0 ? [] : range(1, mt_rand(1, 300)),
        );
        $join = new PdfJoin("{$this->folder}/all.pdf");
        $outline = new PdfOutline($join);
        foreach ($entries as $entry) {
            $outline->add($entry['path'], $entry['page']);
        }
        $join->end('', $root = $outline->end());
        $objects = joinedObjects("{$this->folder}/all.pdf");
        $number = static fn (string $key, int $of): ?int => preg_match("#/{$key} (-?\\d+)#", $objects[$of], $m) === 1 ? (int) $m[1] : null;
        $walk = static function (int $at) use (&$walk, $objects, $number): array {
            $leaves = [];
            $before = null;
            $below = 0;
            for ($child = $number('First', $at); $child !== null; $child = $number('Next', $child)) {
                expect($number('Parent', $child))->toBe($at)->and($number('Prev', $child))->toBe($before);
                preg_match('/\/Title <feff([0-9a-f]+)>.*\/Dest \[ (\d+) 0 R/', $objects[$child], $m);
                $before = $child;
                $below++;
                array_push(
                    $leaves,
                    ...$number('First', $child) !== null
                        ? $walk($child)
                        : [[mb_convert_encoding((string) hex2bin($m[1]), 'UTF-8', 'UTF-16BE'), (int) $m[2]]],
                );
            }
            expect($number('Last', $at))->toBe($before)->and(abs($number('Count', $at) ?? 0))->toBe($below);

            return $leaves;
        };
        $leaves = $walk($root);
        $expected = array_map(static fn (array $e): array => [end($e['path']), $e['page']], $entries);
        sort($leaves);
        sort($expected);
        expect($leaves)->toBe($expected);
    }
});

it('refuses what is not written as expected, and says what', function (string $bytes, string $what) {
    file_put_contents("{$this->folder}/part.pdf", $bytes);
    expect(fn () => (new PdfPart("{$this->folder}/part.pdf"))->pages())->toThrow(UnexpectedValueException::class, $what);
})->with([
    'no PDF' => [str_repeat('x', 100), 'its end'],
    'no table there' => ["%PDF-1.7\n".str_repeat(' ', 90)."\nstartxref\n3\n%%EOF\n", 'its table'],
    'places that go back' => [
        "%PDF-1.7\nxref\n0 3\n0000000000 65535 f \n0000000009 00000 n \n0000000008 00000 n \ntrailer << /Root 1 0 R >>\nstartxref\n9\n%%EOF\n",
        'the place of object 2',
    ],
    'no object there' => [
        "%PDF-1.7\nxref\n0 2\n0000000000 65535 f \n0000000003 00000 n \ntrailer << /Root 1 0 R >>\nstartxref\n9\n%%EOF\n",
        'object 1',
    ],
]);
