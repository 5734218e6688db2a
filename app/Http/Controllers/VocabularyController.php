<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Design\Draft;
use App\Design\PartShape;
use App\Exchange\RdfFiles;
use App\Index\SqliteStore;
use App\Support\Refused;
use Brenvic\Core\Classification\LikelyDoubles;
use Brenvic\Core\Classification\Skos;
use Brenvic\Core\Classification\SkosImport;
use Brenvic\Core\Classification\TermsTable;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Symfony\Component\HttpFoundation\HeaderUtils;

/** What is done with vocabularies and classification schemes beside editing them: counting, comparing, exchanging. */
final readonly class VocabularyController
{
    public function __construct(private Draft $draft)
    {
    }

    /** How many documents each term has, itself and with what is below it, in all fields that use the vocabulary. */
    public function counts(Request $request, SqliteStore $store, Rights $rights, string $code): JsonResponse
    {
        $this->content($code);
        $fields = array_filter($this->draft->published()->fields(), static fn ($field): bool => $field->vocabulary?->code === $code);
        $sight = $rights->sight($request->user());
        $counts = $store->snapshot(function () use ($store, $fields, $sight): array {
            $reader = new IndexReader($store);
            $reader->refresh();
            $own = $all = [];
            foreach ($fields as $field) {
                foreach ($reader->valueTerms($field->code) as $number => $term) {
                    $all[$term][] = $reader->value($field->code, $number);
                }
                foreach ($field->isTree() ? $reader->valueTerms(Keys::own($field->code)) : [] as $number => $term) {
                    $own[$term][] = $reader->value(Keys::own($field->code), $number);
                }
            }
            $count = static fn (array $sets): int => DocumentSet::union($sets)->countCommon($sight);
            $shown = [];
            foreach ($all as $term => $sets) {
                $shown[(string) $term] = ['all' => $count($sets), 'own' => $own === [] ? $count($sets) : $count($own[$term] ?? [])];
            }

            return $shown;
        });

        return new JsonResponse(['counts' => (object) $counts, 'fields' => array_values(array_map(static fn ($f): array => ['code' => $f->code, 'label' => $f->label], $fields))]);
    }

    /** Terms that are probably the same. */
    public function doubles(string $code): JsonResponse
    {
        $terms = [];
        foreach (Design::entries($this->content($code), 'terms') as $term) {
            if (($term['retired'] ?? false) !== true) {
                $terms[] = ['code' => (string) $term['code'], 'names' => [(string) $term['label'], ...$term['synonyms'] ?? []]];
            }
        }

        return new JsonResponse(['doubles' => LikelyDoubles::of($terms)]);
    }

    public function export(Request $request, string $code): Response
    {
        $format = (string) ($request->validate(['format' => 'required|in:csv,'.implode(',', array_keys(RdfFiles::FORMATS))])['format']);
        $content = $this->content($code);
        [$ending, $type] = RdfFiles::FORMATS[$format] ?? ['csv', 'text/csv; charset=utf-8'];
        $text = $format === 'csv' ? TermsTable::write(Design::entries($content, 'terms')) : RdfFiles::write(Skos::triples($code, $content), $format);

        return new Response($text, 200, ['Content-Type' => $type, 'Content-Disposition' => HeaderUtils::makeDisposition('attachment', "{$code}.{$ending}"), 'X-Content-Type-Options' => 'nosniff']);
    }

    /** What a file would make of a vocabulary; nothing is changed by it. `code` need not exist yet. */
    public function preview(Request $request, string $code): JsonResponse
    {
        $name = (string) $request->query('name', '');
        $present = $this->draft->design()->part(DesignKind::Vocabulary, $code);
        $contents = $request->getContent();
        $import = str_ends_with(mb_strtolower($name), '.csv')
            ? TermsTable::read($contents, $present ?? ['name' => $code, 'terms' => []])
            : Skos::read(RdfFiles::read($contents, RdfFiles::formatOf(mb_strtolower($name), $contents)), $code, $present);

        return new JsonResponse($this->shape($code, $import));
    }

    /** @return array<string, mixed> */
    private function shape(string $code, SkosImport $import): array
    {
        $fault = PartShape::faultOfPart(DesignKind::Vocabulary, $import->vocabulary);
        if ($fault !== null) {
            throw new Refused("{$fault[0]}: {$fault[1]}");
        }
        $lost = array_column(Design::entries($this->draft->design()->part(DesignKind::Vocabulary, $code), 'terms'), 'label', 'code');
        $labels = array_column(Design::entries($import->vocabulary, 'terms'), 'label', 'code') + $lost;
        $named = static fn (array $codes): array => array_map(static fn (string $c): array => ['code' => $c, 'label' => $labels[$c] ?? $c], $codes);

        return [
            'vocabulary' => ['code' => $code, ...\App\Design\DesignFile::objects(PartShape::complete(DesignKind::Vocabulary, $import->vocabulary))],
            'added' => $named($import->added), 'changed' => $named($import->changed), 'lost' => $named($import->lost), 'faults' => $import->faults,
        ];
    }

    /** @return array<string, mixed> */
    private function content(string $code): array
    {
        return $this->draft->design()->part(DesignKind::Vocabulary, $code) ?? abort(404);
    }
}
