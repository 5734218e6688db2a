<?php

use App\Http\BeginSession;
use App\Http\ByToken;
use App\Http\CheckedOrigin;
use App\Http\ErrorShape;
use App\Http\InUse;
use App\Http\KnownHost;
use App\Http\NamedRequest;
use App\Http\ProgramApi;
use App\Http\SecurityHeaders;
use App\Http\Seen;
use App\Intake\InvalidSheet;
use App\Support\NotYours;
use App\Support\Refused;
use App\Support\StaleWrite;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\SearchError;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Auth\Middleware\Authorize;
use Illuminate\Contracts\Auth\Middleware\AuthenticatesRequests;
use Illuminate\Contracts\Session\Middleware\AuthenticatesSessions;
use Illuminate\Cookie\Middleware\AddQueuedCookiesToResponse;
use Illuminate\Cookie\Middleware\EncryptCookies;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Middleware\HandleCors;
use Illuminate\Http\Request;
use Illuminate\Routing\Middleware\SubstituteBindings;
use Illuminate\Routing\Middleware\ThrottleRequests;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\View\Middleware\ShareErrorsFromSession;

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(web: __DIR__.'/../routes/web.php', commands: __DIR__.'/../routes/console.php')
    ->withCommands([__DIR__.'/../app/Console/Commands', Demo\DemoCommand::class, Demo\MailCommand::class])
    ->withMiddleware(function (Middleware $middleware): void {
        $middleware->remove(HandleCors::class);
        $middleware->prepend([NamedRequest::class, ProgramApi::class]);
        $middleware->append(SecurityHeaders::class);
        $middleware->append(KnownHost::class);
        $middleware->web(
            prepend: ByToken::class,
            remove: ShareErrorsFromSession::class,
            replace: [StartSession::class => BeginSession::class, ValidateCsrfToken::class => CheckedOrigin::class],
        );
        // A changed password ends the sessions that began with the one before; so does being put out of use.
        $middleware->authenticateSessions();
        $middleware->appendToGroup('web', InUse::class);
        $middleware->appendToGroup('web', Seen::class);
        // What a role may do is asked before anything is looked up, so that a refusal does not tell whether it is there.
        $middleware->priority([
            EncryptCookies::class, AddQueuedCookiesToResponse::class, BeginSession::class, AuthenticatesRequests::class,
            ThrottleRequests::class, AuthenticatesSessions::class, Authorize::class, SubstituteBindings::class, Seen::class,
        ]);
        $middleware->redirectGuestsTo(fn () => null);
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        // Answers, not faults: whoever asked reads them, and the log stays for what went wrong.
        $exceptions->dontReport([Refused::class, NotYours::class, StaleWrite::class, InvalidSheet::class, InvalidDefinition::class, InvalidValue::class, SyntaxError::class, SearchError::class]);
        $exceptions->shouldRenderJsonWhen(fn (Request $request): bool => $request->is('api/*'));
        // A page whose session was ended elsewhere is the interface all the same: it asks to sign in.
        $exceptions->render(fn (AuthenticationException $fault, Request $request) => $request->is('api/*') ? null : response()->view('app'));
        $exceptions->render(fn (Throwable $fault, Request $request) => $request->is('api/*') ? ErrorShape::response($fault) : null);
    })
    ->create();
