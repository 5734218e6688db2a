<?php

declare(strict_types=1);

namespace App\Reading;

use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Models\Dossier;
use App\Models\User;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Learning\PlaceLearner;
use Brenvic\Core\Learning\Vote;
use Illuminate\Support\Facades\DB;

/**
 * What documents that have one of the same values have besides: of one structure the waterway is one, of one contractor the contact. Only
 * what is more than what is usual counts. Sensitive values are never told by others.
 * Values are normal forms by document and field code.
 *
 * @phpstan-type Values array<int, array<string, list<string>>>
 */
final readonly class SharedValues
{
    /** Documents with the same value that are looked at. */
    private const MOST = 60;

    /** Of the votes for a dossier this share must be for one. */
    private const FOR_DOSSIER = 0.75;

    /** Of those for a value. */
    private const NEARLY_ALL = 0.95;

    /** Fewer say nothing of all. */
    private const FEW = 5;

    /** Kinds of which several documents have the same value because they are of the same thing. */
    private const SHARED = ['identifier', 'text', 'person', 'choice', 'reference', 'yes_no'];

    public function __construct(private Catalog $catalog, private ProposalRecord $record)
    {
    }

    /**
     * The documents that have one of the same values.
     *
     * @param  array<string, list<string>>  $known  by field code
     * @param  array<string, FieldDefinition>  $fields
     * @return list<array{FieldDefinition, string, Values}> field, value, and what documents have that have it
     */
    public function with(array $known, array $fields, Learnable $learnable): array
    {
        $ids = $this->catalog->fieldIds();
        $same = [];
        foreach (array_intersect_key($known, $fields) as $code => $values) {
            if (count($values) !== 1 || ! self::isShared($fields[$code]) || $fields[$code]->kind->value === 'yes_no') {
                continue;
            }
            $found = DB::table('document_values')
                ->where('field_id', $ids[$code])
                ->where('value', $values[0])
                // Those that were given last: as the index has them, without sorting all.
                ->orderByRaw('rowid DESC')
                ->limit(self::MOST * 4)
                ->pluck('document_id');
            $others = $learnable->among($found, self::MOST);
            if (count($others) >= PlaceLearner::LEAST) {
                $same[] = [$fields[$code], $values[0], OwnValues::of($others)];
            }
        }

        return $same;
    }

    /**
     * What nearly all of them have in a field.
     *
     * @param  list<array{FieldDefinition, string, Values}>  $same
     * @param  Values  $usual
     * @return array{Vote, FieldDefinition, string}|null the vote, and the field and the value by which it is
     */
    public static function told(FieldDefinition $field, array $same, array $usual): ?array
    {
        $best = null;
        foreach (self::isShared($field) ? $same : [] as [$by, $value, $documents]) {
            $vote = $by->code === $field->code ? null : self::vote($documents, $field);
            if (
                $vote !== null &&
                count($vote->from) >= PlaceLearner::LEAST &&
                $vote->share >= self::NEARLY_ALL &&
                ! $vote->isChance(self::share($usual, $field, $vote)) &&
                ($best === null || count($vote->from) > count($best[0]->from))
            ) {
                $best = [$vote, $by, $value];
            }
        }

        return $best;
    }

    /**
     * What nearly all of some documents have in a field.
     *
     * @param  Values  $documents
     */
    public static function common(FieldDefinition $field, array $documents): ?Vote
    {
        $vote = self::isShared($field) ? self::vote($documents, $field) : null;

        return $vote !== null && count($vote->from) >= self::FEW && $vote->share >= self::NEARLY_ALL ? $vote : null;
    }

    /**
     * The dossier in which documents are that have one of the same values.
     *
     * @param  list<array{FieldDefinition, string, Values}>  $same
     * @param  Values  $usual
     * @return ProposedAs<Dossier>|null
     */
    public function dossier(array $same, array $usual, User $user): ?ProposedAs
    {
        $documents = [array_keys($usual), ...array_map(static fn (array $of): array => array_keys($of[2]), $same)];
        $dossiers = self::dossiersOf(array_values(array_unique(array_merge(...$documents))), $user);
        $best = null;
        foreach (array_slice($documents, 1) as $ids) {
            // Those in no dossier speak against all.
            $vote = Vote::among(array_map(static fn (int $id): array => [1.0, [(string) ($dossiers[$id] ?? '')], $id], $ids));
            if ($vote === null || $vote->values === [''] || $vote->share < self::FOR_DOSSIER || count($vote->from) < PlaceLearner::LEAST) {
                continue;
            }
            $often = count(array_keys(array_intersect_key($dossiers, $usual), (int) $vote->values[0], true)) / max(1, count($usual));
            if (! $vote->isChance($often) && ($best === null || count($vote->from) > count($best->from))) {
                $best = $vote;
            }
        }
        $dossier = $best === null ? null : Dossier::query()->find((int) $best->values[0]);

        return $best === null || $dossier === null
            ? null
            : new ProposedAs($dossier, $dossier->ref, $best->from, $this->record->of(Proposals::FORM, ProposalRecord::DOSSIER, $user));
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, int> the first dossier that a person knows of, by document
     */
    private static function dossiersOf(array $documents, User $user): array
    {
        $dossiers = DB::table('document_dossier')
            ->join('dossiers', 'dossiers.id', '=', 'dossier_id')
            ->whereIntegerInRaw('document_id', $documents)
            ->whereIntegerInRaw('library_id', array_keys($user->libraryRights()))
            ->orderByDesc('dossier_id')
            ->pluck('dossier_id', 'document_id');

        return array_map(intval(...), $dossiers->all());
    }

    private static function isShared(FieldDefinition $field): bool
    {
        return ! Cover::hides($field) && in_array($field->kind->value, self::SHARED, true);
    }

    /** @param  Values  $documents */
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

    /** @param  Values  $usual */
    private static function share(array $usual, FieldDefinition $field, Vote $vote): float
    {
        $has = array_filter($usual, static fn (array $of): bool => ($of[$field->code] ?? []) === $vote->values);

        return count($has) / max(1, count($usual));
    }
}
