<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Design\Draft;
use App\Design\PartShape;
use App\History\Act;
use App\History\History;
use App\Models\ProcedureCase;
use App\Models\User;
use App\Procedures\Cases;
use App\Procedures\ProcedureTrials;
use App\Procedures\ProcedureVersions;
use App\Support\Refused;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Procedures\Record\Status;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** What a procedure would do, and what its cases do that are under way. */
final readonly class ProcedureController
{
    /** Cases that are moved in one request. */
    private const MANY = 100;

    public function __construct(private Rights $rights, private ProcedureVersions $versions, private Cases $cases)
    {
    }

    public function trial(Request $request, Draft $draft, ProcedureTrials $trials): JsonResponse
    {
        $given = $request->validate(['procedure' => 'required|array', 'criterion' => 'nullable|string|max:2000']);
        /** @var array<string, mixed> $content */
        $content = $given['procedure'];
        $code = is_string($content['code'] ?? null) && $content['code'] !== '' ? $content['code'] : 'new';
        // What is empty was sent as nothing, and is as it is by default.
        $content = PartShape::complete(DesignKind::Procedure, $content);
        $fault = PartShape::faultOfPart(DesignKind::Procedure, $content);
        if ($fault !== null) {
            throw new InvalidDefinition('steps', $fault[1]);
        }
        $part = ProcedurePart::of($code, $content);

        return new JsonResponse([
            'faults' => array_map(
                static fn (array $of): array => ['step' => $of[0], 'says' => $of[1]],
                $part->procedure->faults(),
            ),
            ...$trials->run(
                $part,
                $draft->design()->with(DesignKind::Procedure, $code, $content),
                trim((string) ($given['criterion'] ?? '')),
                User::of($request),
            ),
        ]);
    }

    /** The cases under way, by the version that they began in and the step that they are at. */
    public function running(Request $request, string $code): JsonResponse
    {
        $present = $this->versions->present($code);
        $part = $present === null ? null : $this->versions->numbered($present);
        $sight = $this->rights->sight(User::of($request));
        $groups = [];
        foreach (ProcedureCase::underWay($code)->get(['document_id', 'procedure_version_id', 'step', 'status']) as $case) {
            if ($sight->has($case->document_id)) {
                $groups["{$case->procedure_version_id} {$case->step}"][] = $case;
            }
        }
        ksort($groups);

        return new JsonResponse([
            'cases' => array_map(
                function (array $cases) use ($present, $part): array {
                    $first = $cases[0];
                    $began = $this->versions->numbered($first->procedure_version_id);

                    return [
                        'version' => $first->procedure_version_id,
                        'since' => substr((string) DB::table('procedure_versions')->where('id', $first->procedure_version_id)->value('at'), 0, 10),
                        'is_present' => $first->procedure_version_id === $present,
                        'step' => (string) $first->step,
                        'name' => $began->procedure->steps[(string) $first->step]->name ?? (string) $first->step,
                        'cases' => count($cases),
                        'stopped' => count(array_filter($cases, static fn (ProcedureCase $case): bool => $case->status === Status::Stopped)),
                        // Where they would stand in the procedure as it is now.
                        'stands' => $part?->procedure->steps[(string) $first->step]->name ?? null,
                    ];
                },
                array_values($groups),
            ),
            'steps' => $part === null
                ? []
                : array_values(
                    array_map(static fn ($step): array => ['code' => $step->code, 'name' => $step->name], $part->procedure->steps),
                ),
        ]);
    }

    /** Moves cases of one version and step into the procedure as it is published now. */
    public function move(Request $request, string $code): JsonResponse
    {
        $given = $request->validate(['version' => 'required|integer', 'from' => 'required|string|max:40', 'to' => 'required|string|max:40']);
        $user = User::of($request);
        if ($this->versions->present($code) === null) {
            throw new Refused('This procedure is not published.');
        }
        $sight = $this->rights->sight($user);
        $found = ProcedureCase::underWay($code)
            ->with('document')
            ->where('procedure_version_id', (int) $given['version'])
            ->where('step', (string) $given['from'])
            ->orderBy('id')
            ->get()
            ->filter(static fn (ProcedureCase $case): bool => $case->document !== null && $sight->has($case->document_id));
        foreach ($found->take(self::MANY) as $case) {
            DB::transaction(function () use ($case, $given, $user): void {
                $this->cases->move($case, (string) $given['to'], $user);
                History::record(Act::CaseMoved, $user, $case->document, [
                    'procedure' => $this->versions->of($case)->name,
                    'from' => (string) $given['from'],
                    'step' => (string) $given['to'],
                ]);
            });
        }

        return new JsonResponse(['moved' => min(self::MANY, $found->count()), 'left' => max(0, $found->count() - self::MANY)]);
    }
}
