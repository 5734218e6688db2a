<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Audit\AuditExport;
use App\Audit\AuditFilter;
use App\Audit\AuditSearch;
use App\Audit\Heads;
use App\History\Act;
use App\History\History;
use App\History\Readers;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** The history of everything, for those who oversee. */
final readonly class AuditController
{
    private const DAYS = ['from' => 'nullable|date_format:Y-m-d', 'until' => 'nullable|date_format:Y-m-d'];

    public function __construct(private AuditSearch $search)
    {
    }

    public function index(Request $request): JsonResponse
    {
        $input = $request->validate([
            ...self::DAYS,
            'person' => 'nullable|string|max:200',
            'act' => ['nullable', Rule::enum(Act::class)],
            'document' => 'nullable|string|max:40',
            'library' => 'nullable|string|max:40',
            'before' => 'nullable|integer|min:1',
        ]);
        $filter = new AuditFilter(
            $input['person'] ?? null,
            $input['act'] ?? null,
            $input['document'] ?? null,
            $input['library'] ?? null,
            $input['from'] ?? null,
            $input['until'] ?? null,
        );

        return new JsonResponse($this->search->page(User::of($request), $filter, isset($input['before']) ? (int) $input['before'] : null));
    }

    /** What can be asked for, and what is kept of readers. */
    public function choices(): JsonResponse
    {
        $acts = array_map(static fn (Act $act): array => ['code' => $act->value, 'says' => $act->words()], Act::cases());
        usort($acts, static fn (array $a, array $b): int => strcmp($a['says'], $b['says']));

        return new JsonResponse([
            'acts' => $acts,
            'people' => array_values(
                User::query()
                    ->orderBy('name')
                    ->get(['sign_in', 'name'])
                    ->map(static fn (User $of): array => ['sign_in' => $of->sign_in, 'name' => $of->name])
                    ->all(),
            ),
            ...self::rules(),
        ]);
    }

    public function keep(Request $request): JsonResponse
    {
        $input = $request->validate(
            [
                'readers' => 'required|array:record,months',
                'readers.record' => 'required|boolean',
                'readers.months' => 'required|integer|min:0|max:1200',
                'head_mail' => 'present|array|max:20',
                'head_mail.*' => 'email|max:200',
            ],
            ['head_mail.*.email' => 'One of these is not an e-mail address.'],
        );
        (new Readers((bool) $input['readers']['record'], (int) $input['readers']['months']))->keep(User::of($request));
        Heads::mailTo(array_values(array_map(strval(...), $input['head_mail'])));

        return new JsonResponse(self::rules());
    }

    public function export(Request $request, string $form, AuditExport $export): StreamedResponse
    {
        $input = $request->validate(self::DAYS);
        $user = User::of($request);
        $asLines = $form === 'jsonl';
        History::record(Act::HistoryExported, $user, null, ['criteria' => array_filter([...$input, 'form' => $form])]);

        return new StreamedResponse(
            static function () use ($export, $user, $asLines, $input): void {
                $export->write($user, $asLines, $input['from'] ?? null, $input['until'] ?? null, static function (string $text): void {
                    echo $text;
                });
            },
            200,
            [
                'Content-Type' => $asLines ? 'application/x-ndjson' : 'text/csv; charset=utf-8',
                'Content-Disposition' => "attachment; filename=\"history.{$form}\"",
            ],
        );
    }

    /** @return array<string, mixed> */
    private static function rules(): array
    {
        $readers = Readers::now();

        return ['readers' => ['record' => $readers->areRecorded, 'months' => $readers->months], 'head_mail' => Heads::mailedTo()];
    }
}
