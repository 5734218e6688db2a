<?php

declare(strict_types=1);

namespace App\Acts;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\History\DocumentActKind;
use App\Intake\DocumentActs;
use App\Models\Document;
use App\Models\Right;
use App\Models\User;
use App\Models\ValueAct;
use App\Retrieve\Removal;
use App\Support\Column;
use App\Support\Refused;
use Brenvic\Core\Fields\Cover;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use stdClass;

/** What a person did to several documents lately, in one list: what can still be undone, and what was left alone and why. */
final readonly class LastActs
{
    private const LISTED = 20;

    /** Documents named of those that an act left alone. */
    private const NAMED = 20;

    private const HOW = ['set' => 'set to', 'add' => 'given also', 'take' => 'without', 'clear' => 'emptied'];

    public function __construct(
        private Catalog $catalog,
        private Rights $rights,
        private DocumentActs $documents,
        private Removal $removal,
    ) {
    }

    /** @return list<array<string, mixed>> the newest first */
    public function of(User $user): array
    {
        $acts = DB::table('document_acts')->where('user_id', $user->id)->orderByDesc('id')->limit(self::LISTED)->get();
        $values = ValueAct::query()->where('user_id', $user->id)->orderByDesc('id')->limit(self::LISTED)->get();
        $standing = $this->standing($acts);
        $all = [
            ...$acts->map(fn (stdClass $act): array => $this->ofDocuments($user, $act, $standing)),
            ...$values->map(fn (ValueAct $act): array => $this->ofValues($user, $act)),
        ];
        usort($all, static fn (array $a, array $b): int => $b['at'] <=> $a['at']);

        return array_slice($all, 0, self::LISTED);
    }

    /**
     * Undoes an act on whole documents; those that are no longer as the act left them stay as they are.
     *
     * @return array{undone: int, left: int}
     *
     * @throws Refused
     */
    public function undo(User $user, int $act): array
    {
        $row = DB::table('document_acts')->where('id', $act)->where('user_id', $user->id)->first() ?? abort(404);

        // Rights are asked when it is undone, not when it was done.
        $isRemoval = $row->kind === DocumentActKind::Remove->value;
        abort_unless($isRemoval ? $user->may(Right::Remove) : $user->may(Right::File) || $user->may(Right::Change), 403);

        return $isRemoval ? $this->bringBack($user, $row) : $this->documents->undo($user, $act);
    }

    /** @return array{undone: int, left: int} */
    private function bringBack(User $user, stdClass $row): array
    {
        return DB::transaction(function () use ($user, $row): array {
            if (
                DB::table('document_acts')
                    ->where('id', $row->id)
                    ->where('is_undone', false)
                    ->update(['is_undone' => true]) === 0
            ) {
                throw new Refused('It has already been undone.');
            }
            $ids = array_column(json_decode((string) $row->items, true), 'id');
            $there = $this->removal->removed($user)->whereIntegerInRaw('id', $ids)->pluck('ref', 'id');
            $this->removal->restore($user, Column::texts($there));
            $left = array_fill_keys(array_diff($ids, $there->keys()->all()), 'It was brought back or destroyed in the meantime.');
            DB::table('document_acts')
                ->where('id', $row->id)
                ->update(['left_alone' => json_encode((object) $left, JSON_THROW_ON_ERROR)]);

            return ['undone' => count($ids) - count($left), 'left' => count($left)];
        });
    }

    /**
     * @param  array<string, true>  $standing  documents that are as an act left them, by act and document
     * @return array<string, mixed>
     */
    private function ofDocuments(User $user, stdClass $act, array $standing): array
    {
        $items = json_decode((string) $act->items, true);
        $left = json_decode((string) $act->left_alone, true);
        $undoable =
            ! (bool) $act->is_undone &&
            array_filter($items, static fn (array $item): bool => isset($standing["{$act->id}/{$item['id']}"])) !== [];

        return [
            'id' => (int) $act->id,
            'of' => 'documents',
            'says' => $act->says,
            'at' => now()->parse((string) $act->at)->toIso8601String(),
            'documents' => count($items) - count($left),
            'state' => $act->is_undone ? 'undone' : 'done',
            'undoable' => $undoable,
            'stopped' => '',
            'why_not' => $undoable || $act->is_undone ? '' : 'All of its documents were changed in the meantime.',
            'left' => count($left),
            'left_alone' => $this->named($user, $left),
        ];
    }

    /** @return array<string, mixed> */
    private function ofValues(User $user, ValueAct $act): array
    {
        $field = $this->catalog->fieldsShownTo($user)[$act->field] ?? null;
        $texts = $field === null || Cover::hides($field) ? [] : array_map($field->display(...), $act->given);
        $left = DB::table('value_act_items')
            ->where('value_act_id', $act->id)
            ->where('outcome', 'skipped')
            ->orderBy('document_id')
            ->limit(self::NAMED)
            ->pluck('why', 'document_id')
            ->all();

        return [
            'id' => $act->id,
            'of' => 'values',
            'says' => trim(($field->label ?? $act->field).' '.self::HOW[$act->how].' '.implode(', ', $texts)),
            'at' => $act->created_at->toIso8601String(),
            'documents' => $act->done,
            'state' => $act->state,
            'undoable' => $act->state === ValueAct::DONE && $act->done > 0,
            'stopped' => $act->stopped,
            'why_not' => $act->state === ValueAct::DONE && $act->done === 0 ? 'It changed nothing.' : '',
            'left' => $act->skipped,
            'left_alone' => $this->named(
                $user,
                array_map(static fn (?string $why): string => $why ?? 'It was changed or held in the meantime.', $left),
            ),
        ];
    }

    /**
     * Which documents are still as acts left them.
     *
     * @param  Collection<int, stdClass>  $acts
     * @return array<string, true> by act and document
     */
    private function standing(Collection $acts): array
    {
        $items = [];
        foreach ($acts as $act) {
            foreach ($act->is_undone ? [] : json_decode((string) $act->items, true) as $item) {
                $items["{$act->id}/{$item['id']}"] = [...$item, 'removed' => $act->kind === 'remove'];
            }
        }
        $now = Document::query()
            ->withTrashed()
            ->whereIntegerInRaw('id', array_unique(array_column($items, 'id')))
            ->get(['id', 'lock_version', 'deleted_at'])
            ->keyBy('id');

        return array_map(
            static fn (): bool => true,
            array_filter(
                $items,
                static fn (array $item): bool => isset($now[$item['id']]) &&
                    $now[$item['id']]->trashed() === $item['removed'] &&
                    ($item['removed'] || $now[$item['id']]->lock_version === $item['lock']),
            ),
        );
    }

    /**
     * @param  array<int, string>  $left  why, by document
     * @return list<array{ref: string, title: string, why: string}> those that the person may see
     */
    private function named(User $user, array $left): array
    {
        $seen = array_slice($this->rights->seen($user, array_map(intval(...), array_keys($left))), 0, self::NAMED);

        return array_values(
            Document::query()
                ->whereIntegerInRaw('id', $seen)
                ->orderBy('id')
                ->get(['id', 'ref', 'title'])
                ->map(static fn (Document $d): array => ['ref' => $d->ref, 'title' => $d->title, 'why' => $left[$d->id]])
                ->all(),
        );
    }
}
