<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\BagIt;

/**
 * Whether a bag is whole and is what it says (RFC 8493, 3: complete and valid). Versions 0.97 and 1.0 are known; bags of which files
 * have to be fetched elsewhere are not taken.
 */
final class BagCheck
{
    private const DECLARED = '/^BagIt-Version: (0\.97|1\.0)\R+Tag-File-Character-Encoding: UTF-8\R*$/Di';

    /** The strongest first. */
    private const ALGORITHMS = ['sha512', 'sha256', 'sha1', 'md5'];

    private const NAMED = 20;

    /** @var list<string> */
    private array $faults = [];

    private function __construct(private readonly BagFiles $files)
    {
    }

    /** @return list<string> what is wrong, a sentence each; none where it is whole. Of many of a kind the first are named */
    public static function of(BagFiles $files): array
    {
        $self = new self($files);
        $self->check();

        return $self->faults;
    }

    /** @return list<string> the files that it is about */
    public static function payload(BagFiles $files): array
    {
        return array_values(array_filter($files->paths(), static fn (string $path): bool => str_starts_with($path, 'data/')));
    }

    private function check(): void
    {
        $paths = array_flip($this->files->paths());
        if (! isset($paths['bagit.txt'])) {
            $this->faults[] = 'It is no bag: bagit.txt is missing.';

            return;
        }
        if (preg_match(self::DECLARED, ltrim($this->files->text('bagit.txt'), "\u{FEFF}"), $declared) !== 1) {
            $this->faults[] = 'bagit.txt does not declare version 0.97 or 1.0 in UTF-8.';

            return;
        }
        if (isset($paths['fetch.txt'])) {
            $this->faults[] = 'Some of its files are to be fetched elsewhere (fetch.txt), which is not done.';
        }
        $manifests = array_values(array_filter(self::ALGORITHMS, static fn (string $of): bool => isset($paths["manifest-{$of}.txt"])));
        if ($manifests === []) {
            $this->faults[] = 'It has no manifest with SHA-512, SHA-256, SHA-1 or MD5.';

            return;
        }
        $payload = self::payload($this->files);
        $listed = [];
        foreach ($manifests as $algorithm) {
            $sums = $this->manifest("manifest-{$algorithm}.txt");
            $listed += $sums;
            $this->compare("manifest-{$algorithm}.txt", $algorithm, $sums, $paths, 'data/');
            $unlisted = array_diff($payload, array_keys($sums));
            $declared[1] === '1.0' &&
                $this->name($unlisted, static fn (string $path): string => "{$path} is not in manifest-{$algorithm}.txt.");
        }
        $declared[1] === '1.0' ||
            $this->name(array_diff($payload, array_keys($listed)), static fn (string $path): string => "{$path} is in no manifest.");
        foreach (self::ALGORITHMS as $algorithm) {
            if (isset($paths["tagmanifest-{$algorithm}.txt"])) {
                $name = "tagmanifest-{$algorithm}.txt";
                $this->compare($name, $algorithm, $this->manifest($name), $paths, '');
            }
        }
        isset($paths['bag-info.txt']) && $this->oxum($payload);
    }

    /** @return array<string, string> sums by path */
    private function manifest(string $name): array
    {
        $sums = [];
        foreach (preg_split('/\R/', $this->files->text($name)) ?: [] as $number => $line) {
            if (trim($line) === '') {
                continue;
            }
            if (preg_match('/^([0-9a-f]+)\s+\*?(.+)$/Di', $line, $m) !== 1) {
                $this->faults[] = "{$name}, line ".($number + 1).', cannot be read.';

                continue;
            }
            $path = str_replace(['%0A', '%0a', '%0D', '%0d', '%25'], ["\n", "\n", "\r", "\r", '%'], $m[2]);
            $path = str_starts_with($path, './') ? substr($path, 2) : $path;
            if (isset($sums[$path]) && $sums[$path] !== strtolower($m[1])) {
                $this->faults[] = "{$name} has two sums for {$path}.";
            }
            $sums[$path] = strtolower($m[1]);
        }

        return $sums;
    }

    /**
     * @param  array<string, string>  $sums
     * @param  array<string, int>  $paths
     * @param  string  $below  what paths have to begin with
     */
    private function compare(string $name, string $algorithm, array $sums, array $paths, string $below): void
    {
        $missing = $other = [];
        foreach ($sums as $path => $sum) {
            $path = (string) $path;
            if (
                ! str_starts_with($path, $below) ||
                str_starts_with($path, '/') ||
                in_array('..', explode('/', $path), true) ||
                str_starts_with($path, '~')
            ) {
                $this->faults[] = "{$name} names {$path}, which does not lie in the bag.";
            } elseif (! isset($paths[$path])) {
                $missing[] = $path;
            } elseif ($this->files->sum($path, $algorithm) !== $sum) {
                $other[] = $path;
            }
        }
        $this->name($missing, static fn (string $path): string => "{$path} is missing ({$name}).");
        $this->name($other, static fn (string $path): string => "{$path} is not what was put into the bag ({$name}).");
    }

    /** @param  list<string>  $payload */
    private function oxum(array $payload): void
    {
        if (preg_match('/^Payload-Oxum:\s*(\d+)\.(\d+)\s*$/mi', $this->files->text('bag-info.txt'), $said) !== 1) {
            return;
        }
        $bytes = array_sum(array_map($this->files->bytes(...), $payload));
        if ((int) $said[1] !== $bytes || (int) $said[2] !== count($payload)) {
            $this->faults[] = "bag-info.txt says {$said[2]} files of {$said[1]} bytes, and there are ".count($payload)." of {$bytes}.";
        }
    }

    /**
     * @param  array<string>  $paths
     * @param  callable(string): string  $says
     */
    private function name(array $paths, callable $says): void
    {
        foreach (array_slice(array_values($paths), 0, self::NAMED) as $path) {
            $this->faults[] = $says($path);
        }
        $more = count($paths) - self::NAMED;
        $more > 0 && ($this->faults[] = "The same holds for {$more} more.");
    }
}
