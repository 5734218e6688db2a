<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Catalog\Catalog;
use App\Design\DesignFile;
use App\Find\Places;
use App\Find\WordReach;
use App\Models\PersonalView;
use App\Models\Right;
use App\Models\User;
use App\Remote\RemoteRepositories;
use App\Remote\RemoteRepository;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\FormPart;
use Brenvic\Core\Design\TablePart;
use Brenvic\Core\Design\ViewPart;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\Kinds\FieldKinds;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\Reach;
use Brenvic\Core\Search\Asking\Relation;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Asking\WordCriterion;
use Brenvic\Core\Search\Asking\WordRelation;

/** Shapes the design for the API: all of it for those who design, for others what they work with and may know of. */
final readonly class DesignResource
{
    /** Vocabularies of more terms than this are asked for them a level, or a typed word, at a time. */
    public const MOST_TERMS = 500;

    /** What is known of a term where it is chosen. */
    public const OF_A_TERM = ['code', 'label', 'parent', 'also_below', 'synonyms', 'notation', 'retired', 'replaced_by', 'under'];

    public function __construct(private Catalog $catalog, private Places $places, private RemoteRepositories $remote, private WordReach $reach)
    {
    }

    /** @return array<string, mixed> where words may be looked for, by which relations, and how far they reach */
    private function words(): array
    {
        $choice = static fn (string $value, string $label): array => ['value' => $value, 'label' => $label];
        $places = WordCriterion::places();

        return [
            'places' => array_map($choice, array_keys($places), array_values($places)),
            'relations' => array_map(static fn (WordRelation $r): array => $choice($r->value, $r->words()), WordRelation::cases()),
            'reaches' => array_map(static fn (Reach $r): array => $choice($r->value, $r->words()), Reach::cases()),
            'office_reach' => $this->reach->ofOffice()->value,
            'near' => WordCriterion::NEAR,
        ];
    }

    /** @return array<string, mixed> */
    public function of(User $user): array
    {
        $design = $this->catalog->design();
        $known = $user->may(Right::Design) ? null : $this->knownTo($user, $design);
        $shape = ['stamp' => $this->catalog->stamp()];
        foreach (DesignKind::cases() as $kind) {
            $parts = $known === null ? $design->all($kind) : array_intersect_key($design->all($kind), array_flip($known[$kind->value]));
            $shape[$kind->value] = [];
            foreach ($parts as $code => $content) {
                $content = $kind === DesignKind::Vocabulary ? self::chosenFrom($content) : $content;
                $content = $known === null ? $content : $this->withoutHidden($user, $content);
                $shape[$kind->value][] = self::part(
                    $kind,
                    (string) $code,
                    $known === null
                        ? $content
                        : array_diff_key($content, [
                            'designers' => true,
                            ...$kind === DesignKind::Repository ? ['address' => true, 'groups' => true] : [],
                        ]),
                );
            }
        }
        $shape = [
            ...$shape,
            ...self::inOrder($shape),
            'remote' => array_values(
                array_map(static fn (RemoteRepository $r): array => ['code' => $r->code, 'name' => $r->name], $this->remote->of($user)),
            ),
            'default_view' => $user->preferences['default_view'] ?? null,
            'words' => $this->words(),
        ];
        $rights = $user->libraryRights();
        $ids = $this->catalog->libraries()->pluck('id', 'code');
        $shape['libraries'] = array_map(
            static fn (array $l): array => [
                ...array_diff_key($l, $known === null ? [] : ['groups' => true]),
                'may_change' => ($rights[$ids[$l['code']] ?? 0] ?? false) && $user->may(Right::Change),
            ],
            $shape['libraries'],
        );
        array_push(
            $shape['views'],
            ...PersonalView::query()
                ->where('user_id', $user->id)
                ->orderBy('id')
                ->get()
                ->map(
                    static fn (PersonalView $view): array => [
                        ...DesignFile::objects($view->content),
                        'code' => $view->code,
                        'own' => true,
                        'lock_version' => 1,
                    ],
                )
                ->all(),
        );

        $byField = $known === null ? [] : $this->catalog->known($user)?->byField() ?? [];

        return [
            ...$shape,
            'system_fields' => array_values(
                array_map(
                    static fn (FieldDefinition $field): array => self::definition(
                        $field,
                        match ($field->code) {
                            'library' => array_column($shape['libraries'], 'code'),
                            'repository' => array_column($shape['repositories'], 'code'),
                            'type' => array_column($shape['types'], 'code'),
                            default => $byField[$field->code] ?? null,
                        },
                    ),
                    $this->catalog->systemFields(),
                ),
            ),
            'dublin_core' => SearchSchema::DUBLIN_CORE,
            'kinds' => array_map(
                static fn (FieldKind $kind): array => [
                    'value' => $kind->value,
                    'label' => $kind->label(),
                    'may_be_faceted' => $kind->mayBeFaceted(),
                    'may_be_multiple' => $kind->mayBeMultiple(),
                    'is_ordered' => $kind->isOrdered(),
                    'is_exact' => $kind->isExact(),
                    'is_number' => $kind->isNumber(),
                    'has_sum' => $kind->hasSum(),
                    'options' => $kind->options(),
                    'widget' => $kind->widget(),
                    'hint' => $kind->hint(),
                    'formats' => array_map(
                        static fn (string $code, string $label): array => ['value' => $code, 'label' => $label],
                        array_keys($kind->formats()),
                        array_values($kind->formats()),
                    ),
                    'relations' => array_map(
                        static fn (Relation $r): array => ['value' => $r->value, 'label' => $r->words($kind)],
                        Criterion::relations($kind),
                    ),
                    'tree_relations' => array_map(
                        static fn (Relation $r): array => ['value' => $r->value, 'label' => $r->words($kind)],
                        Criterion::relations($kind, true),
                    ),
                ],
                array_values(FieldKinds::all()),
            ),
        ];
    }

    /**
     * A vocabulary as it is chosen from; notes, mappings and rules go to those who design it, with the draft.
     *
     * @param  array<string, mixed>  $content
     * @return array<string, mixed>
     */
    private static function chosenFrom(array $content): array
    {
        $needed = array_flip(self::OF_A_TERM);
        $terms = array_map(static fn (array $term): array => array_intersect_key($term, $needed), Design::entries($content, 'terms'));

        return [...array_diff_key($content, ['statements' => 0, 'unsaid' => 0]), 'terms' => $terms];
    }

    /**
     * A view or a form without the fields that a person may not know of.
     *
     * @param  array<string, mixed>  $content
     * @return array<string, mixed>
     */
    private function withoutHidden(User $user, array $content): array
    {
        $known = $this->catalog->known($user);
        foreach (['columns', 'sort', 'levels', 'fields', 'margins'] as $property) {
            if (is_array($content[$property] ?? null) && array_is_list($content[$property])) {
                $content[$property] = array_values(
                    array_filter(
                        $content[$property],
                        static fn (mixed $entry): bool => $known?->hidesField(
                            (string) (is_array($entry) ? $entry['field'] ?? ($entry['code'] ?? '') : $entry),
                        ) !== true,
                    ),
                );
            }
        }

        return $content;
    }

    /**
     * One part; the rows of a table, and the terms of a large vocabulary, only by their number.
     *
     * @param  array<string, mixed>  $content
     * @return array<string, mixed>
     */
    public static function part(DesignKind $kind, string $code, array $content, int $lock = 1): array
    {
        if ($kind === DesignKind::Table) {
            $content = [...$content, 'row_count' => count($content['rows'] ?? []), 'rows' => []];
        }
        if ($kind === DesignKind::Vocabulary) {
            $terms = Design::entries($content, 'terms');
            $isLarge = count($terms) > self::MOST_TERMS;
            $content = [
                ...array_diff_key($content, $isLarge ? ['statements' => 0, 'unsaid' => 0] : []),
                'terms' => $isLarge ? [] : $terms,
                'term_count' => count($terms),
                'is_tree' => array_filter($terms, static fn (array $term): bool => ($term['parent'] ?? null) !== null) !== [],
            ];
        }

        return ['code' => $code, ...DesignFile::objects($content), 'lock_version' => $lock];
    }

    /**
     * Types and vocabularies by name, views by their places.
     *
     * @param  array<string, mixed>  $shape
     * @return array<string, list<array<string, mixed>>>
     */
    public static function inOrder(array $shape): array
    {
        foreach ([DesignKind::Vocabulary, DesignKind::Type, DesignKind::View] as $kind) {
            $place = static fn (array $part): int => $kind === DesignKind::View ? (int) ($part['position'] ?? 100) : 0;
            usort($shape[$kind->value], static function (array $a, array $b) use ($place): int {
                return $place($a) <=> $place($b) ?: strcasecmp((string) $a['name'], (string) $b['name']);
            });
        }

        return array_intersect_key($shape, [
            DesignKind::Vocabulary->value => true,
            DesignKind::Type->value => true,
            DesignKind::View->value => true,
        ]);
    }

    /** @return array<string, list<string>> kind => codes of what a person may know of */
    private function knownTo(User $user, Design $design): array
    {
        $known = $this->catalog->known($user);
        $libraries = $known->libraries ?? [];
        $types = $known->types ?? [];
        $views = $this->catalog->viewsFor($user);
        $forms = array_filter(
            $design->parts(FormPart::class),
            static fn (FormPart $form): bool => ($form->libraries === [] || array_intersect($form->libraries, $libraries) !== []) &&
                ($form->types === [] || array_intersect($form->types, $types) !== []),
        );
        $codes = static fn (array $parts): array => array_map(strval(...), array_keys($parts));

        return [
            DesignKind::Repository->value => $known->repositories ?? [],
            DesignKind::Vocabulary->value => array_values(
                array_filter(
                    $codes($design->all(DesignKind::Vocabulary)),
                    static fn (string $code): bool => $known?->hidesVocabulary($code) !== true,
                ),
            ),
            DesignKind::Field->value => $codes($this->catalog->fieldsFor($user)),
            DesignKind::Table->value => $user->may(Right::File) || $user->may(Right::Change)
                ? $codes(
                    array_filter(
                        $design->parts(TablePart::class),
                        static fn (TablePart $table): bool => $known?->hidesField($table->key) !== true,
                    ),
                )
                : [],
            DesignKind::Type->value => $types,
            DesignKind::Library->value => $libraries,
            // A view’s name says something about what is in it: it is not offered to whom it would show nothing.
            DesignKind::View->value => $this->places->filled(
                $user,
                array_map(static fn (ViewPart $view): string => $view->criterion, $views),
            ),
            DesignKind::DossierKind->value => $known->dossierKinds ?? [],
            DesignKind::Form->value => $codes($forms),
            DesignKind::Access->value => [],
            DesignKind::Source->value => [],
            DesignKind::Reading->value => [],
            DesignKind::Procedure->value => [],
            DesignKind::WorkForm->value => [],
        ];
    }

    /**
     * @param  list<string>|null  $only  the terms a person may know of; null for all
     * @return array<string, mixed>
     */
    public static function definition(FieldDefinition $field, ?array $only = null): array
    {
        $terms = array_filter(
            $field->vocabulary->terms ?? [],
            static fn (VocabularyTerm $term): bool => $only === null || in_array($term->code, $only, true),
        );

        return [
            'code' => $field->code,
            'label' => $field->label,
            'kind' => $field->kind->value,
            'faceted' => $field->faceted,
            'terms' => array_values(
                array_map(
                    static fn (VocabularyTerm $t): array => [
                        'code' => $t->code,
                        'label' => $t->label,
                        'parent' => $t->parent,
                        'synonyms' => $t->synonyms,
                    ],
                    $terms,
                ),
            ),
        ];
    }
}
