<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Bytes\Marks;
use App\Bytes\Place;
use App\Console\ExitCode;
use App\Logs\WatchedLogs;
use App\Models\Role;
use App\Models\Site;
use App\Models\User;
use App\Reading\ReadSite;
use App\Retire\LookAtPictures;
use Illuminate\Support\Facades\DB;

/** Connects the demo site and makes its accounts; with --read, has it read once if it never was. */
final class DemoCommand extends Command
{
    protected $signature = 'ylema:demo {--read : have the site read, if it never was, and wait}';

    protected $description = 'Connect the demo site and make its accounts';

    protected $hidden = true;

    public function handle(ReadSite $readSite, WatchedLogs $logs, Marks $marks): int
    {
        if (config('demo.dsn') === null) {
            $this->error(
                'This installation has no demo: its settings name no demo content database. Start it with bin/demo.',
            );

            return ExitCode::WRONG;
        }
        if (DB::table('changes')->doesntExist()) {
            // A demo that is made anew begins with the folders of the one before.
            $marked = array_filter(Place::all(), static fn (Place $place): bool => $place->isMarked);
            array_map($marks->take(...), $marked);
        }
        foreach (['viewer' => 'Vera Lund', 'maintainer' => 'Mats Ebbing', 'owner' => 'Orla Quist'] as $role => $name) {
            User::query()->firstOrCreate(
                ['email' => "$role@korrinbay.example"],
                ['name' => $name, 'password' => 'tidewater-demo', 'role' => Role::from($role), 'joined_at' => now()],
            );
        }
        $site = Site::query()->updateOrCreate(
            ['slug' => 'korrin-bay'],
            [
                'name' => 'Korrin Bay Tidewater Observatory',
                'address' => 'https://korrinbay.example/',
                'former' => ['https://www.korrin-observatory.example/bay/'],
                'field_map' => (string) file_get_contents(base_path('standin/korrin.fieldmap.yaml')),
                'connection' => [
                    'dsn' => config('demo.dsn'),
                    'user' => config('demo.user'),
                    'password' => config('demo.password'),
                    'folder' => config('demo.folder'),
                ],
                'reach_at' => [
                    'korrinbay.example' => 'http://127.0.0.1:'.config('demo.site_port'),
                    'www.korrin-observatory.example' => 'http://127.0.0.1:'.config('demo.former_port'),
                    'korrin-observatory.example' => 'http://127.0.0.1:'.config('demo.former_port'),
                    'pics.shorelog.example' => 'http://127.0.0.1:'.config('demo.foreign_port'),
                ],
            ],
        );
        $folder = dirname((string) config('demo.folder')).'/logs';
        if ($site->keeping === [] && is_dir($folder)) {
            $site->update(['keeping' => ['logs' => $folder]]);
        }
        if (! $this->option('read') || $site->read_at !== null) {
            return self::SUCCESS;
        }
        $this->line('Reading the demo site');
        $reading = $readSite->begin($site, null);
        for ($i = 0; $i < 1200; $i++) {
            usleep(250_000);
            $reading->refresh();
            if (! $reading->state->isOpen()) {
                break;
            }
        }
        $this->line(
            "The reading is {$reading->state->value}.".($reading->problem === null ? '' : " {$reading->problem}"),
        );
        foreach ($logs->read($site->refresh()) as $said) {
            $this->line($said);
        }

        LookAtPictures::dispatch($site->id);

        return $reading->state->value === 'done' ? ExitCode::DONE : ExitCode::NOT_LOOKED;
    }
}
