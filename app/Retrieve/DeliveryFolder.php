<?php

declare(strict_types=1);

namespace App\Retrieve;

use Brenvic\Core\Exchange\Bag;
use Illuminate\Support\Facades\File;
use RuntimeException;
use ZipArchive;

/**
 * The folder in which a delivery is gathered: the files, and beside them what a bag says of them. Every path and checksum
 * is written down when its file is, so that nothing grows in memory with the number of files.
 */
final class DeliveryFolder
{
    public readonly string $bag;

    public int $files = 0;

    public int $bytes = 0;

    /** @var array<string, resource> by name, those being written */
    private array $open = [];

    /** @param  bool  $sums  whether checksums are written down */
    public function __construct(private readonly string $folder, private readonly bool $sums)
    {
        File::deleteDirectory($folder);
        $this->bag = "{$folder}/bag";
        File::ensureDirectoryExists("{$this->bag}/data", 0700);
    }

    /** Puts a file among the delivered ones. */
    public function payload(string $source, string $name, string $sha256): void
    {
        $target = "{$this->bag}/data/{$name}";
        File::ensureDirectoryExists(dirname($target), 0700);
        // A second name for the same bytes, where the file system has such; else a copy.
        @link($source, $target) || copy($source, $target) || throw new RuntimeException("“{$name}” could not be written.");
        $this->files++;
        $this->bytes += (int) filesize($target);
        $this->noted(
            "data/{$name}",
            'manifest',
            static fn (string $algorithm): string => $algorithm === 'sha256' ? $sha256 : (string) hash_file($algorithm, $target),
        );
    }

    /** Puts a file beside them. */
    public function tag(string $path, string $text): void
    {
        File::ensureDirectoryExists(dirname("{$this->bag}/{$path}"), 0700);
        file_put_contents("{$this->bag}/{$path}", $text) === strlen($text) ||
            throw new RuntimeException("“{$path}” could not be written; is the disk full?");
        $this->noted($path, 'tagmanifest', static fn (string $algorithm): string => hash($algorithm, $text));
    }

    /** Adds to a file beside them that is written piece by piece. */
    public function append(string $path, string $text): void
    {
        if (! isset($this->open["{$this->bag}/{$path}"])) {
            File::ensureDirectoryExists(dirname("{$this->bag}/{$path}"), 0700);
        }
        fwrite($this->stream("{$this->bag}/{$path}"), $text) === strlen($text) ||
            throw new RuntimeException("“{$path}” could not be written; is the disk full?");
    }

    /** Ends a file that was written piece by piece, and gives its path. */
    public function ended(string $path): string
    {
        $this->append($path, '');
        $this->shut("{$this->bag}/{$path}");
        $this->noted($path, 'tagmanifest', fn (string $algorithm): string => (string) hash_file($algorithm, "{$this->bag}/{$path}"));

        return "{$this->bag}/{$path}";
    }

    /** Ends the manifests: what is put in afterwards does not belong to the bag. */
    public function seal(): void
    {
        foreach (Bag::ALGORITHMS as $algorithm) {
            $this->ended("manifest-{$algorithm}.txt");
        }
        foreach (Bag::ALGORITHMS as $algorithm) {
            $this->append("tagmanifest-{$algorithm}.txt", '');
            $this->shut("{$this->bag}/tagmanifest-{$algorithm}.txt");
            fwrite($this->stream($this->paths()), "tagmanifest-{$algorithm}.txt\0");
        }
    }

    /**
     * Packs all of it, or only the delivered files; what is compressed already is only stored.
     *
     * @param  string  $within  the folder in the archive; empty for none, and then only the delivered files are packed
     */
    public function zipped(string $within, string $target): string
    {
        $zip = new ZipArchive();
        $zip->open($target, ZipArchive::CREATE | ZipArchive::OVERWRITE) === true ||
            throw new RuntimeException('The archive cannot be written.');
        // A bag has its payload folder, be it empty.
        $within !== '' && $zip->addEmptyDir("{$within}/data");
        // Nothing could leave as a file: the table says why.
        $this->files === 0 && $within === '' && $zip->addFile("{$this->bag}/".DeliveryTable::PATH, basename(DeliveryTable::PATH));
        $this->shut($this->paths());
        $paths = fopen($this->paths(), 'rb') ?: throw new RuntimeException('The delivery is gone.');
        while (($path = stream_get_line($paths, 0, "\0")) !== false) {
            if ($within === '' && ! str_starts_with($path, 'data/')) {
                continue;
            }
            $name = $within === '' ? substr($path, strlen('data/')) : "{$within}/{$path}";
            $zip->addFile("{$this->bag}/{$path}", $name);
            if (preg_match('/\.(pdf|jpe?g|png|docx|zip)$/i', $name) === 1) {
                $zip->setCompressionName($name, ZipArchive::CM_STORE);
            }
        }
        fclose($paths);
        $zip->close() || throw new RuntimeException('The archive cannot be written; is the disk full?');

        return $target;
    }

    public function delete(): void
    {
        array_map($this->shut(...), array_keys($this->open));
        File::deleteDirectory($this->folder);
    }

    /** @param  callable(string): string  $sum  by algorithm */
    private function noted(string $path, string $manifest, callable $sum): void
    {
        // No path has a zero byte, and some have line ends.
        fwrite($this->stream($this->paths()), "{$path}\0");
        foreach ($this->sums ? Bag::ALGORITHMS : [] as $algorithm) {
            fwrite($this->stream("{$this->bag}/{$manifest}-{$algorithm}.txt"), Bag::manifestLine($sum($algorithm), $path));
        }
    }

    private function paths(): string
    {
        return "{$this->folder}/paths";
    }

    /** @return resource */
    private function stream(string $file)
    {
        return $this->open[$file] ??= fopen($file, 'ab') ?: throw new RuntimeException("“{$file}” cannot be written.");
    }

    private function shut(string $file): void
    {
        if (isset($this->open[$file])) {
            fclose($this->open[$file]);
            unset($this->open[$file]);
        }
    }
}
