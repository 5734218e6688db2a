<?php

declare(strict_types=1);

namespace App\Design;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Catalog\DesignTables;
use App\Index\Names;
use App\Index\SqliteStore;
use App\Models\DesignChangeModel;
use App\Models\DesignVersion;
use App\Models\DocumentType;
use App\Models\Group;
use App\Models\Library;
use App\Models\User;
use App\Support\Column;
use App\Support\NotYours;
use App\Support\Refused;
use App\Support\StaleWrite;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignCheck;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\DesignMerge;
use Brenvic\Core\Design\DesignRight;
use Brenvic\Core\Design\Effect;
use Brenvic\Core\Design\EffectCount;
use Brenvic\Core\Design\FieldMerge;
use Brenvic\Core\Design\SystemFields;
use Brenvic\Core\Design\Terms;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Search\Searcher;
use Illuminate\Support\Facades\DB;
use Throwable;

/**
 * The draft of the design: what librarians changed and nobody else sees yet. It is one for all of them, kept as the parts
 * that differ from what is published.
 */
final class Draft
{
    private ?Design $published = null;

    private ?Design $drafted = null;

    public function __construct(
        private readonly DesignTables $tables,
        private readonly Catalog $catalog,
        private readonly SqliteStore $store,
        private readonly Rights $rights,
        private readonly Publication $publication,
        private readonly TriedRetention $kept,
    ) {
    }

    public function published(): Design
    {
        return $this->published ??= $this->tables->read();
    }

    /** The published design with the draft's changes. */
    public function design(): Design
    {
        if ($this->drafted === null) {
            $this->drafted = $this->published();
            foreach (DesignChangeModel::query()->orderBy('id')->get() as $change) {
                $this->drafted = $this->drafted->with(DesignKind::from($change->kind), $change->code, $change->content);
            }
        }

        return $this->drafted;
    }

    /** @return list<DesignChange> */
    public function changes(): array
    {
        return DesignChange::between($this->published(), $this->design());
    }

    public function check(?Design $design = null): DesignCheck
    {
        $design ??= $this->design();

        return new DesignCheck(
            $design,
            SystemFields::of($design),
            Column::texts(Group::query()->pluck('name')),
            Group::designing(),
        );
    }

    /**
     * Holds the design, as it is published and as it is drafted, against the people there are.
     *
     * @throws Refused when nobody would be left to design a part
     */
    public function guardDesigners(): void
    {
        foreach ([$this->published(), $this->design()] as $design) {
            foreach ($this->check($design)->faults() as $fault) {
                if ($fault['property'] === 'designers') {
                    $kind = DesignKind::from($fault['kind']);
                    $name = Design::nameOf($kind, $fault['code'], $design->part($kind, $fault['code']));
                    throw new Refused("This would leave nobody who may change the {$kind->one()} “{$name}”.");
                }
            }
        }
    }

    /** Which parts of the draft somebody may change. */
    public function right(User $user): DesignRight
    {
        return new DesignRight($this->design(), $user->groupNames());
    }

    /**
     * Holds changes against what somebody may design: the parts as they were, and what they would belong to. Whoever may
     * design a part may hand it over to others.
     *
     * @param  list<DesignChange>  $changes  from one design to the other
     *
     * @throws NotYours
     */
    private function guard(User $by, array $changes, Design $before, Design $after): void
    {
        foreach ($changes as $change) {
            if ($change->after !== null) {
                $after = $after->with($change->kind, $change->code, [
                    ...$change->after,
                    'designers' => Design::codes($change->before, 'designers'),
                ]);
            }
        }
        foreach ([new DesignRight($before, $by->groupNames()), new DesignRight($after, $by->groupNames())] as $right) {
            foreach ($changes as $change) {
                $keepers = $right->keepers($change->kind, $change->code);
                if ($keepers !== []) {
                    throw new NotYours(
                        "The {$change->kind->one()} “{$change->name()}” is not yours to design: ".
                            implode(', ', $keepers).
                            ' is kept to other groups.',
                    );
                }
            }
        }
    }

    /**
     * Versions for optimistic locking: that of the published part, and one more for each time the draft changed it.
     *
     * @return array<string, array<string, int>> kind => code => version
     */
    public function locks(): array
    {
        $locks = $this->tables->locks();
        foreach (DesignChangeModel::query()->get() as $change) {
            $locks[$change->kind][$change->code] = ($locks[$change->kind][$change->code] ?? 0) + $change->lock_version;
        }

        return $locks;
    }

    /**
     * Puts a part into the draft, or takes it out (null).
     *
     * @param  array<string, mixed>|null  $content
     * @param  int|null  $seen  the version it was changed from; null for a new part, or when that does not matter
     *
     * @throws StaleWrite|InvalidDefinition|Refused
     */
    public function put(User $by, DesignKind $kind, string $code, ?array $content, ?int $seen): void
    {
        DB::transaction(function () use ($by, $kind, $code, $content, $seen): void {
            $this->forget();
            $lock = $this->locks()[$kind->value][$code] ?? 0;
            if ($seen !== null && $seen !== $lock) {
                throw new StaleWrite(['code' => $code, 'lock_version' => $lock, ...$this->design()->part($kind, $code) ?? []]);
            }
            if ($kind === DesignKind::Vocabulary && ($content['numbering'] ?? 'given') === 'position') {
                $content['terms'] = (new Terms(Design::entries($content, 'terms')))->numbered();
            }
            $drafted = $this->design()->with($kind, $code, $content);
            $this->guard($by, DesignChange::between($this->design(), $drafted), $this->design(), $drafted);
            if ($content === null) {
                $users = $this->check()->usersOf($kind, $code);
                if ($users !== []) {
                    throw new Refused(ucfirst(implode(', ', $users)).(count($users) === 1 ? ' still uses it.' : ' still use it.'));
                }
            }
            $this->check($drafted)->part($kind, $code);
            $this->keep($by, $kind, $code, $content);
            $this->forget();
        });
    }

    /**
     * Puts several new parts into the draft, each after what it refers to: all of them or none.
     *
     * @param  list<array{DesignKind, string, array<string, mixed>}>  $parts
     *
     * @throws InvalidDefinition|Refused
     */
    public function putAll(User $by, array $parts): void
    {
        try {
            DB::transaction(function () use ($by, $parts): void {
                foreach ($parts as [$kind, $code, $content]) {
                    $this->put($by, $kind, $code, $content, null);
                }
            });
        } catch (Throwable $fault) {
            $this->forget();
            throw $fault;
        }
    }

    /**
     * Takes a field out and gives its place, and with publication its values, to another.
     *
     * @throws Refused|InvalidDefinition
     */
    public function mergeFields(User $by, string $from, string $into): void
    {
        DB::transaction(function () use ($by, $from, $into): void {
            $this->forget();
            $design = $before = $this->design();
            if ($from === $into || $design->part(DesignKind::Field, $from) === null || $design->part(DesignKind::Field, $into) === null) {
                throw new Refused('Choose two different fields.');
            }
            $changes = FieldMerge::changes($design, $this->check()->references(DesignKind::Field, $from), $from, $into);
            foreach ($changes as [$kind, $code, $content]) {
                $design = $design->with($kind, $code, $content);
                $this->keep($by, $kind, $code, $content);
            }
            $this->guard($by, DesignChange::between($before, $design), $before, $design);
            foreach ($this->check($design)->faults() as $fault) {
                throw new Refused("{$fault['message']} ({$fault['code']})");
            }
            $this->forget();
        });
    }

    /** @param  array<string, mixed>|null  $content */
    private function keep(User $by, DesignKind $kind, string $code, ?array $content): void
    {
        if (Design::same($this->published()->part($kind, $code), $content)) {
            DesignChangeModel::query()->where('kind', $kind->value)->where('code', $code)->delete();

            return;
        }
        $change = DesignChangeModel::query()->firstOrNew(['kind' => $kind->value, 'code' => $code], ['lock_version' => 0]);
        $change->fill(['content' => $content, 'lock_version' => $change->lock_version + 1, 'changed_by' => $by->id])->save();
    }

    /** Takes one change back, or all of them. */
    public function discard(User $by, ?DesignKind $kind = null, string $code = ''): void
    {
        DB::transaction(function () use ($by, $kind, $code): void {
            $this->forget();
            $this->guard(
                $by,
                array_values(
                    array_filter(
                        $this->changes(),
                        static fn (DesignChange $c): bool => $kind === null || ($c->kind === $kind && $c->code === $code),
                    ),
                ),
                $this->published(),
                $this->design(),
            );
            $query = DesignChangeModel::query();
            if ($kind !== null) {
                $query->where('kind', $kind->value)->where('code', $code);
            }
            $query->delete();
            $this->forget();
            $faults = $this->check()->faults();
            if ($faults !== []) {
                $this->forget();
                throw new Refused("{$faults[0]['message']} Undo that change first.");
            }
        });
    }

    /**
     * What publishing the draft would do to the documents this person may see.
     *
     * @return list<EffectCount>
     */
    public function effects(User $user): array
    {
        return $this->store->snapshot(fn (): array => $this->counted($user));
    }

    /** @return list<EffectCount> */
    private function counted(User $user): array
    {
        $libraries = $this->catalog->libraries()->only(array_keys($user->libraryRights()));
        $before = $this->finder($user, $this->published());
        $effect = new Effect(
            $this->published(),
            $this->design(),
            new TableValues(Column::numbers($libraries->pluck('id')), $this->returned()),
            $before,
            $this->finder($user, $this->design()),
            fn (Design $design): array => $this->sights($user, $design),
            $this->kept,
        );

        return array_merge([], ...array_map($effect->of(...), $this->changes()));
    }

    /** The values that the draft gives back, when it brings an older version back. */
    private function returned(): ?ReturnedValues
    {
        $version = DesignChangeModel::query()->whereNotNull('restores')->min('restores');

        return $version === null ? null : ReturnedValues::of((int) $version, $this->changes(), $this->published(), $this->design());
    }

    /** @return \Closure(Node): DocumentSet */
    private function finder(User $user, Design $design): \Closure
    {
        $searcher = new Searcher(new IndexReader($this->store), $this->catalog->fullSchema($design), new Names());

        return fn (Node $node): DocumentSet => $searcher->documents($this->rights->asker($user), $node);
    }

    /**
     * What people would see with a design, of what this person may see.
     *
     * @return array<string, DocumentSet> by the names of those who see the same
     */
    private function sights(User $user, Design $design): array
    {
        $searcher = new Searcher(new IndexReader($this->store), $this->catalog->fullSchema($design), new Names());
        $all = $searcher->sight($this->rights->askerIn($design, $user->groupNames()))->or($searcher->sight($this->rights->asker($user)));
        $sights = [];
        foreach (Rights::circles() as $names => $groups) {
            $sights[$names] = $searcher->sight($this->rights->askerIn($design, $groups))->and($all);
        }

        return $sights;
    }

    /** @throws Refused when an effect stops it */
    public function publish(User $by, string $note): DesignVersion
    {
        return DB::transaction(function () use ($by, $note): DesignVersion {
            $this->forget();
            $changes = $this->changes();
            if ($changes === []) {
                throw new Refused('Nothing in the draft differs from what is published.');
            }
            $this->guard($by, $changes, $this->published(), $this->design());
            $effects = $this->counted($by);
            foreach ($effects as $effect) {
                if ($effect->kind->stops()) {
                    throw new Refused(
                        "{$effect->change->name()}: {$effect->documents} documents {$effect->what}. Change them first, or undo this change.",
                    );
                }
            }
            $this->guardHidden($changes);
            if (! DesignVersion::query()->exists()) {
                $this->record($this->published(), 'As it was before the first publication', [], null);
            }
            $version = $this->record($this->design(), $note, $effects, $by);
            $publishing = new Publishing($version, $changes, $this->published(), $this->design(), $this->locks(), $this->returned());
            $this->publication->run($publishing, $by);
            DesignChangeModel::query()->delete();
            $this->forget();

            return $version;
        });
    }

    /**
     * Documents outside of the publisher's sight must not be left without their type or library either. Whoever may not
     * see them learns only that it cannot be done.
     *
     * @param  list<DesignChange>  $changes
     */
    private function guardHidden(array $changes): void
    {
        foreach ($changes as $change) {
            $isUsed =
                $change->after === null &&
                match ($change->kind) {
                    DesignKind::Type => DB::table('documents')
                        ->where('document_type_id', DocumentType::query()->where('code', $change->code)->value('id'))
                        ->exists(),
                    DesignKind::Library => DB::table('documents')
                        ->where('library_id', Library::query()->where('code', $change->code)->value('id'))
                        ->exists(),
                    DesignKind::DossierKind => DB::table('dossiers')->where('kind', $change->code)->exists(),
                    default => false,
                };
            if ($isUsed) {
                throw new Refused("“{$change->name()}” is in use and cannot be removed.");
            }
        }
    }

    /** @param  list<EffectCount>  $effects */
    private function record(Design $design, string $note, array $effects, ?User $by): DesignVersion
    {
        $parts = [];
        foreach (DesignKind::cases() as $kind) {
            $parts[$kind->value] = $design->all($kind);
        }

        return DesignVersion::query()->create([
            'note' => $note,
            'design' => $parts,
            'published_by' => $by?->id,
            'published_at' => now(),
            'effects' => array_map(
                static fn (EffectCount $e): array => [
                    'kind' => $e->kind->value,
                    'part' => $e->change->name(),
                    'documents' => $e->documents,
                    'what' => $e->what,
                ],
                $effects,
            ),
        ]);
    }

    /**
     * Makes the draft such that publishing it gives another whole design.
     *
     * @param  int|null  $restores  the published version that is to be brought back, values and all
     */
    public function become(User $by, Design $design, ?int $restores = null): void
    {
        $faults = $this->check($design)->faults();
        if ($faults !== []) {
            throw new Refused("/{$faults[0]['kind']}/{$faults[0]['code']}/{$faults[0]['property']}: {$faults[0]['message']}");
        }
        DB::transaction(function () use ($by, $design, $restores): void {
            $this->forget();
            $this->guard($by, DesignChange::between($this->design(), $design), $this->design(), $design);
            $before = DesignChangeModel::query()->get()->keyBy(static fn (DesignChangeModel $c): string => "{$c->kind}/{$c->code}");
            DesignChangeModel::query()->delete();
            foreach (DesignChange::between($this->published(), $design) as $change) {
                DesignChangeModel::query()->create([
                    'kind' => $change->kind->value,
                    'code' => $change->code,
                    'content' => $change->after,
                    'changed_by' => $by->id,
                    'restores' => $restores,
                    'lock_version' => 1 + ($before->get("{$change->kind->value}/{$change->code}")->lock_version ?? 0),
                ]);
            }
            $this->forget();
        });
    }

    /**
     * Takes what another design changed since a version into the draft, beside what is there.
     *
     * @throws Refused naming the parts that both changed, each in its own way
     */
    public function mergeIn(User $by, Design $theirs, ?int $version): void
    {
        $base = $version === null ? null : DesignVersion::query()->find($version);
        $common = $base === null ? new Design() : new Design($base->design);
        ['design' => $merged, 'collisions' => $changes] = DesignMerge::of($common, $this->design(), $theirs);
        $collisions = array_map(static fn (DesignChange $change): string => "the {$change->kind->one()} “{$change->name()}”", $changes);
        if ($collisions !== []) {
            throw new Refused(
                'The two designs collide in '.
                    implode(', ', array_slice($collisions, 0, 8)).
                    (count($collisions) > 8 ? ' and '.(count($collisions) - 8).' more' : '').
                    '. Nothing was taken in.',
            );
        }
        $this->become($by, $merged);
    }

    private function forget(): void
    {
        $this->published = $this->drafted = null;
    }
}
