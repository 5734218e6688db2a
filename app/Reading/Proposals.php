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
use Brenvic\Core\Design\ReadingPart;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Learning\Example;
use Brenvic\Core\Learning\PlaceLearner;
use Brenvic\Core\Reading\Found;
use Brenvic\Core\Reading\Reader;

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

    /** Documents of its type that tell what is usual. */
    private const USUAL = 200;

    /** How much better an example is that is of the same type. */
    private const OWN_TYPE = 1.3;

    public function __construct(
        private Catalog $catalog,
        private ProposalRecord $record,
        private Rights $rights,
        private Redactions $redactions,
        private TypeByForm $types,
        private SharedValues $shared,
    ) {
    }

    /** @param  DocumentSet|null  $among  what may be learned from; all that the person sees whole if null */
    public function of(Document $document, User $user, ?string $type, ?DocumentSet $among = null): ProposedSheet
    {
        $among ??= $this->rights->sight($user)->minus(DocumentSet::of($this->redactions->bound($user)));
        $learnable = new Learnable($among, $document);
        $sharers = Layouts::sharers($document, $among);
        $proposedType = $this->types->of($document, $user, $learnable, $sharers);
        $type ??= $proposedType?->of->code;
        $pages = PageStore::of([$document->id], self::PAGES)[$document->id] ?? [];
        $fields = $this->fieldsOf($type, $user);
        $proposals = $this->byRules($type, $fields, $pages, $user);
        $dossier = null;
        if ($type !== null) {
            $own = OwnValues::of([$document->id])[$document->id] ?? [];
            [$learned, $dossier] = $this->learned($type, $fields, $pages, $sharers, $learnable, $own, $proposals, $user);
            $proposals += $learned;
        }
        $sheet = new ProposedSheet($proposedType, $dossier, array_values($proposals));
        if ($document->state === Document::WAITING) {
            ProposalRecord::offer($document->id, $sheet);
        }

        return $sheet;
    }

    /**
     * What is learned for the sheet of a type.
     *
     * @param  array<string, FieldDefinition>  $fields  those of the sheet
     * @param  array<int, TextPage>  $pages
     * @param  list<array{float, list<int>}>  $sharers  who has the marks of its form
     * @param  array<string, list<string>>  $own  what is on its sheet already
     * @param  array<string, Proposal>  $byRules
     * @return array{array<string, Proposal>, ProposedAs<Dossier>|null}
     */
    private function learned(
        string $type,
        array $fields,
        array $pages,
        array $sharers,
        Learnable $learnable,
        array $own,
        array $byRules,
        User $user,
    ): array {
        $typed = $this->catalog->types()->firstWhere('code', $type);
        $alike = Layouts::alike($sharers, self::ALIKE);
        $ofType = array_keys(TypeByForm::typesOf(array_keys($alike)), (int) $typed?->id, true);
        $latest = $learnable->latest((int) $typed?->id, self::USUAL);
        $left = array_diff_key($fields, $byRules);
        $proposals = $this->byPlace($type, $left, $pages, self::examples($alike, $ofType, $latest), $user);
        $known = array_map(static fn (Proposal $of): array => $of->normals(), [...$byRules, ...$proposals]);
        $same = $this->shared->with($own + $known, $fields, $learnable);
        $usual = OwnValues::of($latest);
        $alike = OwnValues::of($ofType);
        $named = mb_strtolower($typed->name ?? '');
        foreach (array_diff_key($left, $proposals, $own) as $code => $field) {
            $told = SharedValues::told($field, $same, $usual);
            $common = $told === null ? SharedValues::common($field, $alike) : null;
            $vote = $told[0] ?? $common ?? SharedValues::common($field, $usual);
            if ($vote !== null) {
                $says = match (true) {
                    $told !== null => "As others with {$told[1]->label} {$told[1]->display($told[2])} have it",
                    $common !== null => 'As papers of this form have it',
                    default => "As nearly every {$named} has it",
                };
                $rule = $told === null ? self::FORM : self::VALUE;
                $proposals[$code] = $this->proposal($field, $rule, "{$type}.{$code}", $says, ProposedValue::all($vote->values), $vote->from, $user);
            }
        }

        return [$proposals, $this->shared->dossier($same, $usual, $user)];
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
            $found = Reader::proposed($part->rule($design), $field, $pages);
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
        $beginnings = Example::beginnings($pages);
        $proposals = [];
        foreach ($fields as $field) {
            $learned = $learner->learn($field);
            $found = $learned?->found($field, $beginnings);
            if ($learned !== null && $found !== null) {
                $by = $learned->beside === '' ? 'Its place on papers of this form' : "Beside “{$learned->beside}” on papers of this form";
                $values = [ProposedValue::at($found, $pages)];
                $proposals[$field->code] = $this->proposal($field, self::PLACE, "{$type}.{$field->code}", $by, $values, $learned->from, $user);
            }
        }

        return $proposals;
    }

    /**
     * @param  non-empty-list<ProposedValue>  $values
     * @param  list<int>  $from
     */
    private function proposal(
        FieldDefinition $field,
        string $rule,
        string $stamp,
        string $by,
        array $values,
        array $from,
        User $user,
    ): Proposal {
        return new Proposal($field, $rule, $stamp, $by, $values, $from, $this->record->of($rule, $stamp, $user));
    }
}
