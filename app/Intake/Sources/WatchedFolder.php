<?php

declare(strict_types=1);

namespace App\Intake\Sources;

use App\Support\Refused;
use Brenvic\Core\Design\SourcePart;
use FilesystemIterator;
use RecursiveCallbackFilterIterator;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;
use UnexpectedValueException;

/**
 * A folder that fills itself. A file is taken when it is whole: when it has not grown from one look to the next. It is taken by
 * a rename into a folder of its own below `.taken`, so that of two workers only one has it; there it lies until its document
 * is safe, and is then moved to `done` or `refused`, or removed. A worker holds a lock on what it has, which ends with it: what
 * lies in `.taken` without one was left by a worker that was killed, and is gone on with. The row in `arrivals` says whether its
 * document is there already.
 */
final class WatchedFolder implements SourceOf
{
    private const TAKEN = '.taken';

    /** Within the folder of one thing: where it was; whoever has it has this file locked. */
    private const PATH = '.path';

    /** Seconds in which a file that is being written would have grown. */
    private const SETTLED = 2;

    /** Files taken in one look, so that other sources have their turn. */
    private const AT_ONCE = 50;

    /** Endings that programs give to what they have not finished writing. */
    private const UNFINISHED = ['part', 'tmp', 'crdownload', 'download', 'filepart', 'swp'];

    /** @var array<string, array{int, int}> path => size and time of the last change, as they were at the last look */
    private array $seen = [];

    /** @var array<string, string> path without its ending => path, of what is no file of values */
    private array $mains = [];

    private string $root;

    public function __construct(private readonly SourcePart $source)
    {
        $this->root = rtrim((string) config('brenvic.sources'), '/')."/{$source->folder}";
    }

    public function make(): void
    {
        is_dir($this->root) || @mkdir($this->root, 0775, true);
    }

    public function look(ArrivingFile $arriving): int
    {
        if (! is_dir($this->root) || ! is_writable($this->root)) {
            throw new Refused("The folder “{$this->source->folder}” ".(is_dir($this->root) ? 'cannot be written to.' : 'is not there.'));
        }
        $count = $this->goOn($arriving);
        foreach (array_slice($this->settled(), 0, self::AT_ONCE) as $path) {
            $taken = $this->take($path);
            if ($taken !== null) {
                $count += $this->process($arriving, ...$taken) ? 1 : 0;
            }
        }

        return $count;
    }

    /** Goes on with what a worker that was killed had taken. */
    private function goOn(ArrivingFile $arriving): int
    {
        $count = 0;
        foreach (self::inside("{$this->root}/".self::TAKEN) as $folder) {
            $lock = @fopen("{$folder}/".self::PATH, 'r+b');
            if ($lock === false) {
                // Emptied, or not begun: nothing is in it.
                @rmdir($folder);
            } elseif (flock($lock, LOCK_EX | LOCK_NB)) {
                $count += $this->process($arriving, basename($folder), $lock) ? 1 : 0;
            }
        }

        return $count;
    }

    /** @return list<string> paths of files that have not changed since the last look, the oldest first; without side files */
    private function settled(): array
    {
        $now = [];
        try {
            foreach ($this->files() as $path => $file) {
                clearstatcache(true, $file->getPathname());
                $now[$path] = [(int) $file->getSize(), (int) $file->getMTime()];
            }
        } catch (UnexpectedValueException $fault) {
            throw new Refused("The folder “{$this->source->folder}” cannot be read.", previous: $fault);
        }
        $this->mains = [];
        foreach (array_keys($now) as $path) {
            if (! self::isSide((string) $path)) {
                $this->mains[self::stem((string) $path)] ??= (string) $path;
            }
        }
        $settled = [];
        foreach ($now as $path => $state) {
            $isSettled = ($this->seen[$path] ?? null) === $state && $state[1] <= time() - self::SETTLED;
            if ($isSettled && $this->mainOf((string) $path, $now) === null) {
                $settled[$path] = $state[1];
            }
        }
        $this->seen = $now;
        foreach (array_keys($settled) as $path) {
            // A side file that is still being written would say half of it.
            foreach ($this->sidesOf((string) $path, $now) as $side) {
                if ($now[$side][1] > time() - self::SETTLED) {
                    unset($settled[$path]);
                }
            }
        }
        asort($settled);

        return array_map(strval(...), array_keys($settled));
    }

    /** @return iterable<string, SplFileInfo> by path within the folder */
    private function files(): iterable
    {
        $inside = new RecursiveDirectoryIterator($this->root, FilesystemIterator::SKIP_DOTS);
        $own = ["{$this->root}/done", "{$this->root}/refused"];
        $files = new RecursiveIteratorIterator(
            new RecursiveCallbackFilterIterator($inside, static function (SplFileInfo $file) use ($own): bool {
                $name = $file->getFilename();
                $isUnfinished = in_array(strtolower($file->getExtension()), self::UNFINISHED, true) || str_ends_with($name, '~');

                // A link could lead anywhere.
                return ! $file->isLink() && $name[0] !== '.' && ! $isUnfinished && ! in_array($file->getPathname(), $own, true);
            }),
            RecursiveIteratorIterator::LEAVES_ONLY,
            RecursiveIteratorIterator::CATCH_GET_CHILD,
        );
        /** @var SplFileInfo $file */
        foreach ($files as $file) {
            if ($file->isFile() && $file->isReadable()) {
                yield substr($file->getPathname(), strlen($this->root) + 1) => $file;
            }
        }
    }

    private static function isSide(string $path): bool
    {
        return in_array(strtolower(pathinfo($path, PATHINFO_EXTENSION)), SideValues::ENDINGS, true);
    }

    /** The path without its ending. */
    private static function stem(string $path): string
    {
        return (string) preg_replace('/\.[^.\/]+$/', '', $path);
    }

    /**
     * The document that a file of values lies beside: `letter.pdf` of `letter.json`, or of `letter.pdf.json`.
     *
     * @param  array<string, array{int, int}>  $all
     */
    private function mainOf(string $path, array $all): ?string
    {
        if (! self::isSide($path)) {
            return null;
        }
        $stem = self::stem($path);

        return isset($all[$stem]) ? $stem : $this->mains[$stem] ?? null;
    }

    /**
     * @param  array<string, array{int, int}>  $all
     * @return list<string>
     */
    private function sidesOf(string $path, array $all): array
    {
        $stem = self::stem($path);
        $sides = [];
        foreach (SideValues::ENDINGS as $ending) {
            foreach (["{$path}.{$ending}", "{$stem}.{$ending}"] as $side) {
                if ($side !== $path && isset($all[$side]) && $this->mainOf($side, $all) === $path) {
                    $sides[] = $side;
                }
            }
        }

        return $sides;
    }

    /**
     * Takes a file with what lies beside it.
     *
     * @return array{string, resource}|null token and lock; null when another worker was quicker
     */
    private function take(string $path): ?array
    {
        $token = date('Ymd-His-').bin2hex(random_bytes(6));
        $folder = $this->taken($token);
        if (! @mkdir($folder, 0775, true) || ($lock = fopen("{$folder}/".self::PATH, 'x+b')) === false || ! flock($lock, LOCK_EX)) {
            throw new Refused("Nothing can be written in the folder “{$this->source->folder}”.");
        }
        fwrite($lock, $path);
        fflush($lock);
        // The document first: whoever has it has what lies beside it too.
        if (! @rename("{$this->root}/{$path}", "{$folder}/".basename($path))) {
            @unlink("{$folder}/".self::PATH);
            @rmdir($folder);

            return null;
        }
        foreach ($this->sidesOf($path, $this->seen) as $side) {
            @rename("{$this->root}/{$side}", "{$folder}/".basename($side));
        }

        return [$token, $lock];
    }

    private function taken(string $token): string
    {
        return "{$this->root}/".self::TAKEN."/{$token}";
    }

    /**
     * Brings in what was taken, and puts the original where it belongs.
     *
     * @param  resource  $lock  held until then
     */
    private function process(ArrivingFile $arriving, string $token, $lock): bool
    {
        $folder = $this->taken($token);
        rewind($lock);
        $path = (string) stream_get_contents($lock);
        $main = "{$folder}/".basename($path);
        try {
            if ($path === '' || ! is_file($main)) {
                // Killed before it was taken, or after it was moved away.
                $this->clear($folder, $path, 'done');

                return false;
            }
            $isNew = $arriving->bring($this->source, $token, $main, $path, $this->sideFiles($folder, $main)) !== null;
            $this->clear($folder, $path, $this->source->isRemoved ? null : 'done');

            return $isNew;
        } catch (Refused $fault) {
            $this->refuse($folder, $path, $fault->getMessage());

            return false;
        } finally {
            // What failed for another reason stays, and is gone on with when the source is looked at again.
            fclose($lock);
        }
    }

    /** @return list<string> */
    private function sideFiles(string $folder, string $main): array
    {
        return array_values(array_filter(self::inside($folder), static fn (string $file): bool => $file !== $main));
    }

    /** @return list<string> what lies in a folder, without what is hidden; names may have signs in them that mean something to glob */
    private static function inside(string $folder): array
    {
        $names = array_filter(@scandir($folder) ?: [], static fn (string $name): bool => $name[0] !== '.');

        return array_map(static fn (string $name): string => "{$folder}/{$name}", array_values($names));
    }

    private function refuse(string $folder, string $path, string $why): void
    {
        $to = $this->clear($folder, $path, 'refused');
        file_put_contents("{$to}.txt", "{$path}\n\n{$why}\n");
    }

    /**
     * Moves what was taken to where it stays, or removes it.
     *
     * @return string the path that the document has then
     */
    private function clear(string $folder, string $path, ?string $into): string
    {
        $place = $path === '' ? '' : self::free("{$this->root}/{$into}/{$path}");
        foreach (self::inside($folder) as $file) {
            if ($into === null || $place === '') {
                unlink($file);

                continue;
            }
            is_dir(dirname($place)) || mkdir(dirname($place), 0775, true);
            rename($file, basename($file) === basename($path) ? $place : self::free(dirname($place).'/'.basename($file)));
        }
        @unlink("{$folder}/".self::PATH);
        @rmdir($folder);

        return $place;
    }

    /** The path itself, or with a number where something of that name lies already. */
    private static function free(string $path): string
    {
        $ending = pathinfo($path, PATHINFO_EXTENSION);
        $stem = $ending === '' ? $path : substr($path, 0, -strlen($ending) - 1);
        for ($free = $path, $number = 2; file_exists($free); $number++) {
            $free = "{$stem} ({$number})".($ending === '' ? '' : ".{$ending}");
        }

        return $free;
    }
}
