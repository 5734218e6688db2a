<?php

use App\Http\ErrorShape;
use App\Http\InUse;
use App\Http\KnownHost;
use App\Http\SecurityHeaders;
use App\Intake\InvalidSheet;
use App\Support\NotYours;
use App\Support\Refused;
use App\Support\StaleWrite;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\SearchError;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Http\Middleware\HandleCors;
use Illuminate\Http\Request;

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(web: __DIR__.'/../routes/web.php', commands: __DIR__.'/../routes/console.php')
    ->withCommands([__DIR__.'/../app/Console/Commands', Demo\DemoCommand::class])
    ->withMiddleware(function (Middleware $middleware): void {
        $middleware->remove(HandleCors::class);
        $middleware->append(SecurityHeaders::class);
        $middleware->append(KnownHost::class);
        // A changed password ends the sessions that began with the one before; so does being put out of use.
        $middleware->authenticateSessions();
        $middleware->appendToGroup('web', InUse::class);
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
