<?php

declare(strict_types=1);

namespace App\Providers;

use App\Capture\DrawOffice;
use App\Capture\LayText;
use App\Capture\ReadText;
use App\Copies\PrintTexts;
use App\Design\DesignPublished;
use App\Design\ProposeDesign;
use App\Design\Reindex;
use App\Disposal\WorkOnDisposal;
use App\Fixity\ReadFiles;
use App\Holds\LookForHeld;
use App\Import\WorkOnBringing;
use App\Index\CompareIndex;
use App\Index\DocumentsChanged;
use App\Index\RebuildIndex;
use App\Index\SqliteStore;
use App\Intake\ChangeValues;
use App\Jobs\Orphans;
use App\Jobs\Workers;
use App\Loans\ReturnLoan;
use App\Loans\SimulatedTeamSpace;
use App\Loans\TeamSpace;
use App\Models\Right;
use App\Models\Roles;
use App\Models\User;
use App\People\SessionFiles;
use App\Procedures\Beginning;
use App\Procedures\CarryOn;
use App\Procedures\LookForCases;
use App\Redaction\MakeRedacted;
use App\Reports\SendReport;
use App\Retrieve\Deliver;
use App\Scanning\ScanStack;
use App\Served\Changes;
use App\Sorting\LookAtPages;
use App\Support\LockingConnection;
use App\Webhooks\TellPrograms;
use Brenvic\Core\Index\IndexStore;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Database\Connection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Middleware\TrustProxies;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Event;
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
        $this->app->scoped(Roles::class);
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
            CarryOn::class,
            LookForCases::class,
            WorkOnDisposal::class,
            LookForHeld::class,
            ReadFiles::class,
            RebuildIndex::class,
            SendReport::class,
            TellPrograms::class,
            CompareIndex::class,
        );
        Event::listen(DocumentsChanged::class, static fn (DocumentsChanged $event) => app(Beginning::class)->changed($event->ids));
        Event::listen(DocumentsChanged::class, static fn () => LookForHeld::changed());
        Event::listen(DocumentsChanged::class, static fn (DocumentsChanged $event) => Changes::note($event->ids));
        Event::listen(DesignPublished::class, static fn (DesignPublished $event) => app(Beginning::class)->published($event->changes));
        foreach (Right::cases() as $right) {
            Gate::define($right->value, static fn (User $user): bool => $user->may($right));
        }
        Gate::define('explain', static fn (User $user): bool => self::hasOne($user, Right::Design, Right::Administer, Right::Oversee));
        // The place Oversight is for those who answer for documents in any way.
        Gate::define('look-over', static fn (User $user): bool => $user->looksOver());
        Gate::define('see-health', static fn (User $user): bool => self::hasOne($user, Right::Oversee, Right::Administer));
        // Preparing and reviewing takes nothing away; approving is for those who destroy.
        Gate::define('dispose', static fn (User $user): bool => self::hasOne($user, Right::Remove, Right::Destroy));
        Gate::define('see-sight', static fn (User $user): bool => Gate::forUser($user)->any(['fill', 'explain']));
        // Sheets are filled by those who file and by those who change.
        Gate::define('fill', static fn (User $user): bool => self::hasOne($user, Right::File, Right::Change));
        // Each counts apart: whoever looks at a link has not tried to fetch it.
        foreach (
            [
                'forgotten' => 5,
                'served' => 1_200,
                'link-look' => 30,
                'link-fetch' => 10,
                'form-look' => 60,
                'form-send' => 6,
                'space-look' => 60,
                'space-fetch' => 60,
                'space-change' => 30,
            ] as $name => $most
        ) {
            RateLimiter::for($name, static fn (Request $request) => Limit::perMinute($most)->by("{$name}/{$request->ip()}"));
        }
        // Told by the server in front itself, not by a header: files are then sent by it, and no PHP process waits for slow readers.
        isset($_SERVER['BRENVIC_BEHIND']) && BinaryFileResponse::trustXSendfileTypeHeader();
        RateLimiter::for(
            'own-password',
            static fn (Request $request) => Limit::perMinute(20)->by("own-password/{$request->user()?->getAuthIdentifier()}"),
        );
        TrustProxies::at(config('brenvic.proxies'));
        TrustProxies::withHeaders(
            Request::HEADER_X_FORWARDED_FOR |
                Request::HEADER_X_FORWARDED_PROTO |
                Request::HEADER_X_FORWARDED_HOST |
                Request::HEADER_X_FORWARDED_PORT,
        );
    }

    private static function hasOne(User $user, Right ...$rights): bool
    {
        return array_filter($rights, $user->may(...)) !== [];
    }
}
