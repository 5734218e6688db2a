<?php

declare(strict_types=1);

namespace App\Design;

use App\Catalog\Catalog;
use App\Catalog\DesignTables;
use App\Index\Names;
use App\Index\SqliteStore;
use App\Models\DesignVersion;
use App\Models\DocumentType;
use App\Models\Field;
use App\Models\Library;
use App\Models\Reindexing;
use App\Models\User;
use App\Support\Column;
use App\Support\Refused;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\TermMove;
use Brenvic\Core\Design\Touched;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Searcher;
use Illuminate\Support\Facades\DB;

/** Puts a checked draft into effect: its parts, the values documents have, and the work on the index that is left to do. */
final readonly class Publication
{
    public function __construct(private DesignTables $tables, private Catalog $catalog, private SqliteStore $store)
    {
    }

    /**
     * The caller holds the transaction.
     *
     * @throws Refused when a field that is taken out is still in use
     */
    public function run(Publishing $publishing, User $by): void
    {
        [$changes, $old, $new] = [$publishing->changes, $publishing->old, $publishing->new];
        // What moves is found with the design as it was, before anything changes.
        $moves = $this->moves($changes, $old, $new);
        $put = fn (bool $gone) => array_map(
            fn (DesignChange $c) => ($c->after === null) === $gone
                ? $this->tables->apply($c, $publishing->locks[$c->kind->value][$c->code] ?? 1, $by)
                : null,
            $changes,
        );
        $put(false);
        $values = new ValueChanges($publishing->version->id);
        if ($publishing->returned !== null) {
            $values->restore($publishing->returned);
        }
        foreach ($changes as $change) {
            if ($change->kind === DesignKind::Field) {
                $this->fieldValues($values, $change, $old, $new);
            }
        }
        foreach ($moves as [$field, $move, $set]) {
            $values->replace($field, $move->from, $move->to, $set);
        }
        $this->guardUsed($changes);
        $put(true);
        $this->reindex($publishing->version, $changes, $new);
        event(new DesignPublished($changes));
    }

    /**
     * Whoever publishes may not see all documents; the others must not lose their values either.
     *
     * @param  list<DesignChange>  $changes
     */
    private function guardUsed(array $changes): void
    {
        foreach ($changes as $change) {
            if ($change->kind === DesignKind::Field && $change->after === null && self::isUsed($change->code)) {
                throw new Refused("“{$change->name()}” is in use and cannot be removed.");
            }
        }
    }

    private static function isUsed(string $field): bool
    {
        return DB::table('effective_values')->join('fields', 'fields.id', '=', 'field_id')->where('code', $field)->exists();
    }

    private function fieldValues(ValueChanges $values, DesignChange $change, Design $old, Design $new): void
    {
        $was = $old->field($change->code);
        $is = $new->field($change->code);
        if ($was !== null && $is !== null && $was->kind->value !== $is->kind->value) {
            $values->convert($was, $is);
        }
        if ($is === null) {
            return;
        }
        foreach ($is->formerly as $former) {
            $merged = $old->field($former);
            if ($merged !== null && $new->field($former) === null) {
                $values->merge($merged, $is);
            }
        }
    }

    /**
     * @param  list<DesignChange>  $changes
     * @return list<array{string, TermMove, DocumentSet|null}> field, move, and the documents when not all
     */
    private function moves(array $changes, Design $old, Design $new): array
    {
        $moves = [];
        foreach ($changes as $change) {
            foreach ($change->kind === DesignKind::Vocabulary ? TermMove::between($change->before, $change->after) : [] as $move) {
                foreach ($old->fields() as $field) {
                    if ($field->vocabulary?->code === $change->code && $new->field($field->code) !== null) {
                        $moves[] = [$field->code, $move, $move->criterion === '' ? null : $this->all($old, $move, $field->code)];
                    }
                }
            }
        }

        return $moves;
    }

    /** The documents that a move takes, whoever may see them. */
    private function all(Design $old, TermMove $move, string $field): DocumentSet
    {
        $searcher = new Searcher(new IndexReader($this->store), $this->catalog->fullSchema($old), new Names());

        return $searcher->documents(new Asker(Column::texts($this->catalog->libraries()->pluck('code'))), $move->node($field));
    }

    /** @param  list<DesignChange>  $changes */
    private function reindex(DesignVersion $version, array $changes, Design $new): void
    {
        $touched = Touched::by($changes, $new);
        $work = new Reindexing([
            'only_retention' => Touched::isOnlyRetention($changes),
            'name' => $version->note === '' ? "Version {$version->id}" : $version->note,
            'fields' => Field::query()->whereIn('code', $touched->fields)->pluck('id')->all(),
            'types' => DocumentType::query()->whereIn('code', $touched->types)->pluck('id')->all(),
            'dossier_kinds' => $touched->dossierKinds,
            'libraries' => Library::query()->whereIn('code', $touched->libraries)->pluck('id')->all(),
            'total' => 0,
        ]);
        $work->total = Reindex::documents($work)->count();
        if ($work->total > 0) {
            $work->save();
            Reindex::begin($work->id);
        }
    }
}
