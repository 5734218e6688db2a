<?php

declare(strict_types=1);

namespace App\Providers;

use App\Capture\DrawOffice;
use App\Capture\LayText;
use App\Capture\ReadText;
use App\Copies\PrintTexts;
use App\Design\ProposeDesign;
use App\Design\Reindex;
use App\Import\WorkOnBringing;
use App\Index\SqliteStore;
use App\Intake\ChangeValues;
use App\Jobs\Orphans;
use App\Jobs\Workers;
use App\Loans\ReturnLoan;
use App\Loans\SimulatedTeamSpace;
use App\Loans\TeamSpace;
use App\Models\User;
use App\People\SessionFiles;
use App\Redaction\MakeRedacted;
use App\Retrieve\Deliver;
use App\Scanning\ScanStack;
use App\Sorting\LookAtPages;
use App\Support\LockingConnection;
use Brenvic\Core\Index\IndexStore;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Database\Connection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Middleware\TrustProxies;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Gate;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Facades\Session;
use Illuminate\Support\ServiceProvider;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        Connection::resolverFor(
            'sqlite',
            fn ($connection, $database, $prefix, $config) => new LockingConnection($connection, $database, $prefix, $config),
        );
        $this->app->scoped(SqliteStore::class);
        $this->app->bind(TeamSpace::class, SimulatedTeamSpace::class);
        $this->app->bind(IndexStore::class, SqliteStore::class);
        $this->app->scoped(\App\Catalog\Catalog::class);
        $this->app->scoped(\App\Find\WordReach::class);
        $this->app->scoped(\App\Design\Draft::class);
        $this->app->scoped(\App\Access\Rights::class);
        $this->app->scoped(\App\Redaction\Redactions::class);
    }

    public function boot(): void
    {
        Session::extend(
            'changed',
            static fn (): SessionFiles => new SessionFiles(app('files'), config('session.files'), (int) config('session.lifetime')),
        );
        Model::preventLazyLoading();
        Workers::watch();
        Orphans::know(
            Deliver::class,
            ReadText::class,
            ChangeValues::class,
            Reindex::class,
            MakeRedacted::class,
            ReturnLoan::class,
            ProposeDesign::class,
            WorkOnBringing::class,
            LookAtPages::class,
            LayText::class,
            DrawOffice::class,
            PrintTexts::class,
            ScanStack::class,
        );
        Gate::define('administer', fn (User $user): bool => $user->role->mayAdminister());
        Gate::define('design', fn (User $user): bool => $user->role->mayDesign());
        Gate::define('hold', fn (User $user): bool => $user->role->mayHold());
        Gate::define('remove', fn (User $user): bool => $user->role->mayRemove());
        Gate::define('destroy', fn (User $user): bool => $user->role->mayDestroy());
        Gate::define('redact', fn (User $user): bool => $user->role->mayRedact());
        Gate::define('file', fn (User $user): bool => $user->role->mayFile());
        // Each counts apart: whoever looks at a link has not tried to fetch it.
        foreach (['link-look' => 30, 'link-fetch' => 10, 'space-look' => 60, 'space-fetch' => 60, 'space-change' => 30] as $name => $most) {
            RateLimiter::for($name, static fn (Request $request) => Limit::perMinute($most)->by("{$name}/{$request->ip()}"));
        }
        // Told by the server in front itself, not by a header: files are then sent by it, and no PHP process waits for slow readers.
        isset($_SERVER['BRENVIC_BEHIND']) && BinaryFileResponse::trustXSendfileTypeHeader();
        TrustProxies::at(config('brenvic.proxies'));
        TrustProxies::withHeaders(
            Request::HEADER_X_FORWARDED_FOR |
                Request::HEADER_X_FORWARDED_PROTO |
                Request::HEADER_X_FORWARDED_HOST |
                Request::HEADER_X_FORWARDED_PORT,
        );
    }
}
