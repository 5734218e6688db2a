<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Design\Draft;
use App\Design\PartShape;
use App\Exchange\RdfFiles;
use App\Http\Requests\TermsAsked;
use App\Index\SqliteStore;
use App\Models\User;
use App\Support\Column;
use App\Support\Refused;
use Brenvic\Core\Classification\LikelyDoubles;
use Brenvic\Core\Classification\Skos;
use Brenvic\Core\Classification\SkosImport;
use Brenvic\Core\Classification\TermChoice;
use Brenvic\Core\Classification\TermsTable;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Fields\VocabularyTerm;
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
    /** Terms that are listed of those that fit what was typed. */
    private const MOST_FOUND = 100;

    public function __construct(private Draft $draft)
    {
    }

    /** Terms to choose from, of the published design: a level, what fits what is typed, or those of some codes. */
    public function terms(TermsAsked $request, Catalog $catalog, string $code): JsonResponse
    {
        abort_if($catalog->known(User::of($request))?->hidesVocabulary($code) === true, 404);

        return new JsonResponse(['terms' => $this->chosen($request, $catalog->design(), $code)]);
    }

    /** The same, of the draft. */
    public function draftTerms(TermsAsked $request, string $code): JsonResponse
    {
        return new JsonResponse(['terms' => $this->chosen($request, $this->draft->design(), $code)]);
    }

    /** @return list<array<string, mixed>> */
    private function chosen(TermsAsked $request, Design $design, string $code): array
    {
        $vocabulary = $design->vocabulary($code) ?? abort(404);
        $choice = new TermChoice($vocabulary, $request->from(), $request->beside(), $request->retired());
        $terms = match (true) {
            $request->codes() !== [] => array_values(array_intersect_key($vocabulary->terms, array_flip($request->codes()))),
            $request->typed() !== '' => $choice->matching($request->typed(), self::MOST_FOUND),
            default => $choice->below($request->below()),
        };

        return array_map(
            static fn (VocabularyTerm $term): array => [
                'code' => $term->code,
                'label' => $term->label,
                'notation' => $term->notation,
                'synonyms' => $term->synonyms,
                'retired' => $term->retired,
                'more' => $choice->hasBelow($term->code),
                'fits' => $choice->isFit($term),
                'path' => array_map(
                    $vocabulary->label(...),
                    array_reverse(
                        array_slice(
                            array_values(
                                array_filter($vocabulary->lineage($term->code), static fn (string $above): bool => $above !== $term->code),
                            ),
                            0,
                            4,
                        ),
                    ),
                ),
            ],
            $terms,
        );
    }

    /** How many documents each term has, itself and with what is below it, in all fields that use the vocabulary. */
    public function counts(Request $request, SqliteStore $store, Rights $rights, string $code): JsonResponse
    {
        $this->content($code);
        $fields = array_filter($this->draft->published()->fields(), static fn ($field): bool => $field->vocabulary?->code === $code);
        $sight = $rights->sight(User::of($request));
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

        return new JsonResponse([
            'counts' => (object) $counts,
            'fields' => array_values(array_map(static fn ($f): array => ['code' => $f->code, 'label' => $f->label], $fields)),
        ]);
    }

    /** Terms that are probably the same. */
    public function doubles(string $code): JsonResponse
    {
        $terms = [];
        foreach (Design::entries($this->content($code), 'terms') as $term) {
            if (($term['retired'] ?? false) !== true) {
                $terms[] = ['code' => (string) $term['code'], 'names' => Column::texts([$term['label'], ...$term['synonyms'] ?? []])];
            }
        }

        return new JsonResponse(['doubles' => LikelyDoubles::of($terms)]);
    }

    public function export(Request $request, string $code): Response
    {
        $format = (string) $request->validate(['format' => 'required|in:csv,'.implode(',', array_keys(RdfFiles::FORMATS))])['format'];
        $content = $this->content($code);
        [$ending, $type] = RdfFiles::FORMATS[$format] ?? ['csv', 'text/csv; charset=utf-8'];
        $text =
            $format === 'csv'
                ? TermsTable::write(Design::entries($content, 'terms'))
                : RdfFiles::write(Skos::triples($code, $content), $format);

        return new Response($text, 200, [
            'Content-Type' => $type,
            'Content-Disposition' => HeaderUtils::makeDisposition('attachment', "{$code}.{$ending}"),
            'X-Content-Type-Options' => 'nosniff',
        ]);
    }

    /** What a file would make of a vocabulary; nothing is changed by it. `code` need not exist yet. */
    public function preview(Request $request, string $code): JsonResponse
    {
        $name = (string) $request->query('name', '');
        $present = $this->draft->design()->part(DesignKind::Vocabulary, $code);
        $contents = $request->getContent();
        if (str_ends_with(mb_strtolower($name), '.csv')) {
            return new JsonResponse([
                ...$this->shape($code, TermsTable::read($contents, $present ?? ['name' => $code, 'terms' => []])),
                'schemes' => [],
                'chosen' => '',
            ]);
        }
        $triples = RdfFiles::read($contents, RdfFiles::formatOf(mb_strtolower($name), $contents));
        $schemes = Skos::schemes($triples);
        $chosen = (string) $request->query('scheme', '');
        if ($chosen !== '' && ! in_array($chosen, array_column($schemes, 'uri'), true)) {
            throw new Refused("The file has no scheme <{$chosen}>.");
        }

        return new JsonResponse([
            ...$this->shape($code, Skos::read($triples, $code, $present, chosen: $chosen)),
            'schemes' => count($schemes) > 1 ? $schemes : [],
            'chosen' => $chosen,
        ]);
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
        $named = static fn (array $codes): array => array_map(
            static fn (string $c): array => ['code' => $c, 'label' => $labels[$c] ?? $c],
            $codes,
        );

        return [
            'vocabulary' => [
                'code' => $code,
                ...\App\Design\DesignFile::objects(PartShape::complete(DesignKind::Vocabulary, $import->vocabulary)),
            ],
            'added' => $named($import->added),
            'changed' => $named($import->changed),
            'lost' => $named($import->lost),
            'faults' => $import->faults,
        ];
    }

    /** @return array<string, mixed> */
    private function content(string $code): array
    {
        return $this->draft->design()->part(DesignKind::Vocabulary, $code) ?? abort(404);
    }
}
