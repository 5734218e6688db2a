<?php

declare(strict_types=1);

namespace Bench;

use Random\Engine\Mt19937;
use Random\Randomizer;

/**
 * Real texts on this machine that say in one line what they are: manual pages (the line behind their name), and the
 * READMEs of packages (the description in their manifest, or Debian’s). Asked for by that line, each has one right answer.
 */
final class TextCollection
{
    private const MOST_BYTES = 400_000;

    private const LEAST_BYTES = 300;

    private const LEAST_WORDS = 3;

    private const PAGES = '/usr/share/man';

    private const DOCUMENTATION = '/usr/share/doc';

    /** @param  list<array{title: string, line: string, text: string}>  $texts */
    private function __construct(public readonly string $name, public readonly array $texts)
    {
    }

    /** @return list<self> those that this machine has enough of */
    public static function all(string $folder): array
    {
        return array_values(
            array_filter(
                [self::manualPages("{$folder}/manual-pages.json"), self::packages("{$folder}/packages.json")],
                static fn (self $collection): bool => count($collection->texts) >= 200,
            ),
        );
    }

    /** @return list<array{string, int}> some lines, each with the number of the text it belongs to, from 1 */
    public function questions(int $count, int $seed): array
    {
        $questions = [];
        foreach ($this->texts as $i => $text) {
            if (count(array_unique(self::words($text['line']))) >= self::LEAST_WORDS) {
                $questions[] = [implode(' ', array_unique(self::words($text['line']))), $i + 1];
            }
        }

        return array_slice((new Randomizer(new Mt19937($seed)))->shuffleArray($questions), 0, $count);
    }

    /** @return list<string> */
    public static function words(string $text): array
    {
        preg_match_all('/[a-z0-9]+/', strtolower($text), $m);

        return $m[0];
    }

    private static function manualPages(string $kept): self
    {
        return new self(
            'manual pages',
            self::kept($kept, static function (): array {
                $files = glob(self::PAGES.'/man[1-8]/*.gz') ?: [];
                $files = array_slice(
                    (new Randomizer(new Mt19937(7)))->shuffleArray(array_filter($files, static fn (string $file): bool => ! is_link($file))),
                    0,
                    6_000,
                );
                $texts = [];
                foreach (self::rendered($files) as $file => $text) {
                    if (
                        preg_match('/\bNAME\n\s+(.+?)\n\s*\n/s', $text, $m) === 1 &&
                        preg_match('/^.+? [-–—‐]+ (.+)$/', (string) preg_replace('/\s+/', ' ', trim($m[1])), $line) === 1
                    ) {
                        $texts[] = ['title' => basename($file, '.gz'), 'line' => $line[1], 'text' => $text];
                    }
                }

                return $texts;
            }),
        );
    }

    /**
     * @param  list<string>  $files
     * @return iterable<string, string> file => its text as a reader sees it
     */
    private static function rendered(array $files): iterable
    {
        $folder = sys_get_temp_dir().'/brenvic-pages-'.getmypid();
        mkdir($folder);
        file_put_contents("{$folder}/files", implode("\n", $files));
        // A page that includes another one, or takes long, is left out.
        $render =
            'zcat "$1" | head -c '.
            self::MOST_BYTES.
            ' | timeout 20 groff -k -t -man -Tutf8 -P-cbou -rLL=90n >"$2/$(basename "$1")" 2>/dev/null';
        exec(
            'xargs -d "\n" -P 4 -I{} sh -c '.
                escapeshellarg($render).
                ' render {} '.
                escapeshellarg($folder).
                ' <'.
                escapeshellarg("{$folder}/files"),
        );
        foreach ($files as $file) {
            $text = mb_scrub((string) @file_get_contents($folder.'/'.basename($file)));
            if (strlen($text) >= self::LEAST_BYTES) {
                yield $file => $text;
            }
        }
        exec('rm -rf '.escapeshellarg($folder));
    }

    private static function packages(string $kept): self
    {
        return new self(
            'package READMEs',
            self::kept($kept, static function (): array {
                $texts = [];
                foreach (['node_modules', 'vendor'] as $root) {
                    exec(
                        'find '.escapeshellarg(dirname(__DIR__, 2)."/{$root}").' -name package.json -o -name composer.json',
                        $manifests,
                    );
                    sort($manifests);
                    foreach ($manifests as $manifest) {
                        $about = json_decode((string) file_get_contents($manifest), true);
                        $readme = glob(dirname($manifest).'/[Rr][Ee][Aa][Dd][Mm][Ee]*')[0] ?? null;
                        if (
                            is_array($about) &&
                            is_string($about['name'] ?? null) &&
                            is_string($about['description'] ?? null) &&
                            $readme !== null
                        ) {
                            $texts[$about['name']] ??= [
                                'title' => $about['name'],
                                'line' => $about['description'],
                                'text' => self::read($readme),
                            ];
                        }
                    }
                }
                exec("dpkg-query -W -f '\${Package}\t\${binary:Summary}\n' 2>/dev/null", $packages);
                foreach ($packages as $package) {
                    [$name, $line] = [...explode("\t", $package, 2), ''];
                    $file =
                        (glob(self::DOCUMENTATION."/{$name}/README*") ?:
                        glob(self::DOCUMENTATION."/{$name}/{NEWS,FAQ}*", GLOB_BRACE) ?:
                        [])[0] ?? null;
                    if ($file !== null && is_file($file)) {
                        $texts[$name] ??= ['title' => $name, 'line' => $line, 'text' => self::read($file)];
                    }
                }

                return array_values(array_filter($texts, static fn (array $text): bool => strlen($text['text']) >= self::LEAST_BYTES));
            }),
        );
    }

    private static function read(string $file): string
    {
        $contents = (string) file_get_contents($file);

        return mb_scrub(substr(str_ends_with($file, '.gz') ? (string) gzdecode($contents) : $contents, 0, self::MOST_BYTES));
    }

    /**
     * @param  callable(): list<array{title: string, line: string, text: string}>  $make
     * @return list<array{title: string, line: string, text: string}>
     */
    private static function kept(string $file, callable $make): array
    {
        if (! is_file($file)) {
            file_put_contents($file, json_encode($make(), JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE));
        }

        return json_decode((string) file_get_contents($file), true, flags: JSON_THROW_ON_ERROR);
    }
}
