<?php

declare(strict_types=1);

namespace App\Import;

use App\Support\Refused;
use Brenvic\Core\Exchange\BagIt\BagFiles;
use FilesystemIterator;
use Illuminate\Support\Facades\File;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;
use ZipArchive;

/** A bag as a folder, or as a ZIP that is unpacked beside the temporary files. Links are not followed: what they lead to is not in it. */
final readonly class BagFolder implements BagFiles
{
    /** Files of a ZIP. */
    private const MOST = 200_000;

    /** @param  string  $unpacked  a folder that is taken away at the end; empty for none */
    private function __construct(private string $root, private string $unpacked)
    {
    }

    /** @throws Refused when there is none, or it cannot be unpacked */
    public static function open(string $path): self
    {
        $real = realpath($path);
        if ($real === false) {
            throw new Refused("There is no file or folder “{$path}”.");
        }
        if (is_dir($real)) {
            return new self($real, '');
        }
        $folder = sys_get_temp_dir().'/brenvic-bag-'.bin2hex(random_bytes(8));
        mkdir($folder, 0700);
        try {
            self::unpack($real, $folder);
        } catch (Refused $fault) {
            File::deleteDirectory($folder);
            throw $fault;
        }
        // A ZIP mostly has the bag in a folder of its own.
        $within = array_values(array_diff(scandir($folder) ?: [], ['.', '..']));
        $isWithin = ! is_file("{$folder}/bagit.txt") && count($within) === 1 && is_dir("{$folder}/{$within[0]}");

        return new self($isWithin ? "{$folder}/{$within[0]}" : $folder, $folder);
    }

    public function close(): void
    {
        $this->unpacked === '' || File::deleteDirectory($this->unpacked);
    }

    public function paths(): array
    {
        $paths = [];
        $found = new RecursiveIteratorIterator(new RecursiveDirectoryIterator($this->root, FilesystemIterator::SKIP_DOTS));
        /** @var SplFileInfo $file */
        foreach ($found as $file) {
            if ($file->isFile() && ! $file->isLink()) {
                $paths[] = substr($file->getPathname(), strlen($this->root) + 1);
            }
        }
        sort($paths, SORT_STRING);

        return $paths;
    }

    public function text(string $path): string
    {
        return (string) file_get_contents($this->at($path));
    }

    public function bytes(string $path): int
    {
        return (int) filesize($this->at($path));
    }

    public function sum(string $path, string $algorithm): string
    {
        return (string) hash_file($algorithm, $this->at($path));
    }

    public function at(string $path): string
    {
        return "{$this->root}/{$path}";
    }

    /** @throws Refused */
    private static function unpack(string $file, string $folder): void
    {
        $zip = new ZipArchive;
        if ($zip->open($file, ZipArchive::RDONLY) !== true) {
            throw new Refused('The file is no ZIP that can be opened.');
        }
        if ($zip->numFiles > self::MOST) {
            throw new Refused('The ZIP has more than '.self::MOST.' files.');
        }
        $bytes = 0;
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $of = $zip->statIndex($i);
            $name = str_replace('\\', '/', (string) ($of['name'] ?? ''));
            if ($of === false || str_starts_with($name, '/') || in_array('..', explode('/', $name), true) || str_contains($name, ':')) {
                throw new Refused("The ZIP has “{$name}”, which leads out of it.");
            }
            $bytes += (int) $of['size'];
            if ($bytes > (float) disk_free_space($folder) * 0.8) {
                throw new Refused('There is not enough room to unpack the ZIP.');
            }
        }
        if (! $zip->extractTo($folder)) {
            throw new Refused('The ZIP is damaged.');
        }
        $zip->close();
    }
}
