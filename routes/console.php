<?php

declare(strict_types=1);

use App\Console\Commands\BackupCommand;
use App\Console\Commands\ClearCommand;
use App\Console\Commands\NightlyCommand;
use App\Console\Commands\RecoverCommand;
use App\Console\Commands\WatchCommand;
use App\Health\Beats;
use App\Health\Space;
use Illuminate\Support\Facades\Schedule;

// That it runs, and how much room there is, for whoever watches over the installation.
Schedule::call(static fn () => Beats::of(Beats::SCHEDULE))->everyMinute();
Schedule::call(static function (): void {
    Space::note();
    Beats::clear();
})->hourly();

// What a killed process left is taken up within a minute, wherever the installation runs.
Schedule::command(RecoverCommand::class)->everyMinute()->withoutOverlapping(10);

// Logs, files that are called from their rest, and bags that were not looked at for long.
Schedule::command(WatchCommand::class)->everyFiveMinutes()->withoutOverlapping(60);

// Sites that are read and surveyed at night, each at its minute.
Schedule::command(NightlyCommand::class)->everyMinute()->withoutOverlapping(10);

// What waits for nothing any more makes room.
Schedule::command(ClearCommand::class)->hourly()->withoutOverlapping(120);
Schedule::command(ClearCommand::class, ['--nightly'])->dailyAt('03:35')->withoutOverlapping(600);

// Before the sites are read, where somebody said where to.
if (is_string(config('backup.folder'))) {
    Schedule::command(BackupCommand::class, [config('backup.folder'), '--keep='.config('backup.keep')])
        ->dailyAt('02:20')
        ->withoutOverlapping(600);
}
