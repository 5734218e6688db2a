<?php

declare(strict_types=1);

namespace App\Design;

use App\Index\Names;
use App\Index\SqliteStore;
use App\Models\DesignChangeModel;
use App\Models\DesignVersion;
use App\Models\DocumentType;
use App\Models\Library;
use App\Models\User;
use App\Support\Refused;
use App\Support\StaleWrite;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignCheck;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\Effect;
use Brenvic\Core\Design\EffectCount;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Search\Searcher;
use Brenvic\Core\Search\SearchSchema;
use Illuminate\Support\Facades\DB;

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
            $drafted = $this->design()->with($kind, $code, $content);
            if ($content === null) {
                $users = (new DesignCheck($this->design(), $this->catalog->systemFields()))->usersOf($kind, $code);
                if ($users !== []) {
                    throw new Refused(ucfirst(implode(', ', $users)).(count($users) === 1 ? ' still uses it.' : ' still use it.'));
                }
            }
            (new DesignCheck($drafted, $this->catalog->systemFields()))->part($kind, $code);
            if (Design::same($this->published()->part($kind, $code), $content)) {
                DesignChangeModel::query()->where('kind', $kind->value)->where('code', $code)->delete();
            } else {
                $change = DesignChangeModel::query()->firstOrNew(['kind' => $kind->value, 'code' => $code], ['lock_version' => 0]);
                $change->fill(['content' => $content, 'lock_version' => $change->lock_version + 1, 'changed_by' => $by->id])->save();
            }
            $this->forget();
        });
    }

    /** Takes one change back, or all of them. */
    public function discard(?DesignKind $kind = null, string $code = ''): void
    {
        DB::transaction(function () use ($kind, $code): void {
            $query = DesignChangeModel::query();
            if ($kind !== null) {
                $query->where('kind', $kind->value)->where('code', $code);
            }
            $query->delete();
            $this->forget();
            $faults = (new DesignCheck($this->design(), $this->catalog->systemFields()))->faults();
            if ($faults !== []) {
                $this->forget();
                throw new Refused("{$faults[0]['message']} Take that change back first.");
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
        $effect = new Effect(
            $this->published(), $this->design(), new TableValues($libraries->map(static fn (Library $l): int => $l->id)->values()->all()),
            $this->finder($user, $this->published()), $this->finder($user, $this->design()),
        );

        return array_merge([], ...array_map($effect->of(...), $this->changes()));
    }

    /** @return \Closure(Node): DocumentSet */
    private function finder(User $user, Design $design): \Closure
    {
        $schema = $this->schema($design);
        $searcher = new Searcher(new IndexReader($this->store), $schema, new Names);

        return fn (Node $node): DocumentSet => $searcher->documents($this->catalog->asker($user), $node);
    }

    /** What can be searched with a design. */
    public function schema(Design $design): SearchSchema
    {
        return new SearchSchema([...array_values($this->catalog->systemFields()), ...array_values($design->fields())], calendar: $this->catalog->calendar());
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
            $effects = $this->counted($by);
            foreach ($effects as $effect) {
                if ($effect->kind->stops()) {
                    throw new Refused("{$effect->change->name()}: {$effect->documents} documents {$effect->what}. Change them first, or take this change back.");
                }
            }
            $this->guardHidden($changes);
            if (! DesignVersion::query()->exists()) {
                $this->record($this->published(), 'As it was before the first publication', [], null);
            }
            $locks = $this->locks();
            foreach ($changes as $change) {
                $this->tables->apply($change, $locks[$change->kind->value][$change->code] ?? 1, $by, $this->published(), $this->design());
            }
            $version = $this->record($this->design(), $note, $effects, $by);
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
            $isUsed = $change->after === null && match ($change->kind) {
                DesignKind::Type => DB::table('documents')->where('document_type_id', DocumentType::query()->where('code', $change->code)->value('id'))->exists(),
                DesignKind::Library => DB::table('documents')->where('library_id', Library::query()->where('code', $change->code)->value('id'))->exists(),
                DesignKind::Field => DB::table('document_values')->join('fields', 'fields.id', '=', 'field_id')->where('code', $change->code)->exists(),
                default => false,
            };
            if ($isUsed) {
                throw new Refused("“{$change->name()}” is in use and cannot be taken out.");
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
            'note' => $note, 'design' => $parts, 'published_by' => $by?->id, 'published_at' => now(),
            'effects' => array_map(static fn (EffectCount $e): array => ['kind' => $e->kind->value, 'part' => $e->change->name(), 'documents' => $e->documents, 'what' => $e->what], $effects),
        ]);
    }

    /** Makes the draft such that publishing it gives another whole design. */
    public function become(User $by, Design $design): void
    {
        $faults = (new DesignCheck($design, $this->catalog->systemFields()))->faults();
        if ($faults !== []) {
            throw new Refused("/{$faults[0]['kind']}/{$faults[0]['code']}/{$faults[0]['property']}: {$faults[0]['message']}");
        }
        DB::transaction(function () use ($by, $design): void {
            $this->forget();
            $before = DesignChangeModel::query()->get()->keyBy(static fn (DesignChangeModel $c): string => "{$c->kind}/{$c->code}");
            DesignChangeModel::query()->delete();
            foreach (DesignChange::between($this->published(), $design) as $change) {
                DesignChangeModel::query()->create([
                    'kind' => $change->kind->value, 'code' => $change->code, 'content' => $change->after, 'changed_by' => $by->id,
                    'lock_version' => 1 + ($before->get("{$change->kind->value}/{$change->code}")->lock_version ?? 0),
                ]);
            }
            $this->forget();
        });
    }

    private function forget(): void
    {
        $this->published = $this->drafted = null;
    }
}
