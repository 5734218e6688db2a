<?php

declare(strict_types=1);

namespace App\Intake;

use App\Access\Change;
use App\Access\Changing;
use App\Access\Hindrance;
use App\Access\Rights;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Models\Document;
use App\Models\User;
use App\Models\ValueAct;
use App\Support\Refused;
use Brenvic\Core\Design\IndexSheet;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Support\Facades\DB;

/** Changes one field of many documents as one act: planned and shown first, done in pieces, taken back as a whole. */
final readonly class ManyValues
{
    /** Documents an act takes at most. */
    public const MOST = 10_000;

    private const CHUNK = 500;

    private const PIECE = 100;

    public function __construct(
        private Catalog $catalog,
        private Indexer $indexer,
        private Filing $filing,
        private References $references,
        private Rights $rights,
        private Changing $changing,
    ) {
    }

    /**
     * What an act would do.
     *
     * @param  list<int>  $ids  of filed documents, those the person may see
     * @param  'set'|'add'|'take'|'clear'  $how
     * @param  list<string>  $texts  as typed
     * @return array{given: list<string>, changes: array<int, array{before: list<string>, after: list<string>}>, same: int, refused: array<string, list<int>>} changes by document, refused documents by reason
     *
     * @throws InvalidSheet|Refused
     */
    public function plan(User $user, array $ids, FieldDefinition $field, string $how, array $texts): array
    {
        if (count($ids) > self::MOST) {
            throw new Refused(
                'At most 10 000 documents can be changed at once; these are '.number_format(count($ids), 0, '', ' ').'. Narrow the search.',
            );
        }
        $given = $how === 'clear' ? [] : $this->given($user, $field, $how, $texts);
        $changes = $refused = [];
        $same = 0;
        $hindrances = $this->changing->hindrances($user, $ids, Change::Values);
        $dependent = array_keys(
            array_filter($this->catalog->fields(), static fn (FieldDefinition $f): bool => $f->vocabulary?->dependsOn === $field->code),
        );
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            $documents = Document::query()
                ->whereIntegerInRaw('id', $chunk)
                ->get(['id', 'library_id', 'document_type_id'])
                ->keyBy('id');
            $present = OwnValues::of($chunk);
            foreach ($chunk as $id) {
                $document = $documents[$id] ?? null;
                if ($document === null) {
                    continue;
                }
                $values = $present[$id] ?? [];
                $before = $values[$field->code] ?? [];
                $after = self::after($how, $before, $given);
                $why = match (true) {
                    isset($hindrances[$id]) => $hindrances[$id]->words,
                    $after === $before => null,
                    default => $this->fault($document, $field, $values, $after, $dependent),
                };
                if ($why !== null) {
                    $refused[$why][] = $id;
                } elseif ($after === $before) {
                    $same++;
                } else {
                    $changes[$id] = ['before' => $before, 'after' => $after];
                }
            }
        }

        return ['given' => $given, 'changes' => $changes, 'same' => $same, 'refused' => $refused];
    }

    /**
     * Writes down what was planned; the work itself is done by step().
     *
     * @param  list<string>  $given
     * @param  array<int, array{before: list<string>, after: list<string>}>  $changes
     */
    public function begin(User $user, FieldDefinition $field, string $how, array $given, array $changes): ValueAct
    {
        return DB::transaction(static function () use ($user, $field, $how, $given, $changes): ValueAct {
            $act = ValueAct::query()->create([
                'user_id' => $user->id,
                'field' => $field->code,
                'how' => $how,
                'given' => $given,
                'total' => count($changes),
            ]);
            foreach (array_chunk($changes, self::CHUNK, true) as $chunk) {
                $rows = [];
                foreach ($chunk as $id => $change) {
                    $rows[] = [
                        'value_act_id' => $act->id,
                        'document_id' => $id,
                        'before' => json_encode($change['before'], JSON_UNESCAPED_UNICODE),
                        'after' => json_encode($change['after'], JSON_UNESCAPED_UNICODE),
                    ];
                }
                DB::table('value_act_items')->insert($rows);
            }

            return $act;
        });
    }

    /**
     * Does a piece of the work. A document whose values are no longer as they were is left alone.
     *
     * @return bool whether there may be more to do
     */
    public function step(ValueAct $act): bool
    {
        return DB::transaction(function () use ($act): bool {
            $act->refresh();
            $undoing = $act->state === ValueAct::UNDOING;
            if (! $undoing && $act->state !== ValueAct::RUNNING) {
                return false;
            }
            $items = DB::table('value_act_items')
                ->where('value_act_id', $act->id)
                ->where('outcome', $undoing ? 'done' : 'waiting')
                ->orderBy('document_id')
                ->limit(self::PIECE)
                ->get();
            if ($items->isEmpty()) {
                $act->update(['state' => $undoing ? ValueAct::UNDONE : ValueAct::DONE]);

                return false;
            }
            $plan = [];
            foreach ($items as $item) {
                $change = [json_decode((string) $item->before, true), json_decode((string) $item->after, true)];
                $plan[(int) $item->document_id] = $undoing ? array_reverse($change) : $change;
            }
            $user = User::query()->findOrFail($act->user_id);
            $hindrances = $this->changing->hindrances($user, array_keys($plan), Change::Values);
            $done = $this->write($act, array_diff_key($plan, $hindrances));
            $id = $this->catalog->fieldIds()[$act->field] ?? 0;
            // Who may not give a document these values does not: it goes back to what it had.
            $kept = $this->rights->keptFrom($user, 'change')->or($this->rights->keptFrom($user, 'file'));
            $back = $undoing ? [] : array_values(array_filter($done, $kept->has(...)));
            if ($back !== []) {
                self::put($id, array_map(static fn (array $change): array => $change[0], array_intersect_key($plan, array_flip($back))));
                $this->filing->retitle($back);
                $this->indexer->update($back);
                $done = array_values(array_diff($done, $back));
            }
            foreach (
                Document::query()
                    ->whereIntegerInRaw('id', $done)
                    ->get(['id']) as $document
            ) {
                History::record(Act::Changed, $user, $document, [
                    $act->field => ['before' => $plan[$document->id][0], 'after' => $plan[$document->id][1]],
                ]);
            }
            $of = static fn (array $ids) => DB::table('value_act_items')
                ->where('value_act_id', $act->id)
                ->whereIntegerInRaw('document_id', $ids);
            $of($done)->update(['outcome' => $undoing ? 'undone' : 'done']);
            $left = array_diff(array_keys($plan), $done);
            foreach (self::why($left, $back, $hindrances) as $why => $ids) {
                $of($ids)->update(['outcome' => 'skipped', 'why' => mb_substr($why, 0, 300)]);
            }
            $act->update(['done' => $act->done + count($done), 'skipped' => $act->skipped + count($plan) - count($done)]);

            return true;
        });
    }

    /**
     * Why documents were left alone.
     *
     * @param  array<int>  $left
     * @param  list<int>  $back  those that the person may not give these values
     * @param  array<int, Hindrance>  $hindrances
     * @return array<string, list<int>>
     */
    private static function why(array $left, array $back, array $hindrances): array
    {
        $why = [];
        foreach ($left as $id) {
            $why[
                match (true) {
                    isset($hindrances[$id]) => $hindrances[$id]->words,
                    in_array($id, $back, true) => 'An access rule does not let you give it these values.',
                    default => 'It was changed in the meantime.',
                }
            ][] = $id;
        }

        return $why;
    }

    /**
     * @param  array<int, array{list<string>, list<string>}>  $plan  what each has and is given
     * @return list<int> those that were changed
     */
    private function write(ValueAct $act, array $plan): array
    {
        $present = OwnValues::of(array_keys($plan));
        $done = [];
        foreach ($plan as $id => [$has]) {
            if (($present[$id][$act->field] ?? []) === $has) {
                $done[] = $id;
            }
        }
        self::put(
            $this->catalog->fieldIds()[$act->field] ?? 0,
            array_map(static fn (array $change): array => $change[1], array_intersect_key($plan, array_flip($done))),
        );
        Document::query()->whereIntegerInRaw('id', $done)->increment('lock_version');
        $this->filing->retitle($done);
        $this->indexer->update($done);

        return $done;
    }

    /** @param  array<int, array<string>>  $values  by document */
    private static function put(int $field, array $values): void
    {
        DB::table('document_values')->where('field_id', $field)->whereIntegerInRaw('document_id', array_keys($values))->delete();
        $rows = [];
        foreach ($values as $id => $list) {
            foreach ($list as $i => $value) {
                $rows[] = ['document_id' => $id, 'field_id' => $field, 'position' => $i, 'value' => $value];
            }
        }
        foreach (array_chunk($rows, self::CHUNK) as $chunk) {
            DB::table('document_values')->insert($chunk);
        }
    }

    /**
     * @param  list<string>  $texts
     * @return list<string> normal forms
     *
     * @throws InvalidSheet
     */
    private function given(User $by, FieldDefinition $field, string $how, array $texts): array
    {
        $sheet = new IndexSheet([$field], $how === 'set' || $how === 'add' || $how === 'take' ? [$field->code] : []);
        $read = $sheet->read([$field->code => $texts], $how === 'take' ? [$field->code => $texts] : null);
        $faults = [
            ...$this->references->faults($sheet, $read['values'], $by, $how === 'take' ? $read['values'] : null),
            ...$read['faults'],
        ];
        if ($faults !== []) {
            throw new InvalidSheet($faults);
        }

        return $read['values'][$field->code] ?? [];
    }

    /**
     * Why a document cannot take the values.
     *
     * @param  array<string, list<string>>  $values  its own now
     * @param  list<string>  $after
     * @param  list<string>  $dependent  fields whose terms depend on this one
     */
    private function fault(Document $document, FieldDefinition $field, array $values, array $after, array $dependent): ?string
    {
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $sheet = $this->catalog->sheet($type);
        if (! in_array($field->code, array_column($sheet->fields, 'code'), true)) {
            return $type === null ? 'They have no document type.' : "{$type->name} has no {$field->label}.";
        }
        if (in_array($field->code, $sheet->readOnly, true)) {
            return "{$field->label} is read-only for the type {$type?->name}.";
        }
        $faults = $sheet->read([...$values, $field->code => $after], $values)['faults'];
        foreach ([$field->code, ...$dependent] as $code) {
            if (isset($faults[$code])) {
                return $faults[$code];
            }
        }

        return null;
    }

    /**
     * @param  list<string>  $before
     * @param  list<string>  $given
     * @return list<string>
     */
    private static function after(string $how, array $before, array $given): array
    {
        return match ($how) {
            'add' => array_values(array_unique([...$before, ...$given])),
            'take' => array_values(array_diff($before, $given)),
            default => $given,
        };
    }
}
