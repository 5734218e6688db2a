<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;
use Closure;

/**
 * What changes of a design would do to the documents that exist, counted and not guessed: values are tried on the new
 * definitions, one try for each different value; everything else is a search, made with the design before and after.
 */
final readonly class Effect
{
    private const EXAMPLES = 8;

    /**
     * @param  Closure(Node): DocumentSet  $before  finds documents with the design as it is
     * @param  Closure(Node): DocumentSet  $after  finds documents with the design as it would be
     * @param  KeptDocuments|null  $kept  what retention rules are tried on
     * @param  (Closure(Design): array<string, DocumentSet>)|null  $sights  what people see with a design, by what they are called together
     */
    public function __construct(
        private Design $old,
        private Design $new,
        private StoredValues $values,
        private Closure $before,
        private Closure $after,
        private ?Closure $sights = null,
        private ?KeptDocuments $kept = null,
    ) {
    }

    /** @return list<EffectCount> without those that touch no document; first what stops the publication */
    public function of(DesignChange $change): array
    {
        $counts = match ($change->kind) {
            DesignKind::Field => $this->ofField($change, $change->code),
            DesignKind::Vocabulary => $this->ofVocabulary($change),
            DesignKind::Type => $this->ofType($change),
            DesignKind::View => $this->ofView($change),
            DesignKind::Library => [...$this->ofLibrary($change), ...$this->ofAccess($change)],
            DesignKind::DossierKind => $this->ofDossierKind($change),
            DesignKind::Access => $this->ofAccess($change),
            DesignKind::Repository, DesignKind::Table, DesignKind::Form, DesignKind::Source, DesignKind::Reading,
            DesignKind::Procedure, DesignKind::WorkForm => [],
        };

        if ($this->kept !== null) {
            array_push($counts, ...(new RetentionEffect($this->old, $this->new, $this->kept, $this->before, $this->after))->of($change));
        }
        $counts = array_values(array_filter($counts, static fn (EffectCount $count): bool => $count->documents > 0));
        usort($counts, static fn (EffectCount $a, EffectCount $b): int => $b->kind->stops() <=> $a->kind->stops());

        return $counts;
    }

    /** @return list<EffectCount> */
    private function ofField(DesignChange $change, string $code): array
    {
        $was = $this->old->field($code);
        $is = $this->new->field($code);
        if ($was === null) {
            return $is === null ? [] : [$this->givenBack($change, $is)];
        }
        $label = $was->label;
        $filled = new SearchClause($code, '<>', '');
        if ($is === null) {
            $heir = $this->heirOf($code);
            if ($heir !== null) {
                return $this->ofMerge($change, $was, $heir, $filled);
            }

            return [
                $this->but(
                    $this->counted(EffectKind::Orphaned, $change, $filled, "with a value in {$label}", false),
                    $filled,
                    $this->before,
                    $this->values->returned($code)->emptied,
                ),
            ];
        }
        $counts = [...$this->tried($change, $was, $is), $this->givenBack($change, $is)];
        if ($was->multiple && ! $is->multiple) {
            $counts[] = new EffectCount(
                EffectKind::Invalid,
                $change,
                $this->values->several($code),
                "with more than one value in {$label}",
            );
        }
        if ($was->sensitive !== $is->sensitive) {
            $counts[] = $this->counted(
                $is->sensitive ? EffectKind::Hidden : EffectKind::Revealed,
                $change,
                $filled,
                $is->sensitive ? "with a {$label} that readers will no longer see" : "with a {$label} that readers will see",
                false,
            );
        }

        return $counts;
    }

    /** The field that a field taken out is merged into. */
    private function heirOf(string $code): ?FieldDefinition
    {
        foreach ($this->new->fields() as $field) {
            if (in_array($code, $field->formerly, true)) {
                return $field;
            }
        }

        return null;
    }

    /** @return list<EffectCount> */
    private function ofMerge(DesignChange $change, FieldDefinition $was, FieldDefinition $heir, Node $filled): array
    {
        [$lost, $invalid] = $this->tried($change, $was, $heir);
        $moved = ($this->before)($filled)->count();
        $counts = [
            $lost,
            $invalid,
            new EffectCount(
                EffectKind::Converted,
                $change,
                $moved,
                "with a {$was->label} that becomes {$heir->label}",
                (new LedgerLine($filled))->cql(),
            ),
        ];
        if (! $heir->multiple && $this->old->field($heir->code) !== null) {
            $counts[] = $this->counted(
                EffectKind::Dropped,
                $change,
                new BooleanNode(BooleanOperator::And, $filled, new SearchClause($heir->code, '<>', '')),
                "with a {$heir->label} already, which they keep; their {$was->label} is not moved",
                false,
            );
        }

        return $counts;
    }

    /** @return array{EffectCount, EffectCount, EffectCount} lost, invalid, converted */
    private function tried(DesignChange $change, FieldDefinition $was, FieldDefinition $is): array
    {
        $lost = $invalid = [];
        $converted = 0;
        foreach ($this->values->distinct($was->code) as $value => $documents) {
            $value = (string) $value;
            try {
                $shown = self::shown($was, $value);
                // A code that is still a term of the vocabulary stays what it is, whatever it is called.
                $normal = $is->parse($was->kind->value === $is->kind->value ? $value : $shown);
                $converted += $was->kind->value !== $is->kind->value && $normal !== null ? $documents : 0;
            } catch (InvalidValue $fault) {
                if (self::isRefused($was, $value) && $was->kind->value === $is->kind->value) {
                    continue;
                }
                $entry = ['value' => $shown, 'documents' => $documents, 'reason' => $fault->getMessage()];
                $was->kind->value !== $is->kind->value || $was->vocabulary !== null ? ($lost[] = $entry) : ($invalid[] = $entry);
            }
        }
        $returned = $this->values->returned($was->code);
        foreach ($was->code === $is->code ? $returned->come : [] as $value => $documents) {
            try {
                $is->parse((string) $value);
            } catch (InvalidValue $fault) {
                $lost[] = ['value' => (string) $value, 'documents' => $documents, 'reason' => $fault->getMessage()];
            }
        }
        $left = $returned->left;

        return [
            $this->values(
                EffectKind::Lost,
                $change,
                $lost,
                $was->kind->value === $is->kind->value
                    ? "with a {$was->label} that is no longer in the list"
                    : "with a {$was->label} that cannot be read as ".lcfirst($is->kind->label()),
                $left,
            ),
            $this->values(EffectKind::Invalid, $change, $invalid, "with a {$was->label} that would be refused", $left),
            new EffectCount(EffectKind::Converted, $change, $converted, "with a {$was->label} that is written as {$is->kind->label()}"),
        ];
    }

    /** Whether a value could not be given as it is; that it cannot be afterwards is then no effect. */
    private static function isRefused(FieldDefinition $field, string $value): bool
    {
        try {
            $field->parse($value);

            return false;
        } catch (InvalidValue) {
            return true;
        }
    }

    /** What a version brought back gives back to a field. */
    private function givenBack(DesignChange $change, FieldDefinition $is): EffectCount
    {
        $returned = $this->values->returned($is->code);

        return new EffectCount(
            EffectKind::GivenBack,
            $change,
            $returned->given->count(),
            "given back the {$is->label} that they had",
            null,
            [],
            $returned->given,
        );
    }

    /**
     * A count without some of its documents.
     *
     * @param  Closure(Node): DocumentSet  $finder
     */
    private function but(EffectCount $count, Node $node, Closure $finder, DocumentSet $without): EffectCount
    {
        if ($without->isEmpty() || $count->documents === 0) {
            return $count;
        }
        $set = $finder($node)->minus($without);

        return new EffectCount($count->kind, $count->change, $set->count(), $count->what, null, $count->examples, $set);
    }

    /**
     * @param  list<array{value: string, documents: int, reason: string}>  $entries
     * @param  DocumentSet  $left  documents that a value leaves before it is tried
     */
    private function values(EffectKind $kind, DesignChange $change, array $entries, string $what, DocumentSet $left): EffectCount
    {
        usort($entries, static fn (array $a, array $b): int => $b['documents'] <=> $a['documents'] ?: strcmp($a['value'], $b['value']));
        $field = $change->kind === DesignKind::Field ? $change->code : null;
        $nodes =
            $field === null
                ? []
                : array_map(static fn (array $e): Node => new SearchClause($field, '==', Criterion::escaped($e['value'])), $entries);
        $list = BooleanNode::join(BooleanOperator::Or, $nodes);

        $count = new EffectCount(
            $kind,
            $change,
            array_sum(array_column($entries, 'documents')),
            $what,
            $list === null ? null : (new LedgerLine($list))->cql(),
            array_slice($entries, 0, self::EXAMPLES),
        );

        return $list === null ? $count : $this->but($count, $list, $this->before, $left);
    }

    private static function shown(FieldDefinition $field, string $value): string
    {
        try {
            return $field->display($value);
        } catch (InvalidValue) {
            return $value;
        }
    }

    /** @return list<EffectCount> */
    private function ofVocabulary(DesignChange $change): array
    {
        $was = $this->old->vocabulary($change->code)->terms ?? [];
        $is = $this->new->vocabulary($change->code)->terms ?? [];
        $changed = array_filter(
            $was,
            static fn (VocabularyTerm $term): bool => isset($is[$term->code]) && self::looksOther($term, $is[$term->code]),
        );
        $moves = TermMove::between($change->before, $change->after);
        $counts = [
            ...$this->retitled(
                $change,
                array_keys(
                    array_filter($this->old->fields(), static fn (FieldDefinition $f): bool => $f->vocabulary?->code === $change->code),
                ),
            ),
        ];
        foreach ($this->old->fields() as $field) {
            if ($field->vocabulary?->code !== $change->code) {
                continue;
            }
            $new = $this->new->field($field->code);
            if ($new !== null && $change->after !== null) {
                array_push(
                    $counts,
                    ...$this->tried(new DesignChange(DesignKind::Field, $field->code, $change->before, $change->after), $field, $new),
                );
                // A field that changes itself says so itself.
                if (Design::same($this->old->part(DesignKind::Field, $field->code), $this->new->part(DesignKind::Field, $field->code))) {
                    $counts[] = $this->givenBack($change, $new);
                }
            }
            $nodes = array_map(
                static fn (VocabularyTerm $term): Node => new SearchClause($field->code, '==', Criterion::escaped($term->code)),
                array_values($changed),
            );
            array_push($counts, ...$this->moved($change, $field, $moves, $was));
            $reworded = BooleanNode::join(BooleanOperator::Or, $nodes);
            if ($reworded !== null) {
                $counts[] = $this->counted(
                    EffectKind::Reworded,
                    $change,
                    $reworded,
                    "with a {$field->label} whose name or place changes",
                    false,
                );
            }
        }
        foreach ((new DependentValues($this->old, $this->new, $this->values, $this->before))->of($change) as [$field, $on, $set]) {
            $counts[] = new EffectCount(
                EffectKind::Invalid,
                $change,
                $set->count(),
                "with a {$field->label} that could no longer be chosen under their {$on->label}",
                null,
                [],
                $set,
            );
        }

        return $counts;
    }

    /** @return list<EffectCount> */
    private function ofType(DesignChange $change): array
    {
        $ofType = new SearchClause('type', '==', Criterion::escaped($change->code));
        if ($change->before === null) {
            return [];
        }
        if ($change->after === null) {
            return [$this->counted(EffectKind::Orphaned, $change, $ofType, 'are of this type', false)];
        }
        $counts = [];
        foreach (array_diff(self::flagged($change->after, 'required'), self::flagged($change->before, 'required')) as $code) {
            $label = $this->new->field($code)->label ?? $code;
            $missing = new BooleanNode(BooleanOperator::And, $ofType, new SearchClause($code, '==', ''));
            $count = $this->counted(EffectKind::Missing, $change, $missing, "without {$label}, which becomes required");
            $counts[] = $this->but($count, $missing, $this->after, $this->values->returned($code)->given);
        }
        foreach (array_diff(Design::codes($change->before, 'fields', 'code'), Design::codes($change->after, 'fields', 'code')) as $code) {
            $label = $this->old->field($code)->label ?? $code;
            $counts[] = $this->counted(
                EffectKind::Unshown,
                $change,
                new BooleanNode(BooleanOperator::And, $ofType, new SearchClause($code, '<>', '')),
                "with a {$label} that their sheet will no longer show",
                false,
            );
        }
        if (($change->before['title_pattern'] ?? '') !== ($change->after['title_pattern'] ?? '')) {
            array_push($counts, ...$this->retitled($change, [], $change->code));
        }

        return $counts;
    }

    /** Whether documents look other when one of their terms changes from one to the other. */
    private static function looksOther(VocabularyTerm $was, VocabularyTerm $is): bool
    {
        return $was->name() !== $is->name() || $was->parents() !== $is->parents() || $was->synonyms !== $is->synonyms;
    }

    /**
     * @param  list<TermMove>  $moves
     * @param  array<string, VocabularyTerm>  $was
     * @return list<EffectCount>
     */
    private function moved(DesignChange $change, FieldDefinition $field, array $moves, array $was): array
    {
        $counts = $emptied = [];
        foreach ($moves as $move) {
            $node = $move->node($field->code);
            $to = Design::entries($change->after, 'terms')[$move->place]['label'] ?? $move->to;
            $counts[] = $this->counted(
                EffectKind::Replaced,
                $change,
                $node,
                "with the {$field->label} “{$field->display($move->from)}”, given “".(is_string($to) ? $to : $move->to).'” instead',
                false,
            );
            if ($move->criterion === '' && end($counts)->documents > 0) {
                $emptied[] = [
                    'value' => $was[$move->from]->label ?? $move->from,
                    'documents' => end($counts)->documents,
                    'reason' => 'moved',
                ];
            }
        }
        $counts[] = new EffectCount(
            EffectKind::Emptied,
            $change,
            count($emptied),
            "concepts are left without documents in {$field->label}",
            null,
            array_slice($emptied, 0, self::EXAMPLES),
        );

        return $counts;
    }

    /**
     * Titles that would be other, by trying each.
     *
     * @param  list<string>  $fields  those whose values look other
     * @param  string|null  $only  one type
     * @return list<EffectCount>
     */
    private function retitled(DesignChange $change, array $fields, ?string $only = null): array
    {
        $counts = [];
        $definitions = $this->new->fields();
        foreach ($this->new->all(DesignKind::Type) as $type => $content) {
            $pattern = new TitlePattern(is_string($content['title_pattern'] ?? null) ? $content['title_pattern'] : '');
            if ($only === null ? array_intersect($pattern->fields(), $fields) === [] : $only !== (string) $type) {
                continue;
            }
            $other = 0;
            foreach (
                $this->values->titled((string) $type, $pattern->fields()) as ['title' => $title, 'otherwise' => $otherwise, 'values' => $values]
            ) {
                $other += ($pattern->title($definitions, $values) ?? $otherwise) === $title ? 0 : 1;
            }
            $name = Design::nameOf(DesignKind::Type, (string) $type, $content);
            $counts[] = new EffectCount(
                EffectKind::Retitled,
                $change,
                $other,
                $only === null ? "of the type “{$name}” are given another title" : 'are given another title',
                (new LedgerLine(new SearchClause('type', '==', Criterion::escaped((string) $type))))->cql(),
            );
        }

        return $counts;
    }

    /** @return list<EffectCount> */
    private function ofAccess(DesignChange $change): array
    {
        if (
            $this->sights === null ||
            ($change->kind === DesignKind::Library &&
                ($change->before === null || Design::same($change->before['groups'] ?? [], $change->after['groups'] ?? [])))
        ) {
            return [];
        }
        $before = ($this->sights)($this->old);
        $after = ($this->sights)($this->besidesRights()->with($change->kind, $change->code, $change->after));
        $counts = [];
        foreach ($after as $who => $sees) {
            $saw = $before[$who] ?? DocumentSet::none();
            foreach (
                [
                    [EffectKind::Gains, $sees->minus($saw), 'newly visible to'],
                    [EffectKind::Loses, $saw->minus($sees), 'no longer visible to'],
                ] as [$kind, $set, $what]
            ) {
                $counts[] = new EffectCount($kind, $change, $set->count(), "{$what} {$who}", null, [], $set);
            }
        }

        return $counts;
    }

    /**
     * The design as it was, with what is new besides who may do what: a rule may name a field that is as new as itself, and
     * others those that go with this draft.
     */
    private function besidesRights(): Design
    {
        $design = $this->old;
        foreach (DesignKind::cases() as $kind) {
            $isOfRights = $kind === DesignKind::Access || $kind === DesignKind::Library;
            foreach ($isOfRights ? [] : array_diff_key($this->new->all($kind), $this->old->all($kind)) as $code => $content) {
                $design = $design->with($kind, (string) $code, $content);
            }
        }

        return $design;
    }

    /** @return list<EffectCount> counted in dossiers but for what is handed down */
    private function ofDossierKind(DesignChange $change): array
    {
        if ($change->before === null) {
            return [];
        }
        if ($change->after === null) {
            return [new EffectCount(EffectKind::Orphaned, $change, $this->values->dossiers($change->code), 'are dossiers of this kind')];
        }
        $counts = [];
        foreach (array_diff(self::flagged($change->after, 'required'), self::flagged($change->before, 'required')) as $code) {
            $counts[] = new EffectCount(
                EffectKind::Missing,
                $change,
                $this->values->dossiers($change->code, $code),
                'are dossiers without '.($this->new->field($code)->label ?? $code).', which is required from now on',
            );
        }
        [$was, $is] = [self::flagged($change->before, 'handed_down'), self::flagged($change->after, 'handed_down')];
        foreach (
            [
                [array_diff($is, $was), 'have the %s of their dossier from now on'],
                [array_diff($was, $is), 'have the %s of their dossier no more'],
            ] as [$codes, $what]
        ) {
            foreach ($codes as $code) {
                $counts[] = new EffectCount(
                    EffectKind::HandedDown,
                    $change,
                    $this->values->heirs($change->code, $code),
                    sprintf($what, $this->new->field($code)->label ?? $code),
                );
            }
        }

        return $counts;
    }

    /**
     * @param  array<string, mixed>|null  $content
     * @return list<string> the codes of the fields of a type or dossier kind that have a property
     */
    private static function flagged(?array $content, string $property): array
    {
        return Design::codes(
            [
                'fields' => array_filter(
                    Design::entries($content, 'fields'),
                    static fn (array $field): bool => ($field[$property] ?? false) === true,
                ),
            ],
            'fields',
            'code',
        );
    }

    /** @return list<EffectCount> */
    private function ofView(DesignChange $change): array
    {
        $old = self::criterion($change->before);
        $new = self::criterion($change->after);
        $was = $old === null ? DocumentSet::none() : ($this->before)($old);
        $is = $new === null ? DocumentSet::none() : ($this->after)($new);
        $cql = static fn (?Node $first, ?Node $second): ?string => $first === null
            ? null
            : (new LedgerLine($second === null ? $first : new BooleanNode(BooleanOperator::Not, $first, $second)))->cql();

        return [
            new EffectCount(
                EffectKind::Appears,
                $change,
                $is->minus($was)->count(),
                $old === null ? 'are in the new view' : 'come into the view',
                $cql($new, $old),
            ),
            new EffectCount(
                EffectKind::Vanishes,
                $change,
                $was->minus($is)->count(),
                $new === null ? 'were in the view' : 'leave the view',
                $cql($old, $new),
            ),
            ...$this->masked($change, $is),
        ];
    }

    /** @return list<EffectCount> */
    private function masked(DesignChange $change, DocumentSet $documents): array
    {
        $counts = [];
        $mask = static function (?array $view, string $code): string {
            $format = is_array($view['formats'] ?? null) ? $view['formats'][$code] ?? null : null;

            return is_array($format) && is_string($format['mask'] ?? null) ? $format['mask'] : 'none';
        };
        foreach (Design::codes($change->after, 'columns') as $code) {
            $field = $this->new->field($code);
            if ($field !== null && $mask($change->before, $code) !== $mask($change->after, $code)) {
                $filled = new SearchClause($code, '<>', '');
                $counts[] = new EffectCount(
                    EffectKind::Masked,
                    $change,
                    ($this->after)($filled)->and($documents)->count(),
                    $mask($change->after, $code) === 'none'
                        ? "with a {$field->label} that the view shows whole from now on"
                        : "with a {$field->label} that the view masks",
                    (new LedgerLine($filled))->cql(),
                );
            }
        }

        return $counts;
    }

    /** @param  array<string, mixed>|null  $view */
    private static function criterion(?array $view): ?Node
    {
        return $view === null ? null : Parser::parse(is_string($view['criterion'] ?? null) ? $view['criterion'] : '')->root;
    }

    /** @return list<EffectCount> */
    private function ofLibrary(DesignChange $change): array
    {
        $inLibrary = new SearchClause('library', '==', Criterion::escaped($change->code));
        if ($change->before === null) {
            return [];
        }
        if ($change->after === null) {
            return [$this->counted(EffectKind::Orphaned, $change, $inLibrary, 'are in this library', false)];
        }
        $counts = [];
        $repository = $change->after['repository'] ?? null;
        if (is_string($repository) && ($change->before['repository'] ?? null) !== $repository) {
            $name = Design::nameOf(DesignKind::Repository, $repository, $this->new->part(DesignKind::Repository, $repository));
            $counts[] = $this->counted(
                EffectKind::Reworded,
                $change,
                $inLibrary,
                "go to the repository “{$name}” with their library",
                false,
            );
        }
        foreach (array_diff(Design::codes($change->before, 'types'), Design::codes($change->after, 'types')) as $code) {
            $name = Design::nameOf(DesignKind::Type, $code, $this->old->part(DesignKind::Type, $code));
            $counts[] = $this->counted(
                EffectKind::Unshown,
                $change,
                new BooleanNode(BooleanOperator::And, $inLibrary, new SearchClause('type', '==', Criterion::escaped($code))),
                "of the type “{$name}”, which will no longer be filed here",
                false,
            );
        }

        return $counts;
    }

    private function counted(EffectKind $kind, DesignChange $change, Node $node, string $what, bool $after = true): EffectCount
    {
        return new EffectCount(
            $kind,
            $change,
            ($after ? $this->after : $this->before)($node)->count(),
            $what,
            (new LedgerLine($node))->cql(),
        );
    }
}
