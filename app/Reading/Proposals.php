<?php

declare(strict_types=1);

namespace App\Reading;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Copies\Layouts;
use App\Files\PageStore;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\User;
use App\Redaction\Redactions;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Design\LibraryPart;
use Brenvic\Core\Design\ReadingPart;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Learning\Example;
use Brenvic\Core\Learning\Likeliest;
use Brenvic\Core\Learning\PlaceLearner;
use Brenvic\Core\Learning\Vote;
use Brenvic\Core\Reading\Found;
use Brenvic\Core\Reading\Reader;
use Brenvic\Core\Reading\TooManySteps;
use Illuminate\Support\Facades\DB;

/**
 * What a document may be filed as: by the reading rules, by where papers of its form have their values, by what documents with the same
 * values have, and by what most of those have that look like it. All that is learned is learned while somebody asks, from what is filed
 * and they may see whole: what people correct counts at once, and nothing comes from what is hidden from them. Nothing of it is stored
 * unless somebody takes it.
 */
final readonly class Proposals
{
    /** By what a record is kept besides codes of rules, which have no dot. */
    public const PLACE = '.place';

    public const VALUE = '.value';

    public const FORM = '.form';

    /** Pages that are read while somebody waits. */
    private const PAGES = 30;

    /** Documents of the same form that are looked at, and those of them whose pages are read. */
    private const ALIKE = 40;

    private const EXAMPLES = 10;

    private const EXAMPLE_PAGES = 2;

    /** Documents with the same value that are looked at, and those that tell what is usual. */
    private const SAME = 60;

    private const USUAL = 200;

    /** How much better an example is that is of the same type. */
    private const OWN_TYPE = 1.3;

    /** Types that are compared, and documents of each. */
    private const TYPES = 6;

    private const OF_TYPE = 80;

    /** How likely a type must be. */
    private const LIKELY = 0.9;

    /** Of the votes for a dossier this share must be for one. */
    private const MOST = 0.75;

    /** Of those for a value. */
    private const NEARLY_ALL = 0.95;

    /** Less say nothing of all. */
    private const FEW = 5;

    /** Kinds of which several documents have the same value because they are of the same thing. */
    private const SHARED = ['identifier', 'text', 'person', 'choice', 'reference', 'yes_no'];

    public function __construct(
        private Catalog $catalog,
        private ProposalRecord $record,
        private Rights $rights,
        private Redactions $redactions,
    ) {
    }

    /** @param  DocumentSet|null  $among  what may be learned from; all that the person sees whole if null */
    public function of(Document $document, User $user, ?string $type, ?DocumentSet $among = null): ProposedSheet
    {
        $among ??= $this->rights->sight($user)->minus(DocumentSet::of($this->redactions->bound($user)));
        $sharers = Layouts::sharers($document, $among);
        $alike = Layouts::alike($sharers, self::ALIKE);
        $proposedType = $this->type($document, $user, $among, $sharers);
        $sheetOf = $type ?? $proposedType?->of->code;
        $fields = $this->fieldsOf($sheetOf, $user);
        $pages = PageStore::of([$document->id], self::PAGES)[$document->id] ?? [];
        $given = OwnValues::of([$document->id])[$document->id] ?? [];
        $proposals = $this->byRules($sheetOf, $fields, $pages, $user);
        $same = $usual = [];
        if ($sheetOf !== null) {
            $typeId = (int) $this->catalog->types()->firstWhere('code', $sheetOf)?->id;
            $types = $this->typesOf(array_keys($alike));
            $ofType = array_keys(array_filter(array_intersect_key($alike, $types), static fn (int $id): bool => $types[$id] === $typeId, ARRAY_FILTER_USE_KEY));
            $latest = $this->latest($typeId, $among, $document->id, self::USUAL);
            $examples = self::examples($alike, $ofType, $latest);
            $proposals += $this->byPlace($sheetOf, array_diff_key($fields, $proposals), $pages, $examples, $user);
            $known = $given + array_map(static fn (Proposal $of): array => $of->normals(), $proposals);
            $same = $this->withSame($known, $fields, $among, $document->id);
            $usual = OwnValues::of($latest);
            $left = array_diff_key($fields, $proposals, $given);
            $proposals += $this->byValues($sheetOf, $left, $same, $usual, $user);
            $proposals += $this->byForm($sheetOf, array_diff_key($left, $proposals), OwnValues::of($ofType), 'As papers of this form have it', $user);
            $named = mb_strtolower($this->catalog->types()->get($typeId)->name ?? '');
            $proposals += $this->byForm($sheetOf, array_diff_key($left, $proposals), $usual, "As nearly every {$named} has it", $user);
        }
        $dossier = $this->dossier($same, $usual, $user);
        $sheet = new ProposedSheet($proposedType, $dossier, array_values($proposals));
        if ($document->state === Document::WAITING) {
            ProposalRecord::offer($document->id, $sheet);
        }

        return $sheet;
    }

    /**
     * Documents that places of values are learned from: of its form, first those of its type, for offices have one form for several; and
     * where there are too few of it the latest of its type.
     *
     * @param  array<int, float>  $alike  how much they are like it
     * @param  list<int>  $ofType  those of them that are of its type
     * @param  list<int>  $latest
     * @return list<int>
     */
    private static function examples(array $alike, array $ofType, array $latest): array
    {
        foreach ($ofType as $id) {
            $alike[$id] *= self::OWN_TYPE;
        }
        arsort($alike);

        return array_slice(array_values(array_unique([...array_keys($alike), ...$latest])), 0, self::EXAMPLES);
    }

    /**
     * The type of documents that have the same marks.
     *
     * @param  list<array{float, list<int>}>  $sharers  who has them
     * @return ProposedAs<TypePart>|null
     */
    private function type(Document $document, User $user, DocumentSet $among, array $sharers): ?ProposedAs
    {
        $types = $this->typesOf(array_values(array_unique(array_merge(...array_column($sharers, 1)))));
        $weights = $from = [];
        foreach ($sharers as [$weight, $ids]) {
            foreach ($ids as $id) {
                $type = $types[$id] ?? null;
                if ($type !== null) {
                    $weights[$type] = ($weights[$type] ?? 0.0) + $weight / count($ids);
                    $from[$type][$id] = ($from[$type][$id] ?? 0.0) + $weight;
                }
            }
        }
        arsort($weights);
        $classes = [];
        foreach (array_slice(array_keys($weights), 0, self::TYPES) as $type) {
            $classes[(string) $type] = array_values(Layouts::marksOf($this->latest($type, $among, $document->id, self::OF_TYPE)));
        }
        [$likely, $isLikely] = Likeliest::of(Layouts::marks($document->id), $classes) ?? ['0', 0.0];
        $named = $this->catalog->types()->get((int) $likely);
        $part = $this->catalog->type($named);
        if ($named === null || $part === null || $isLikely < self::LIKELY || count($classes[$likely]) < PlaceLearner::LEAST) {
            return null;
        }
        $library = $this->catalog->libraries()->get($document->library_id)->code ?? '';
        $isThere = in_array($named->code, $this->catalog->design()->parts(LibraryPart::class)[$library]->types ?? [], true);
        if (! $isThere || ($part->filers !== [] && array_intersect($part->filers, $user->groupNames()) === [])) {
            return null;
        }
        arsort($from[(int) $likely]);
        $likest = array_slice(array_keys($from[(int) $likely]), 0, self::EXAMPLES);

        return new ProposedAs($part, $named->code, $likest, $this->record->of(self::FORM, ProposalRecord::TYPE, $user));
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, int> id of the type by document; attachments go with what they are attached to
     */
    private function typesOf(array $ids): array
    {
        $types = DB::table('documents')
            ->whereIntegerInRaw('id', $ids)
            ->whereNull('parent_id')
            ->whereNotNull('document_type_id')
            ->pluck('document_type_id', 'id');

        return array_map(intval(...), $types->all());
    }

    /** @return array<string, FieldDefinition> those of a type’s sheet that a person fills in; all that they see where there is no type */
    private function fieldsOf(?string $type, User $user): array
    {
        $fields = $this->catalog->fieldsShownTo($user);
        $part = $this->catalog->design()->parts(TypePart::class)[$type ?? ''] ?? null;

        return $part === null ? $fields : array_intersect_key($fields, array_flip($part->fieldCodes()));
    }

    /**
     * @param  array<string, FieldDefinition>  $fields
     * @param  array<int, TextPage>  $pages
     * @return array<string, Proposal>
     */
    private function byRules(?string $type, array $fields, array $pages, User $user): array
    {
        $design = $this->catalog->design();
        $proposals = [];
        foreach ($design->parts(ReadingPart::class) as $part) {
            $field = $fields[$part->field] ?? null;
            if ($part->isMention || $field === null || ! $part->reads($type) || isset($proposals[$field->code])) {
                continue;
            }
            try {
                $found = Reader::read($part->rule($design), $field, $pages)->proposed($field->multiple);
            } catch (TooManySteps) {
                // Its trial says so; whoever files has nothing of it.
                continue;
            }
            if ($found !== []) {
                $values = array_map(static fn (Found $of): ProposedValue => ProposedValue::at($of, $pages), $found);
                $stamp = substr(md5(serialize($part)), 0, 16);
                $record = $this->record->of($part->code, $stamp, $user);
                $proposals[$field->code] = new Proposal($field, $part->code, $stamp, $part->name, $values, [], $record, $part->isStored);
            }
        }

        return $proposals;
    }

    /**
     * @param  array<string, FieldDefinition>  $fields
     * @param  array<int, TextPage>  $pages
     * @param  list<int>  $examples  documents of the same form and type, the likest first
     * @return array<string, Proposal>
     */
    private function byPlace(string $type, array $fields, array $pages, array $examples, User $user): array
    {
        if (count($examples) < PlaceLearner::LEAST || $pages === []) {
            return [];
        }
        $their = PageStore::of($examples, self::EXAMPLE_PAGES);
        $values = OwnValues::of($examples);
        $learner = new PlaceLearner(array_map(
            static fn (int $id): Example => new Example($id, $their[$id] ?? [], $values[$id] ?? []),
            $examples,
        ));
        $proposals = [];
        foreach ($fields as $field) {
            $learned = $learner->learn($field);
            $found = $learned?->found($field, $pages);
            if ($learned !== null && $found !== null) {
                $by = $learned->beside === '' ? 'Its place on papers of this form' : "Beside “{$learned->beside}” on papers of this form";
                $values = [ProposedValue::at($found, $pages)];
                $proposals[$field->code] = $this->proposal($field, self::PLACE, "{$type}.{$field->code}", $by, $values, $learned->from, $user);
            }
        }

        return $proposals;
    }

    /**
     * What documents with one of the same values nearly all have, if that is more than what is usual.
     *
     * @param  array<string, FieldDefinition>  $fields
     * @param  list<array{FieldDefinition, string, array<int, array<string, list<string>>>}>  $same  field, value, values by document
     * @param  array<int, array<string, list<string>>>  $usual
     * @return array<string, Proposal>
     */
    private function byValues(string $type, array $fields, array $same, array $usual, User $user): array
    {
        $proposals = [];
        foreach ($fields as $field) {
            if (! self::isShared($field)) {
                continue;
            }
            $best = null;
            foreach ($same as [$by, $value, $documents]) {
                $vote = $by->code === $field->code ? null : self::vote($documents, $field);
                if (
                    $vote !== null &&
                    count($vote->from) >= PlaceLearner::LEAST &&
                    $vote->share >= self::NEARLY_ALL &&
                    ! $vote->isChance(self::share($usual, $field, $vote)) &&
                    ($best === null || count($vote->from) > count($best[0]->from))
                ) {
                    $best = [$vote, "As others with {$by->label} {$by->display($value)} have it"];
                }
            }
            if ($best !== null) {
                [$vote, $says] = $best;
                $values = ProposedValue::all($vote->values);
                $proposals[$field->code] = $this->proposal($field, self::VALUE, "{$type}.{$field->code}", $says, $values, $vote->from, $user);
            }
        }

        return $proposals;
    }

    /**
     * What nearly all of some documents have.
     *
     * @param  array<string, FieldDefinition>  $fields
     * @param  array<int, array<string, list<string>>>  $documents
     * @return array<string, Proposal>
     */
    private function byForm(string $type, array $fields, array $documents, string $says, User $user): array
    {
        $proposals = [];
        foreach ($fields as $field) {
            $vote = self::isShared($field) ? self::vote($documents, $field) : null;
            if ($vote !== null && count($vote->from) >= self::FEW && $vote->share >= self::NEARLY_ALL) {
                $values = ProposedValue::all($vote->values);
                $proposals[$field->code] = $this->proposal($field, self::FORM, "{$type}.{$field->code}", $says, $values, $vote->from, $user);
            }
        }

        return $proposals;
    }

    /**
     * @param  list<array{FieldDefinition, string, array<int, array<string, list<string>>>}>  $same
     * @param  array<int, array<string, list<string>>>  $usual
     * @return ProposedAs<Dossier>|null
     */
    private function dossier(array $same, array $usual, User $user): ?ProposedAs
    {
        $ids = [...array_keys($usual), ...array_merge(...array_map(static fn (array $of): array => array_keys($of[2]), $same))];
        $dossiers = [];
        foreach (
            DB::table('document_dossier')
                ->join('dossiers', 'dossiers.id', '=', 'dossier_id')
                ->whereIntegerInRaw('document_id', $ids)
                ->whereIntegerInRaw('library_id', array_keys($user->libraryRights()))
                ->orderByDesc('dossier_id')
                ->get(['document_id', 'dossier_id']) as $row
        ) {
            $dossiers[(int) $row->document_id] = [(string) $row->dossier_id];
        }
        $best = null;
        foreach ($same as [, , $documents]) {
            // Those in no dossier speak against all.
            $vote = Vote::among(array_map(static fn (int $id): array => [1.0, $dossiers[$id] ?? [''], $id], array_keys($documents)));
            $isOften = static fn (int $id): bool => ($dossiers[$id] ?? null) === $vote?->values;
            if (
                $vote !== null &&
                $vote->values !== [''] &&
                $vote->share >= self::MOST &&
                count($vote->from) >= PlaceLearner::LEAST &&
                ! $vote->isChance(count(array_filter(array_keys($usual), $isOften)) / max(1, count($usual))) &&
                ($best === null || count($vote->from) > count($best->from))
            ) {
                $best = $vote;
            }
        }
        $dossier = $best === null ? null : Dossier::query()->find((int) $best->values[0]);

        return $best === null || $dossier === null
            ? null
            : new ProposedAs($dossier, $dossier->ref, $best->from, $this->record->of(self::FORM, ProposalRecord::DOSSIER, $user));
    }

    /**
     * The documents that have one of the same values.
     *
     * @param  array<string, list<string>>  $known  by field code
     * @param  array<string, FieldDefinition>  $fields
     * @return list<array{FieldDefinition, string, array<int, array<string, list<string>>>}>
     */
    private function withSame(array $known, array $fields, DocumentSet $among, int $but): array
    {
        $ids = $this->catalog->fieldIds();
        $same = [];
        foreach (array_intersect_key($known, $fields) as $code => $values) {
            $field = $fields[$code];
            if (count($values) !== 1 || ! self::isShared($field) || $field->kind->value === 'yes_no') {
                continue;
            }
            $found = DB::table('document_values')
                ->where('field_id', $ids[$code])
                ->where('value', $values[0])
                ->where('document_id', '!=', $but)
                // Those that were given last: as the index has them, without sorting all.
                ->orderByRaw('rowid DESC')
                ->limit(self::SAME * 4)
                ->pluck('document_id');
            $seen = self::seen($found->all(), $among, self::SAME);
            if (count($seen) >= PlaceLearner::LEAST) {
                $same[] = [$field, $values[0], OwnValues::of($seen)];
            }
        }

        return $same;
    }

    /** @return list<int> the latest documents of a type */
    private function latest(int $type, DocumentSet $among, int $but, int $most): array
    {
        $latest = DB::table('documents')
            ->where('document_type_id', $type)
            ->where('state', Document::FILED)
            ->where('id', '!=', $but)
            ->orderByDesc('id')
            ->limit($most * 2)
            ->pluck('id');

        return self::seen($latest->all(), $among, $most);
    }

    /**
     * @param  array<int|string>  $ids
     * @return list<int>
     */
    private static function seen(array $ids, DocumentSet $among, int $most): array
    {
        return array_slice(array_values(array_filter(array_map(intval(...), $ids), $among->has(...))), 0, $most);
    }

    /** Whether several documents have the same value of a field because they are of the same thing, and others may be told. */
    private static function isShared(FieldDefinition $field): bool
    {
        return ! Cover::hides($field) && in_array($field->kind->value, self::SHARED, true);
    }

    /** @param  array<int, array<string, list<string>>>  $documents */
    private static function vote(array $documents, FieldDefinition $field): ?Vote
    {
        $votes = [];
        foreach ($documents as $id => $values) {
            if (($values[$field->code] ?? []) !== []) {
                $votes[] = [1.0, $values[$field->code], $id];
            }
        }

        return Vote::among($votes);
    }

    /** @param  array<int, array<string, list<string>>>  $usual */
    private static function share(array $usual, FieldDefinition $field, Vote $vote): float
    {
        $has = array_filter($usual, static fn (array $of): bool => ($of[$field->code] ?? []) === $vote->values);

        return count($has) / max(1, count($usual));
    }

    /**
     * @param  non-empty-list<ProposedValue>  $values
     * @param  list<int>  $from
     */
    private function proposal(FieldDefinition $field, string $rule, string $stamp, string $by, array $values, array $from, User $user): Proposal
    {
        return new Proposal($field, $rule, $stamp, $by, $values, $from, $this->record->of($rule, $stamp, $user));
    }
}
