<?php

declare(strict_types=1);

namespace App\Annotations;

use App\Capture\ExternalProgram;
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
                $made = PdfAnnotation::of($overlay, self::space($page['value']));
                if ($made === null) {
                    continue;
                }
                if ($made['appearance'] !== null) {
                    [$content, $dictionary] = $made['appearance'];
                    $form = (++$highest).' 0 R';
                    $objects["obj:{$form}"] = ['stream' => ['dict' => $dictionary, 'data' => base64_encode($content)]];
                    $made['dictionary']['/AP'] = ['/N' => $form];
                }
                $annotation = (++$highest).' 0 R';
                $objects["obj:{$annotation}"] = ['value' => [...$made['dictionary'], '/P' => $page['object']]];
                $annots[] = $annotation;
            }
            $objects["obj:{$page['object']}"] = ['value' => [...$page['value'], '/Annots' => $annots]];
        }
        file_put_contents("{$folder}/update.json", json_encode(['qpdf' => [['jsonversion' => 2, 'pushedinheritedpageresources' => false, 'calledgetallpages' => false, 'maxobjectid' => $highest], (object) $objects]], JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION | JSON_THROW_ON_ERROR));
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
                $overlay = is_array($dictionary) ? PdfAnnotation::read($dictionary, self::space($page['value'])) : null;
                if ($overlay !== null) {
                    $overlays[$number][] = $overlay;
                }
            }
        }

        return $overlays;
    }

    /** @return array{array<int, array{object: string, value: array<string, mixed>}>, int} pages by number, and the highest object number */
    private static function pages(string $source, string $folder): array
    {
        $list = self::json(['--json-key=pages'], $source, $folder)['pages'] ?? [];
        $ids = array_map(static fn (array $p): string => (string) $p['object'], $list);
        // Boxes and turns that a page has from above are pushed down to it.
        $wanted = array_map(static fn (string $id): string => '--json-object='.str_replace(' ', ',', substr($id, 0, -2)), $ids);
        $pages = [];
        $highest = 0;
        foreach (array_chunk($wanted, 400) as $i => $chunk) {
            $all = self::json(['--json-key=qpdf', '--json-key=pages', ...$chunk], $source, $folder);
            $highest = (int) $all['qpdf'][0]['maxobjectid'];
            foreach (array_slice($ids, $i * 400, 400) as $j => $id) {
                $pages[$i * 400 + $j + 1] = ['object' => $id, 'value' => (array) ($all['qpdf'][1]["obj:{$id}"]['value'] ?? [])];
            }
        }

        return [$pages, $highest];
    }

    /** @return array<array-key, mixed> */
    private static function object(string $source, string $id, string $folder): array
    {
        if (preg_match('/^(\d+) (\d+) R$/', $id, $m) !== 1) {
            return [];
        }

        return (array) (self::json(['--json-key=qpdf', "--json-object={$m[1]},{$m[2]}"], $source, $folder)['qpdf'][1]["obj:{$id}"]['value'] ?? []);
    }

    /** @param  array<string, mixed>  $page */
    private static function space(array $page): PdfSpace
    {
        $box = static fn (string $key): ?array => is_array($page[$key] ?? null) && count($page[$key]) === 4 ? array_map(floatval(...), $page[$key]) : null;
        /** @var array{float, float, float, float} $crop */
        $crop = $box('/CropBox') ?? $box('/MediaBox') ?? [0.0, 0.0, 612.0, 792.0];

        return new PdfSpace($crop, is_numeric($page['/Rotate'] ?? null) ? (int) $page['/Rotate'] : 0);
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
            throw stripos($errors, 'password') !== false ? new UnreadableFile('encrypted', 'The PDF is protected by a password.') : new UnreadableFile('damaged', 'The PDF cannot be opened.');
        }

        return $output;
    }
}
