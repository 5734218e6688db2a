<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Alarms\Alarms;
use App\Health\Check;
use App\Health\Health;
use App\Health\Metrics;
use App\Models\Right;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** Whether Brenvic lives and can serve, for programs that watch it; and what is wrong, for those who administer. */
final class HealthController
{
    /** It answers. */
    public function live(): JsonResponse
    {
        return new JsonResponse(['status' => 'live']);
    }

    /** It can serve people; if not, by what it cannot. */
    public function ready(): JsonResponse
    {
        $missing = Health::missing();

        return new JsonResponse(['status' => $missing === [] ? 'ready' : 'not ready', 'missing' => $missing], $missing === [] ? 200 : 503);
    }

    /** For those who administer, and for who has the token of the settings. */
    public function metrics(Request $request): Response
    {
        $token = (string) config('brenvic.metrics_token');
        $hasToken = $token !== '' && hash_equals($token, (string) $request->bearerToken());
        $user = $request->user();
        abort_unless($hasToken || ($user instanceof User && $user->may(Right::Administer)), 404);

        return new Response(Metrics::text(), 200, ['Content-Type' => 'text/plain; version=0.0.4; charset=utf-8', 'Cache-Control' => 'no-store']);
    }

    public function index(): JsonResponse
    {
        return new JsonResponse([
            'checks' => array_map(static fn (Check $check): array => $check->toArray(), Health::checks()),
            'alarms' => Alarms::open(),
        ]);
    }

    public function done(int $alarm): JsonResponse
    {
        abort_unless(Alarms::done($alarm), 404);

        return $this->index();
    }
}
