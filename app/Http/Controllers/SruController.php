<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Served\Asking;
use App\Served\SruServer;
use App\Support\Address;
use Brenvic\Core\Exchange\Sru\Serving\Diagnostic;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\Exceptions\ThrottleRequestsException;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Throwable;

/** The door of SRU: GET and POST, for anybody whom the office serves and for tokens. */
final readonly class SruController
{
    /** What a diagnostic of no access is numbered (SRU 1.2 has none for a person who may not ask). */
    private const NOT_SERVED = 3;

    public function __construct(private SruServer $server, private Asking $asking)
    {
    }

    public function __invoke(Request $request): Response
    {
        $given = $request->isMethod('POST') ? [...$request->query->all(), ...$request->request->all()] : $request->query->all();
        try {
            $user = $this->asking->user($request);
        } catch (AuthenticationException) {
            return self::shaped(SruServer::fault($given, new Diagnostic(self::NOT_SERVED, 'The token is not known, or is over.')), 401);
        } catch (ThrottleRequestsException $fault) {
            return self::shaped(
                SruServer::fault($given, new Diagnostic(self::NOT_SERVED, 'Too many wrong tokens.')),
                429,
                $fault->getHeaders(),
            );
        }
        if ($user === null) {
            return self::shaped(
                SruServer::fault($given, new Diagnostic(self::NOT_SERVED, 'This office serves nobody without a token.')),
                401,
            );
        }
        try {
            return self::shaped($this->server->answer($user, $given, Address::of('/sru')));
        } catch (Throwable $fault) {
            report($fault);

            return self::shaped(SruServer::fault($given, new Diagnostic(Diagnostic::SYSTEM)));
        }
    }

    /** @param  array<string, mixed>  $more */
    private static function shaped(string $xml, int $status = 200, array $more = []): Response
    {
        $headers = ['Content-Type' => 'application/xml; charset=utf-8', 'Cache-Control' => 'no-store'];

        return new Response($xml, $status, [
            ...$headers,
            ...$status === 401 ? ['WWW-Authenticate' => 'Basic realm="Brenvic", charset="UTF-8"'] : [],
            ...$more,
        ]);
    }
}
