<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Find\Finder;
use App\Http\Requests\SavedSearchInput;
use App\Intake\ChangeValues;
use App\Intake\ManyValues;
use App\Models\Document;
use App\Models\User;
use App\Models\ValueAct;
use App\Retrieve\PullLists;
use App\Support\Refused;
use App\Tables\ReferenceTables;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Values of many documents changed in one act: looked at first, done in the background, undone. */
final readonly class ValueActController
{
    private const SHOWN = 50;

    public function __construct(
        private ManyValues $many,
        private Catalog $catalog,
        private Rights $rights,
        private Finder $finder,
        private PullLists $lists,
        private ReferenceTables $tables,
    ) {
    }

    public function show(Request $request, int $act): JsonResponse
    {
        return new JsonResponse($this->shaped($this->own($request, $act), User::of($request)));
    }

    /** What the act would do. */
    public function plan(Request $request): JsonResponse
    {
        [$field, $plan] = $this->planned($request);
        $sample = array_slice($plan['changes'], 0, self::SHOWN, true);
        $titles = self::titles([
            ...array_keys($sample),
            ...array_merge(...array_values(array_map(static fn (array $ids): array => array_slice($ids, 0, self::SHOWN), $plan['refused']))),
        ]);
        /** @param  list<string>  $normals */
        $text = static fn (array $normals): string => Cover::text($field, $normals);
        $refused = [];
        foreach ($plan['refused'] as $why => $ids) {
            $refused[] = [
                'why' => $why,
                'count' => count($ids),
                'documents' => array_map(static fn (int $id): array => $titles[$id], array_slice($ids, 0, self::SHOWN)),
            ];
        }

        return new JsonResponse([
            'changes' => count($plan['changes']),
            'same' => $plan['same'],
            'refused' => $refused,
            'leaves' => $this->tables->filledBy($field->code, $this->catalog->fieldsFor(User::of($request))),
            'sample' => array_map(
                static fn (int $id, array $change): array => [
                    ...$titles[$id],
                    'before' => $text($change['before']),
                    'after' => $text($change['after']),
                ],
                array_keys($sample),
                $sample,
            ),
        ]);
    }

    public function store(Request $request): JsonResponse
    {
        $expected = $request->validate(['changes' => 'required|integer|min:1'])['changes'];
        [$field, $plan, $how] = $this->planned($request);
        if (count($plan['changes']) !== $expected) {
            throw new Refused(
                "The number of documents has changed from {$expected} to ".
                    count($plan['changes']).
                    '. Nothing was done; look at the effect again.',
            );
        }
        $act = $this->many->begin(User::of($request), $field, $how, $plan['given'], $plan['changes']);
        ChangeValues::begin($act);

        return new JsonResponse($this->shaped($act->refresh(), User::of($request)), 202);
    }

    public function undo(Request $request, int $act): JsonResponse
    {
        $found = $this->own($request, $act);
        if ($found->state !== ValueAct::DONE) {
            throw new Refused(
                $found->state === ValueAct::RUNNING ? 'It is still running. Undo it when it is finished.' : 'It has already been undone.',
            );
        }
        $found->update([
            'stopped' => '',
            'state' => ValueAct::UNDOING,
            'done' => 0,
            'skipped' => 0,
            'total' => DB::table('value_act_items')->where('value_act_id', $found->id)->where('outcome', 'done')->count(),
        ]);
        ChangeValues::begin($found);

        return new JsonResponse($this->shaped($found->refresh(), User::of($request)), 202);
    }

    /** Goes on with an act that stopped by itself. */
    public function goOn(Request $request, int $act): JsonResponse
    {
        $found = $this->own($request, $act);
        if (
            ValueAct::query()
                ->whereKey($found->id)
                ->where('stopped', '!=', '')
                ->update(['stopped' => '']) > 0
        ) {
            ChangeValues::begin($found);
        }

        return new JsonResponse($this->shaped($found->refresh(), User::of($request)), 202);
    }

    /** @return array{FieldDefinition, array{given: list<string>, changes: array<int, array{before: list<string>, after: list<string>}>, same: int, refused: array<string, list<int>>}, string} */
    private function planned(Request $request): array
    {
        $input = $request->validate([
            'field' => 'required|string',
            'how' => 'required|in:set,add,take,clear',
            'values' => 'array|max:100',
            'values.*' => 'nullable|string|max:100000',
            'documents' => 'array|max:'.ManyValues::MOST,
            'documents.*' => 'string',
            'list' => 'nullable|integer',
            'search' => 'nullable|'.SavedSearchInput::SHAPE,
            ...SavedSearchInput::PARTS,
        ]);
        $user = User::of($request);
        $field = $this->catalog->fieldsShownTo($user)[$input['field']] ?? throw new Refused("There is no field “{$input['field']}”.");
        if ($input['how'] === 'add' && ! $field->multiple) {
            throw new Refused("{$field->label} takes one value: set it instead.");
        }

        return [
            $field,
            $this->many->plan(
                $user,
                $this->ids($user, $input),
                $field,
                $input['how'],
                array_values(array_map(strval(...), $input['values'] ?? [])),
            ),
            $input['how'],
        ];
    }

    /**
     * @param  array<string, mixed>  $input
     * @return list<int>
     */
    private function ids(User $user, array $input): array
    {
        if (isset($input['list'])) {
            return $this->lists->seen($user, $this->lists->of($user)->findOrFail((int) $input['list']));
        }
        if (isset($input['search'])) {
            $found = $this->finder->documents($user, SavedSearchInput::searchOf($user, $input['search']));

            return $found->count() > ManyValues::MOST ? $found->newest(0, ManyValues::MOST + 1) : $found->documents();
        }
        $ids = [];
        foreach (array_chunk($input['documents'] ?? [], 500) as $refs) {
            array_push(
                $ids,
                ...array_map(intval(...), Document::query()->whereIn('ref', $refs)->where('state', Document::FILED)->pluck('id')->all()),
            );
        }

        return $this->rights->seen($user, $ids);
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, array{ref: string, title: string}>
     */
    private static function titles(array $ids): array
    {
        return Document::query()
            ->whereIntegerInRaw('id', $ids)
            ->get(['id', 'ref', 'title'])
            ->keyBy('id')
            ->map(static fn (Document $d): array => ['ref' => $d->ref, 'title' => $d->title])
            ->all();
    }

    private function own(Request $request, int $act): ValueAct
    {
        return ValueAct::query()->where('user_id', User::of($request)->id)->findOrFail($act);
    }

    /** @return array<string, mixed> */
    private function shaped(ValueAct $act, User $user): array
    {
        $field = $this->catalog->fieldsShownTo($user)[$act->field] ?? null;
        $texts = $field === null || Cover::hides($field) ? [] : array_map($field->display(...), $act->given);

        return [
            'id' => $act->id,
            'at' => $act->created_at->toIso8601String(),
            'field' => $field->label ?? $act->field,
            'how' => $act->how,
            'given' => implode(', ', $texts),
            'state' => $act->state,
            'total' => $act->total,
            'done' => $act->done,
            'skipped' => $act->skipped,
            'stopped' => $act->stopped,
        ];
    }
}
