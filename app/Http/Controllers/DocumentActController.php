<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Intake\DocumentActs;
use App\Intake\Transfer;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\Library;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;

/** Acts on several whole documents: copied or moved to another library, or given sheets in a table. */
final readonly class DocumentActController
{
    /** New titles shown before documents are moved. */
    private const SHOWN = 50;

    public function __construct(private DocumentActs $acts, private Catalog $catalog, private Rights $rights)
    {
    }

    public function planTransfer(Request $request): JsonResponse
    {
        [, $plan] = $this->transferOf($request);
        $lost = array_count_values(array_merge([], ...array_column($plan['go'], 'lost')));
        $fields = $this->catalog->fieldsFor(User::of($request));

        return new JsonResponse([
            'go' => count($plan['go']),
            'refused' => $this->named($plan['refused']),
            'titles' => $this->retitled(
                array_column(
                    array_map(static fn (int $id, array $go): array => [$id, $go['title']], array_keys($plan['go']), $plan['go']),
                    1,
                    0,
                ),
            ),
            'lost' => array_map(
                static fn (string $code, int $n): array => ['field' => $code, 'label' => $fields[$code]->label, 'documents' => $n],
                array_keys(array_intersect_key($lost, $fields)),
                array_values(array_intersect_key($lost, $fields)),
            ),
        ]);
    }

    /**
     * Titles that would be other.
     *
     * @param  array<int, string>  $titles  new ones by document
     * @return array{documents: int, sample: list<array{ref: string, before: string, after: string}>}
     */
    private function retitled(array $titles): array
    {
        $changed = Document::query()
            ->whereIntegerInRaw('id', array_keys($titles))
            ->orderBy('id')
            ->get(['id', 'ref', 'title'])
            ->filter(static fn (Document $d): bool => $d->title !== $titles[$d->id]);

        return [
            'documents' => $changed->count(),
            'sample' => array_values(
                $changed
                    ->take(self::SHOWN)
                    ->map(static fn (Document $d): array => ['ref' => $d->ref, 'before' => $d->title, 'after' => $titles[$d->id]])
                    ->all(),
            ),
        ];
    }

    public function transfer(Request $request): JsonResponse
    {
        $expected = (int) $request->validate(['expected' => 'required|integer|min:1'])['expected'];
        [$input, $plan, $to] = $this->transferOf($request);
        self::same(count($plan['go']), $expected);
        $act = $this->acts->transfer(User::of($request), $plan['go'], $to, $input['how'] === 'copy');

        return new JsonResponse(['act' => $act, 'documents' => count($plan['go'])], 201);
    }

    /** What a table of sheets begins with: documents with their own values as they are typed. */
    public function sheets(Request $request): JsonResponse
    {
        $user = User::of($request);
        $ids = $this->ids(
            $user,
            $request->validate(['documents' => 'required|array|min:1|max:'.DocumentActs::MOST, 'documents.*' => 'string'])['documents'],
        );
        $present = OwnValues::of($ids);
        $fields = $this->openFields($user);
        $rows = Document::query()->whereIntegerInRaw('id', $ids)->get()->keyBy('id')->all();

        $shaped = [];
        foreach ($ids as $id) {
            $values = [];
            foreach (array_intersect_key($present[$id] ?? [], $fields) as $code => $normals) {
                $values[$code] = implode('; ', array_map($fields[$code]->display(...), $normals));
            }
            $shaped[] = [
                'ref' => $rows[$id]->ref,
                'title' => $rows[$id]->title,
                'lock_version' => $rows[$id]->lock_version,
                'type' => $this->catalog->types()->get((int) $rows[$id]->document_type_id)?->code,
                'values' => (object) $values,
            ];
        }

        return new JsonResponse(['rows' => $shaped]);
    }

    public function planSheets(Request $request): JsonResponse
    {
        $plan = $this->sheetsOf($request);
        $titles = Document::query()
            ->whereIntegerInRaw('id', [...array_keys($plan['go']), ...array_keys($plan['faults'])])
            ->get(['id', 'ref', 'title'])
            ->keyBy('id')
            ->all();
        $fields = $this->catalog->fields();
        /** @param  list<string>  $normals */
        $shown = static function (string $code, array $normals) use ($fields): string {
            $field = $fields[$code] ?? null;

            return $field === null ? implode('; ', $normals) : Cover::text($field, $normals, '; ');
        };
        $changes = [];
        foreach ($plan['go'] as $id => $change) {
            $of = [];
            foreach (DocumentActs::difference($change['before'], $change['after']) as $code => $difference) {
                $of[] = [
                    'label' => $fields[$code]->label ?? $code,
                    'before' => $shown($code, $difference['before']),
                    'after' => $shown($code, $difference['after']),
                ];
            }
            $changes[] = ['ref' => $titles[$id]->ref, 'title' => $titles[$id]->title, 'fields' => $of];
        }

        return new JsonResponse([
            'changes' => $changes,
            'same' => $plan['same'],
            'faults' => array_map(
                static fn (int $id, array $of): array => [
                    'ref' => $titles[$id]->ref,
                    'title' => $titles[$id]->title,
                    'fields' => (object) $of,
                ],
                array_keys($plan['faults']),
                $plan['faults'],
            ),
        ]);
    }

    public function giveSheets(Request $request): JsonResponse
    {
        $expected = (int) $request->validate(['expected' => 'required|integer|min:1'])['expected'];
        $plan = $this->sheetsOf($request);
        self::same(count($plan['go']), $expected);

        return new JsonResponse(
            ['act' => $this->acts->giveSheets(User::of($request), $plan['go']), 'documents' => count($plan['go'])],
            201,
        );
    }

    /** @return array{array<string, mixed>, array{go: array<int, array{type: DocumentType|null, values: array<string, list<string>>, lost: list<string>, title: string}>, refused: array<string, list<int>>}, Library} */
    private function transferOf(Request $request): array
    {
        $input = $request->validate([
            'documents' => 'required|array|min:1|max:'.DocumentActs::MOST,
            'documents.*' => 'string',
            'library' => 'required|string',
            'type' => 'nullable|string',
            'how' => 'required|in:copy,move',
            'mapping' => 'array|max:100',
            'mapping.*' => 'nullable|string|max:40',
        ]);
        $user = User::of($request);
        $to = $this->catalog->libraries()->firstWhere('code', $input['library']) ?? abort(404);
        Gate::authorize('change', $to);
        $type = ($input['type'] ?? '') === '' ? null : $this->catalog->typeFor($user, $input['type']);

        return [
            $input,
            $this->acts->planTransfer(
                $user,
                $this->ids($user, $input['documents']),
                new Transfer($to, $type, array_map(strval(...), $input['mapping'] ?? []), $input['how'] === 'copy'),
            ),
            $to,
        ];
    }

    /** @return array{go: array<int, array{before: array<string, list<string>>, after: array<string, list<string>>}>, same: int, faults: array<int, array<string, string>>} */
    private function sheetsOf(Request $request): array
    {
        $input = $request->validate([
            'rows' => 'required|array|min:1|max:'.DocumentActs::MOST,
            'rows.*.ref' => 'required|string|distinct',
            'rows.*.lock_version' => 'required|integer',
            'rows.*.values' => 'required|array|max:100',
            'rows.*.values.*' => 'nullable|string|max:10000',
        ]);
        $user = User::of($request);
        $ids = $this->ids($user, array_column($input['rows'], 'ref'));
        $refs = Document::query()->whereIntegerInRaw('id', $ids)->pluck('id', 'ref')->all();
        $open = $this->openFields($user);
        $sheets = $locks = [];
        foreach ($input['rows'] as $row) {
            if (isset($refs[$row['ref']])) {
                $id = (int) $refs[$row['ref']];
                $locks[$id] = (int) $row['lock_version'];
                foreach (array_intersect_key($row['values'], $open) as $code => $text) {
                    $sheets[$id][(string) $code] = $open[$code]->multiple
                        ? array_values(
                            array_filter(array_map(trim(...), explode(';', (string) $text)), static fn (string $t): bool => $t !== ''),
                        )
                        : [trim((string) $text)];
                }
            }
        }

        return $this->acts->planSheets($user, $sheets, $locks);
    }

    /** @return array<string, FieldDefinition> fields that stand in a table: what is covered elsewhere is not typed into one */
    private function openFields(User $user): array
    {
        return Cover::open($this->catalog->fieldsFor($user));
    }

    /**
     * @param  list<string>  $refs
     * @return list<int> those the person may see, in their order
     */
    private function ids(User $user, array $refs): array
    {
        $found = DB::table('documents')
            ->whereIn('ref', $refs)
            ->where('state', Document::FILED)
            ->whereNull('deleted_at')
            ->pluck('id', 'ref')
            ->all();

        return $this->rights->seen(
            $user,
            array_values(
                array_map(
                    intval(...),
                    array_filter(
                        array_map(static fn (string $ref): ?int => $found[$ref] ?? null, $refs),
                        static fn (?int $id): bool => $id !== null,
                    ),
                ),
            ),
        );
    }

    /**
     * @param  array<string, list<int>>  $refused
     * @return list<array{why: string, documents: list<array{ref: string, title: string}>}>
     */
    private function named(array $refused): array
    {
        $titles = Document::query()
            ->whereIntegerInRaw('id', array_merge([], ...array_values($refused)))
            ->get(['id', 'ref', 'title'])
            ->keyBy('id')
            ->all();

        return array_map(
            static fn (string $why, array $ids): array => [
                'why' => $why,
                'documents' => array_map(static fn (int $id): array => ['ref' => $titles[$id]->ref, 'title' => $titles[$id]->title], $ids),
            ],
            array_keys($refused),
            array_values($refused),
        );
    }

    private static function same(int $now, int $expected): void
    {
        if ($now !== $expected) {
            throw new Refused("The number of documents has changed from {$expected} to {$now}. Nothing was done; look at the effect again.");
        }
    }
}
