<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\KeptReport;
use App\Models\Right;
use App\Models\User;
use App\Reports\KeptReports;
use App\Reports\Report;
use App\Reports\Reports;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Collection;
use Illuminate\Validation\ValidationException;

/** The reports that there are, and those that a person has sent every month. */
final readonly class KeptReportController
{
    /** That one person has sent. */
    private const MOST = 50;

    public function __construct(private Reports $reports)
    {
    }

    public function index(Request $request): JsonResponse
    {
        return $this->shaped(User::of($request));
    }

    public function store(Request $request): JsonResponse
    {
        $user = User::of($request);
        $input = $request->validate([
            'report' => 'required|string|max:40',
            'library' => 'nullable|string|max:40',
            'type' => 'nullable|string|max:40',
            'people' => 'required|array|min:1|max:100',
            'people.*' => 'string|max:100',
        ]);
        $report = $this->reports->find((string) $input['report']);
        if ($report === null || ! $this->reports->knows($user, $input['library'] ?? null)) {
            throw ValidationException::withMessages(['report' => 'There is no such report, or no such library.']);
        }
        $people = self::choices($user)->whereIn('sign_in', $input['people']);
        if ($people->count() < count(array_unique($input['people']))) {
            throw ValidationException::withMessages(['people' => 'Reports are sent to people who share a group with you and may oversee.']);
        }
        if (KeptReport::query()->where('user_id', $user->id)->count() >= self::MOST) {
            throw ValidationException::withMessages(['report' => 'You have '.self::MOST.' reports sent already.']);
        }
        KeptReport::query()->create([
            'user_id' => $user->id,
            'report' => $report->code(),
            ...self::only($report, $input),
            'people' => array_values($people->pluck('id')->all()),
            // It begins with this month, once that is over.
            'sent_for' => KeptReports::lastMonth(),
        ]);

        return $this->shaped($user, 201);
    }

    public function destroy(Request $request, int $kept): JsonResponse
    {
        KeptReport::query()->where('user_id', User::of($request)->id)->findOrFail($kept)->delete();

        return $this->shaped(User::of($request));
    }

    /**
     * @param  array<string, mixed>  $input
     * @return array{library: string|null, type: string|null} what the report can be narrowed by
     */
    private static function only(Report $report, array $input): array
    {
        $is = static fn (string $what): ?string => in_array($what, $report->narrowedBy(), true) && isset($input[$what])
            ? (string) $input[$what]
            : null;

        return ['library' => $is('library'), 'type' => $is('type')];
    }

    /** @return Collection<int, User> oneself, and who shares a group and may oversee, too */
    private static function choices(User $user): Collection
    {
        return User::query()
            ->whereIn('sign_in', [$user->sign_in, ...$user->colleagues()])
            ->whereNull('out_of_use_at')
            ->orderBy('name')
            ->get()
            ->filter(static fn (User $of): bool => $of->may(Right::Oversee));
    }

    private function shaped(User $user, int $status = 200): JsonResponse
    {
        $people = self::choices($user);
        $person = static fn (User $of): array => ['sign_in' => $of->sign_in, 'name' => $of->name];
        $kept = KeptReport::query()->where('user_id', $user->id)->orderBy('id')->get();

        return new JsonResponse(
            [
                'reports' => array_values(
                    array_map(static fn (Report $of): array => ['code' => $of->code(), 'name' => $of->name()], $this->reports->all()),
                ),
                'people' => array_values($people->map($person)->all()),
                'kept' => array_values(
                    $kept
                        ->map(
                            static fn (KeptReport $of): array => [
                                'id' => $of->id,
                                'report' => $of->report,
                                'library' => $of->library,
                                'type' => $of->type,
                                'people' => array_values($people->whereIn('id', $of->people)->map($person)->all()),
                            ],
                        )
                        ->all(),
                ),
            ],
            $status,
        );
    }
}
