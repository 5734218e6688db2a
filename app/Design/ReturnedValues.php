<?php

declare(strict_types=1);

namespace App\Design;

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\Restoration;
use Brenvic\Core\Design\ValueChange;
use Generator;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use stdClass;

/** The values that bringing a version of the design back gives back: what the later ones did to them, undone. */
final readonly class ReturnedValues
{
    private const CHUNK = 500;

    /**
     * @param  int  $version  the one brought back
     * @param  list<string>  $fields  codes of those that the publication changes; others stay as they are
     */
    private function __construct(private int $version, private array $fields)
    {
    }

    /** @param  list<DesignChange>  $changes  what bringing it back changes */
    public static function of(int $version, array $changes, Design $old, Design $new): self
    {
        $fields = [];
        foreach ($changes as $change) {
            if ($change->kind === DesignKind::Field) {
                $fields[$change->code] = true;
            }
            if ($change->kind !== DesignKind::Vocabulary) {
                continue;
            }
            foreach ([$old, $new] as $design) {
                $using = array_filter(
                    $design->all(DesignKind::Field),
                    static fn (array $field): bool => ($field['vocabulary'] ?? null) === $change->code,
                );
                $fields += array_fill_keys(array_keys($using), true);
            }
        }

        return new self($version, array_map(strval(...), array_keys($fields)));
    }

    /**
     * @param  string  $owner  document_id or dossier_id
     * @param  int|null  $before  only what versions before this one did
     * @return Generator<int, array{array<string, array<int, string>>, Restoration}> id => its values as they are, and as they would be
     */
    public function each(string $owner, ?int $before = null): Generator
    {
        $reached = 0;
        while (true) {
            $ids = $this->changes($before)->where($owner, '>', $reached)->orderBy($owner)->distinct()->limit(self::CHUNK)->pluck($owner);
            if ($ids->isEmpty()) {
                return;
            }
            $changes = $this->changes($before)->whereIntegerInRaw($owner, $ids)->orderByDesc('id')->get()->groupBy($owner);
            $cells = $this->cells($owner, $ids);
            foreach ($ids as $id) {
                $restored = Restoration::of($cells[$id] ?? [], ($changes[$id] ?? collect())->map(self::change(...)));
                if ($restored->steps !== []) {
                    yield (int) $id => [$cells[$id] ?? [], $restored];
                }
            }
            $reached = $ids->last();
        }
    }

    private function changes(?int $before): Builder
    {
        return DB::table('value_changes')
            ->where('design_version_id', '>', $this->version)
            ->when($before !== null, static fn (Builder $q) => $q->where('design_version_id', '<', $before))
            ->where(fn (Builder $q) => $q->whereIn('field', $this->fields)->orWhereIn('new_field', $this->fields));
    }

    private static function change(stdClass $row): ValueChange
    {
        $position = static fn (mixed $value): ?int => $value === null ? null : (int) $value;

        return new ValueChange(
            $row->field,
            $position($row->position),
            $row->value,
            $row->new_field,
            $position($row->new_position),
            $row->new_value,
        );
    }

    /**
     * @param  Collection<int, mixed>  $ids
     * @return array<int, array<string, array<int, string>>> id => field => position => value
     */
    private function cells(string $owner, Collection $ids): array
    {
        $cells = [];
        $table = ValueChanges::TABLES[$owner];
        foreach (
            DB::table("{$table} as v")
                ->join('fields as f', 'f.id', '=', 'v.field_id')
                ->whereIntegerInRaw($owner, $ids)
                ->get([$owner, 'f.code', 'v.position', 'v.value']) as $row
        ) {
            $cells[$row->{$owner}][$row->code][(int) $row->position] = (string) $row->value;
        }

        return $cells;
    }
}
