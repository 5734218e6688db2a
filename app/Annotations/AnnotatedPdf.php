<?php

declare(strict_types=1);

namespace App\Annotations;

use App\Support\ExternalProgram;
use Brenvic\Core\Capture\UnreadableFile;
use Brenvic\Core\Pages\Overlay;
use Brenvic\Core\Pages\PdfAnnotation;
use Brenvic\Core\Pages\PdfSpace;

/** Puts annotations into a PDF as it has them, and takes those of a PDF out; the pages stay as they are. */
final class AnnotatedPdf
{
    /**
     * @param  array<int, list<Overlay>>  $overlays  by page
     * @param  string  $folder  an empty one of its own
     * @return string the path of the annotated PDF, in the folder
     */
    public static function write(string $source, array $overlays, string $folder): string
    {
        [$pages, $highest] = self::pages($source, $folder);
        $objects = [];
        foreach ($overlays as $number => $list) {
            $page = $pages[$number] ?? null;
            if ($page === null) {
                continue;
            }
            $annots = $page['value']['/Annots'] ?? [];
            // A list that stands apart is read whole, so that what the page has already stays.
            $annots = is_string($annots) ? self::object($source, $annots, $folder) : $annots;
            foreach ($list as $overlay) {
                $made = PdfAnnotation::of($overlay, $page['space']);
                if ($made === null) {
                    continue;
                }
                if ($made['appearance'] !== null) {
                    [$content, $dictionary] = $made['appearance'];
                    $form = ++$highest.' 0 R';
                    $objects["obj:{$form}"] = ['stream' => ['dict' => $dictionary, 'data' => base64_encode($content)]];
                    $made['dictionary']['/AP'] = ['/N' => $form];
                }
                $annotation = ++$highest.' 0 R';
                $objects["obj:{$annotation}"] = ['value' => [...$made['dictionary'], '/P' => $page['object']]];
                $annots[] = $annotation;
            }
            $objects["obj:{$page['object']}"] = ['value' => [...$page['value'], '/Annots' => $annots]];
        }
        file_put_contents(
            "{$folder}/update.json",
            json_encode(
                [
                    'qpdf' => [
                        [
                            'jsonversion' => 2,
                            'pushedinheritedpageresources' => false,
                            'calledgetallpages' => false,
                            'maxobjectid' => $highest,
                        ],
                        (object) $objects,
                    ],
                ],
                JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION | JSON_THROW_ON_ERROR,
            ),
        );
        self::run(['qpdf', '--warning-exit-0', $source, "--update-from-json={$folder}/update.json", "{$folder}/annotated.pdf"], $folder);

        return "{$folder}/annotated.pdf";
    }

    /** @return array<int, list<Overlay>> by page */
    public static function read(string $source, string $folder): array
    {
        $overlays = [];
        foreach (self::pages($source, $folder)[0] as $number => $page) {
            $annots = $page['value']['/Annots'] ?? [];
            foreach (is_string($annots) ? self::object($source, $annots, $folder) : $annots as $annotation) {
                $dictionary = is_string($annotation) ? self::object($source, $annotation, $folder) : $annotation;
                $overlay = is_array($dictionary) ? PdfAnnotation::read($dictionary, $page['space']) : null;
                if ($overlay !== null) {
                    $overlays[$number][] = $overlay;
                }
            }
        }

        return $overlays;
    }

    /**
     * @return array{array<int, array{object: string, value: array<string, mixed>, space: PdfSpace}>, int} pages by number,
     *         and the highest object number
     */
    private static function pages(string $source, string $folder): array
    {
        $list = self::json(['--json-key=pages'], $source, $folder)['pages'] ?? [];
        $ids = array_map(static fn (array $p): string => (string) $p['object'], $list);
        $highest = 0;
        $nodes = [];
        // What a page has from above stands with the nodes of the page tree: they are read until none is missing.
        for ($wanted = $ids; $wanted !== []; $wanted = self::missing($nodes)) {
            foreach (array_chunk($wanted, 400) as $chunk) {
                $named = array_map(static fn (string $id): string => '--json-object='.str_replace(' ', ',', substr($id, 0, -2)), $chunk);
                $all = self::json(['--json-key=qpdf', ...$named], $source, $folder);
                $highest = max($highest, (int) $all['qpdf'][0]['maxobjectid']);
                foreach ($chunk as $id) {
                    $nodes[$id] = $all['qpdf'][1]["obj:{$id}"]['value'] ?? null;
                }
            }
        }
        $pages = [];
        foreach ($ids as $i => $id) {
            $pages[$i + 1] = ['object' => $id, 'value' => (array) $nodes[$id], 'space' => self::space($id, $nodes)];
        }

        return [$pages, $highest];
    }

    /**
     * Nodes above those that are known, and boxes that stand apart, which are not known yet.
     *
     * @param  array<string, mixed>  $nodes
     * @return list<string>
     */
    private static function missing(array $nodes): array
    {
        $missing = [];
        foreach ($nodes as $node) {
            foreach (
                is_array($node) ? array_intersect_key($node, ['/Parent' => 0, '/MediaBox' => 0, '/CropBox' => 0, '/Rotate' => 0]) : [] as $reference
            ) {
                if (is_string($reference) && preg_match('/^\d+ \d+ R$/', $reference) === 1 && ! array_key_exists($reference, $nodes)) {
                    $missing[$reference] = true;
                }
            }
        }

        return array_map(strval(...), array_keys($missing));
    }

    /** @return array<array-key, mixed> */
    private static function object(string $source, string $id, string $folder): array
    {
        if (preg_match('/^(\d+) (\d+) R$/', $id, $m) !== 1) {
            return [];
        }

        return (array) (self::json(['--json-key=qpdf', "--json-object={$m[1]},{$m[2]}"], $source, $folder)['qpdf'][1]["obj:{$id}"][
            'value'
        ] ?? []);
    }

    /**
     * The space of a page by its boxes and its turn, its own or inherited (ISO 32000-1, 7.7.3.4). A crop box counts as far as
     * it lies within the media box.
     *
     * @param  array<string, mixed>  $nodes  pages, the nodes above them and what they refer to, by reference
     */
    private static function space(string $page, array $nodes): PdfSpace
    {
        $media = self::box(self::inherited($page, '/MediaBox', $nodes)) ?? [0.0, 0.0, 612.0, 792.0];
        $crop = self::box(self::inherited($page, '/CropBox', $nodes)) ?? $media;
        $within = [max($crop[0], $media[0]), max($crop[1], $media[1]), min($crop[2], $media[2]), min($crop[3], $media[3])];
        $rotate = self::inherited($page, '/Rotate', $nodes);

        return new PdfSpace($within[0] < $within[2] && $within[1] < $within[3] ? $within : $media, is_numeric($rotate) ? (int) $rotate : 0);
    }

    /** @param  array<string, mixed>  $nodes */
    private static function inherited(string $page, string $key, array $nodes): mixed
    {
        $passed = [];
        for ($at = $page; is_array($nodes[$at] ?? null) && ! isset($passed[$at]); $at = (string) ($nodes[$at]['/Parent'] ?? '')) {
            $passed[$at] = true;
            if (isset($nodes[$at][$key])) {
                $value = $nodes[$at][$key];

                return is_string($value) ? $nodes[$value] ?? null : $value;
            }
        }

        return null;
    }

    /** @return array{float, float, float, float}|null left, bottom, right, top */
    private static function box(mixed $value): ?array
    {
        if (! is_array($value) || count($value) !== 4 || array_filter($value, is_numeric(...)) !== $value) {
            return null;
        }
        [$a, $b, $c, $d] = array_map(floatval(...), array_values($value));

        return [min($a, $c), min($b, $d), max($a, $c), max($b, $d)];
    }

    /**
     * @param  list<string>  $options
     * @return array<string, mixed>
     */
    private static function json(array $options, string $source, string $folder): array
    {
        /** @var array<string, mixed> */
        return (array) json_decode(self::run(['qpdf', '--warning-exit-0', '--json=2', ...$options, $source], $folder), true);
    }

    /** @param  list<string>  $command */
    private static function run(array $command, string $folder): string
    {
        [$code, $output, $errors] = ExternalProgram::run($command, $folder);
        if ($code !== 0) {
            throw stripos($errors, 'password') !== false
                ? new UnreadableFile('encrypted', 'The PDF is protected by a password.')
                : new UnreadableFile('damaged', 'The PDF cannot be opened.');
        }

        return $output;
    }
}
