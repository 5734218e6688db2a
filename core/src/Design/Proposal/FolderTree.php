<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/**
 * The folders that files lie in, as a table: a row for each file, a column for each level. What most files agree on is the
 * depth of the tree; what lies elsewhere is counted.
 */
final readonly class FolderTree
{
    private const DEEPEST = 12;

    /** So many paths are kept of each thing amiss. */
    private const EXAMPLES = 8;

    /**
     * @param  list<string>  $root  the folders that all files are below
     * @param  list<array{list<string>, string}>  $files  folders below the root, and the name
     * @param  array<string, int>  $faults  what is amiss => how often
     * @param  array<string, list<string>>  $examples  of what is amiss
     * @param  list<FolderName>  $names  what the names of each level have in them, the outermost first
     */
    private function __construct(
        public array $root,
        public int $depth,
        private array $files,
        public array $faults,
        public array $examples,
        public array $names,
    ) {
    }

    /** @param  iterable<string>  $paths  of files, with slashes; of folders with a slash at the end */
    public static function of(iterable $paths): self
    {
        $files = $folders = [];
        foreach ($paths as $path) {
            $path = str_replace('\\', '/', $path);
            $parts = array_values(array_filter(explode('/', $path), static fn (string $part): bool => $part !== '' && $part !== '.'));
            if ($parts === []) {
                continue;
            }
            if (str_ends_with($path, '/')) {
                $folders[implode('/', $parts)] = true;
            } else {
                $name = (string) array_pop($parts);
                $files[] = [$parts, $name];
            }
        }
        $root = self::common(array_column($files, 0));
        $files = array_map(static fn (array $file): array => [array_slice($file[0], count($root)), $file[1]], $files);
        $depth = self::usualDepth(array_column($files, 0));
        [$faults, $examples] = self::amiss($files, $folders, $root, $depth);

        return new self($root, $depth, $files, $faults, $examples, self::names($files, $depth));
    }

    /**
     * @param  list<array{list<string>, string}>  $files
     * @return list<FolderName>
     */
    private static function names(array $files, int $depth): array
    {
        $names = array_fill(0, $depth, []);
        foreach ($files as [$parts]) {
            foreach (array_slice($parts, 0, $depth) as $level => $name) {
                $names[$level][$name] = true;
            }
        }

        return array_map(static fn (array $of): FolderName => FolderName::of(array_map(strval(...), array_keys($of))), $names);
    }

    /**
     * The folders that all files are below.
     *
     * @param  list<list<string>>  $folders  of each file, the outermost first
     * @return list<string>
     */
    public static function common(array $folders): array
    {
        $common = $folders[0] ?? [];
        foreach ($folders as $parts) {
            $i = 0;
            while ($i < count($common) && ($parts[$i] ?? null) === $common[$i]) {
                $i++;
            }
            $common = array_slice($common, 0, $i);
        }

        return $common;
    }

    /**
     * How many folders most files lie in.
     *
     * @param  list<list<string>>  $folders  of each file
     */
    public static function usualDepth(array $folders): int
    {
        $depths = array_count_values(array_map(static fn (array $parts): int => min(self::DEEPEST, count($parts)), $folders));
        arsort($depths);

        return (int) (array_key_first($depths) ?? 0);
    }

    /**
     * @param  list<array{list<string>, string}>  $files
     * @param  array<string, true>  $folders
     * @param  list<string>  $root
     * @return array{array<string, int>, array<string, list<string>>}
     */
    private static function amiss(array $files, array $folders, array $root, int $depth): array
    {
        $faults = $examples = [];
        $note = static function (string $what, string $example) use (&$faults, &$examples): void {
            $faults[$what] = ($faults[$what] ?? 0) + 1;
            if (count($examples[$what] ?? []) < self::EXAMPLES) {
                $examples[$what][] = $example;
            }
        };
        $within = $names = [];
        foreach ($files as [$parts, $name]) {
            for ($i = count($parts); $i > 0; $i--) {
                $folder = implode('/', array_slice($parts, 0, $i));
                $above = implode('/', array_slice($parts, 0, $i - 1));
                $within[$above]['folders'] = true;
                $within[$folder]['folders'] ??= false;
            }
            $names[mb_strtolower($name)][] = implode('/', [...$parts, $name]);
        }
        foreach ($files as [$parts, $name]) {
            $path = implode('/', [...$parts, $name]);
            if (count($parts) < $depth) {
                $note('files nearer to the top than most', $path);
            } elseif (count($parts) > $depth) {
                $note('files deeper than most', $path);
            }
            if (count($parts) >= $depth && ($within[implode('/', $parts)]['folders'] ?? false)) {
                $note('files lying beside folders', $path);
            }
        }
        foreach ($names as $paths) {
            if (count($paths) > 1) {
                $note('names of files that appear in several folders', implode(', ', array_slice($paths, 0, 2)));
            }
        }
        foreach (array_keys($folders) as $folder) {
            $below = implode('/', array_slice(explode('/', (string) $folder), count($root)));
            if (! isset($within[$below])) {
                $note('empty folders', (string) $folder);
            }
        }

        return [$faults, $examples];
    }

    /** @return iterable<list<string>> the table, with the names of its columns first: the file, then the parts of each level */
    public function rows(): iterable
    {
        $head = ['File'];
        foreach ($this->names as $level => $name) {
            foreach ($name->columns() as $column) {
                $head[] = 'Level '.($level + 1)." {$column}";
            }
        }
        yield $head;
        foreach ($this->files as [$parts, $name]) {
            yield self::row($this->names, $parts, $name);
        }
    }

    /**
     * One file as a row.
     *
     * @param  list<FolderName>  $names  of the levels
     * @param  list<string>  $folders  that the file lies in
     * @return list<string>
     */
    public static function row(array $names, array $folders, string $file): array
    {
        $row = [$file];
        foreach ($names as $level => $name) {
            array_push($row, ...$name->parts($folders[$level] ?? ''));
        }

        return $row;
    }
}
