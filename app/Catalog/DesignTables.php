<?php

declare(strict_types=1);

namespace App\Catalog;

use App\Models\DocumentType;
use App\Models\Field;
use App\Models\Group;
use App\Models\Library;
use App\Models\Repository;
use App\Models\User;
use App\Support\SharedMemory;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\DossierKindPart;
use Brenvic\Core\Design\LibraryPart;
use Illuminate\Support\Facades\DB;

/** The published design: read as one, and changed part by part. */
final readonly class DesignTables
{
    public function read(): Design
    {
        return new Design(SharedMemory::kept('design', $this->stamp(...), self::parts(...)));
    }

    /** @return array<string, array<string, array<string, mixed>>> kind => code => content */
    private static function parts(): array
    {
        $parts = [];
        foreach (DesignKind::cases() as $kind) {
            $parts[$kind->value] = [];
        }
        foreach (DB::table('design_parts')->orderBy('position')->orderBy('code')->get() as $part) {
            $parts[(string) $part->kind][(string) $part->code] = json_decode((string) $part->content, true, 64, JSON_THROW_ON_ERROR);
        }

        return $parts;
    }

    /** Changes whenever the published design does. */
    public function stamp(): string
    {
        $row = DB::selectOne(
            'SELECT count(*) AS parts, coalesce(sum(lock_version), 0) AS locks, (SELECT max(id) FROM design_versions) AS version FROM design_parts',
        );

        return "{$row->parts}/{$row->locks}/{$row->version}";
    }

    /** @return array<string, array<string, int>> kind => code => version for optimistic locking */
    public function locks(): array
    {
        $locks = [];
        foreach (DB::table('design_parts')->get(['kind', 'code', 'lock_version']) as $part) {
            $locks[(string) $part->kind][(string) $part->code] = (int) $part->lock_version;
        }

        return $locks;
    }

    /** Makes a design the published one, on an empty installation. */
    public function install(Design $design): void
    {
        foreach (DesignChange::between(new Design(), $design) as $change) {
            $this->apply($change, 1);
        }
    }

    /** Puts one change into effect. The caller has checked it, and holds the transaction. */
    public function apply(DesignChange $change, int $lock, ?User $by = null): void
    {
        $of = ['kind' => $change->kind->value, 'code' => $change->code];
        if ($change->after === null) {
            DB::table('design_parts')->where($of)->delete();
            $this->remove($change);

            return;
        }
        $content = $change->after;
        if ($change->kind === DesignKind::Library && $change->before === null && ($content['groups'] ?? []) === [] && $by !== null) {
            // Nobody sees a new library but the groups of whoever made it.
            $content['groups'] = $by
                ->groups()
                ->orderBy('name')
                ->pluck('name')
                ->map(static fn (string $name): array => ['group' => $name, 'change' => true])
                ->all();
        }
        $position =
            DB::table('design_parts')->where($of)->value('position') ??
            1 + (int) DB::table('design_parts')->where('kind', $change->kind->value)->max('position');
        DB::table('design_parts')->updateOrInsert($of, [
            'content' => json_encode($content, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR),
            'position' => $position,
            'lock_version' => $lock,
        ]);
        $named = ['code' => $change->code];
        match ($change->kind) {
            DesignKind::Repository => Repository::query()->updateOrCreate($named, ['name' => $content['name'], 'position' => $position]),
            DesignKind::Field => Field::query()->firstOrCreate($named),
            DesignKind::Type => DocumentType::query()->updateOrCreate($named, ['name' => $content['name']]),
            DesignKind::Library => $this->library($change->code, $content, (int) $position),
            DesignKind::DossierKind => $this->handedDown($change->code, $content),
            default => null,
        };
    }

    private function remove(DesignChange $change): void
    {
        match ($change->kind) {
            DesignKind::Repository => Repository::query()->where('code', $change->code)->delete(),
            DesignKind::Field => Field::query()->where('code', $change->code)->delete(),
            DesignKind::Type => DocumentType::query()->where('code', $change->code)->delete(),
            DesignKind::Library => Library::query()->where('code', $change->code)->delete(),
            DesignKind::DossierKind => DB::table('handed_down')->where('kind', $change->code)->delete(),
            default => null,
        };
    }

    /** @param  array<string, mixed>  $content */
    private function library(string $code, array $content, int $position): void
    {
        $part = LibraryPart::of($code, $content);
        $library = Library::query()->updateOrCreate(
            ['code' => $code],
            [
                'name' => $part->name,
                'note' => $part->note,
                'position' => $position,
                'repository_id' => Repository::query()->where('code', $part->repository)->value('id'),
            ],
        );
        $ids = Group::query()->pluck('id', 'name');
        DB::table('group_library')->where('library_id', $library->id)->delete();
        foreach ($part->members as $group => $mayChange) {
            if (isset($ids[$group])) {
                DB::table('group_library')->insertOrIgnore([
                    'library_id' => $library->id,
                    'group_id' => $ids[$group],
                    'may_change' => $mayChange,
                ]);
            }
        }
    }

    /** @param  array<string, mixed>  $content */
    private function handedDown(string $code, array $content): void
    {
        DB::table('handed_down')->where('kind', $code)->delete();
        $ids = Field::query()->pluck('id', 'code');
        foreach (DossierKindPart::of($code, $content)->fields as $field) {
            if ($field->isHandedDown && isset($ids[$field->code])) {
                DB::table('handed_down')->insert(['kind' => $code, 'field_id' => $ids[$field->code]]);
            }
        }
    }
}
