<?php

declare(strict_types=1);

namespace App\Providers;

use App\Bytes\Marks;
use App\Health\Beats;
use App\Models\Role;
use App\Models\User;
use App\Plans\Planners;
use App\Support\UnhurriedPostgres;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Middleware\TrustProxies;
use Illuminate\Http\Request;
use Illuminate\Queue\Events\JobExceptionOccurred;
use Illuminate\Queue\Events\JobProcessed;
use Illuminate\Queue\Events\JobProcessing;
use Illuminate\Support\Facades\Gate;
use Illuminate\Support\Facades\Queue;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Facades\Vite;
use Illuminate\Support\ServiceProvider;
use Ylema\Adopt\AdoptPlanner;
use Ylema\Move\MovePlanner;
use Ylema\Redirects\RedirectPlanner;
use Ylema\Repair\RepairPlanner;
use Ylema\Retire\ArchivePlanner;
use Ylema\Retire\MergePlanner;
use Ylema\Retire\RedrawPlanner;
use Ylema\Retire\RestorePlanner;
use Ylema\Retire\RestPlanner;
use Ylema\Swap\SwapPlanner;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind('db.connector.pgsql', UnhurriedPostgres::class);
        $this->app->singleton(Marks::class);
        $this->app->singleton(Planners::class, static function (): Planners {
            $planners = new Planners();
            $planners->add(SwapPlanner::class);
            $planners->add(RepairPlanner::class);
            $planners->add(RedirectPlanner::class);
            $planners->add(MovePlanner::class);
            $planners->add(AdoptPlanner::class);
            $planners->add(RestPlanner::class);
            $planners->add(RestorePlanner::class);
            $planners->add(ArchivePlanner::class);
            $planners->add(MergePlanner::class);
            $planners->add(RedrawPlanner::class);

            return $planners;
        });
    }

    public function boot(): void
    {
        // What a job leaves in cycles holds files and connections, of which a worker would gather hundreds. One that
        // only asks for work leaves nothing, and asks twice a second.
        $hasWorked = false;
        Queue::before(static function (JobProcessing $event) use (&$hasWorked): void {
            $hasWorked = true;
            $name = $event->job->payload()['displayName'] ?? null;
            self::beat($event->connectionName, is_string($name) ? class_basename($name) : 'a job');
        });
        Queue::after(static fn (JobProcessed $event) => self::beat($event->connectionName, null));
        Queue::exceptionOccurred(static fn (JobExceptionOccurred $event) => self::beat($event->connectionName, null));
        Queue::looping(static function () use (&$hasWorked): void {
            Beats::ofWorker(null, true);
            if ($hasWorked) {
                $hasWorked = false;
                gc_collect_cycles();
            }
        });

        // A forgotten eager load would become a query in a loop; better that it fails where it is written.
        Model::preventLazyLoading(config('app.env') !== 'production');
        Model::preventAccessingMissingAttributes();

        // Behind a proxy that speaks https, it says who asked, and by which address.
        $proxies = config('app.proxies');
        TrustProxies::at(is_string($proxies) && $proxies !== '' ? explode(',', $proxies) : []);

        // Root-relative, so that the interface works under whatever name and port it is reached.
        Vite::createAssetPathsUsing(static fn (string $path): string => '/'.ltrim($path, '/'));

        Gate::define('look', static fn (User $user): bool => $user->may(Role::Viewer));
        Gate::define('maintain', static fn (User $user): bool => $user->may(Role::Maintainer));
        Gate::define('own', static fn (User $user): bool => $user->may(Role::Owner));

        RateLimiter::for(
            'sign-in',
            static fn (Request $request): Limit => Limit::perMinute(60)->by((string) $request->ip()),
        );
        RateLimiter::for(
            'uploads',
            static fn (Request $request): Limit => Limit::perMinute(60)->by(
                (string) $request->user()?->getAuthIdentifier(),
            ),
        );
    }

    /** What is done at once, in whichever process asks for it, makes that no worker. */
    private static function beat(string $connection, ?string $job): void
    {
        if ($connection !== 'sync') {
            Beats::ofWorker($job, false);
        }
    }
}
