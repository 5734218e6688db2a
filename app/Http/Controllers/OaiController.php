<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Served\Asking;
use App\Served\OaiServer;
use App\Support\Address;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\Exceptions\ThrottleRequestsException;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** The door of OAI-PMH: GET and POST, for anybody whom the office serves and for tokens. What goes wrong besides is said by HTTP. */
final readonly class OaiController
{
    public function __construct(private OaiServer $server, private Asking $asking)
    {
    }

    public function __invoke(Request $request): Response
    {
        try {
            $user = $this->asking->user($request);
        } catch (AuthenticationException) {
            return self::refused('The token is not known, or is over.', 401);
        } catch (ThrottleRequestsException $fault) {
            return self::refused('Too many wrong tokens.', 429, $fault->getHeaders());
        }
        if ($user === null) {
            return self::refused('This office serves nobody without a token.', 401);
        }
        $asked = $request->isMethod('POST') ? $request->getContent() : self::text($request->server('QUERY_STRING'));
        $xml = $this->server->answer($user, $asked, Address::of('/oai'));
        $isPacked = in_array('gzip', $request->getEncodings(), true);

        return new Response($isPacked ? (string) gzencode($xml, 5) : $xml, 200, [
            'Content-Type' => 'text/xml; charset=utf-8',
            'Cache-Control' => 'no-store',
            'Vary' => 'Accept-Encoding',
            ...$isPacked ? ['Content-Encoding' => 'gzip'] : [],
        ]);
    }

    private static function text(mixed $of): string
    {
        return is_string($of) ? $of : '';
    }

    /** @param  array<string, mixed>  $more */
    private static function refused(string $says, int $status, array $more = []): Response
    {
        $asks = $status === 401 ? ['WWW-Authenticate' => 'Basic realm="Brenvic", charset="UTF-8"'] : [];

        return new Response($says, $status, ['Content-Type' => 'text/plain; charset=utf-8', ...$asks, ...$more]);
    }
}
