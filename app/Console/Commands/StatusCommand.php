<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Health\Retention;
use App\Health\Rule;
use App\Health\Status;

final class StatusCommand extends Command
{
    protected $signature = 'ylema:status {--json : as json}';

    protected $description = 'How this installation fares: workers, schedule, queue, backups, room (exit code 1 where '
        .'somebody should see to it at once)';

    public function handle(): int
    {
        $status = Status::now();
        // Counted here alone: it takes longer than a monitor or a page should wait.
        $said = [...$status->toArray(), 'kept' => array_map(static fn (Rule $rule): array => [
            'what' => $rule->what,
            'until' => $rule->until,
            'count' => ($rule->count)(),
        ], Retention::rules())];
        if ($this->option('json')) {
            $flags = JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE;
            $this->line((string) json_encode($said, $flags));

            return $said['well'] === true ? ExitCode::DONE : ExitCode::NO;
        }
        foreach ($status->troubles() as $trouble) {
            $this->line(($trouble->isUrgent ? '! ' : '  ').$trouble->words);
        }
        if ($status->troubles() === []) {
            $this->line('All is well.');
        }
        $this->line('');
        foreach ($status->workers as $worker) {
            $this->line(sprintf(
                '%-24s %s',
                $worker['name'],
                match (true) {
                    ! $worker['alive'] => "gone; heard last at {$worker['beat_at']}",
                    $worker['doing'] === null => 'waits for work',
                    default => "{$worker['doing']} since {$worker['since']}",
                },
            ));
        }
        $this->line("queue                    $status->waiting waiting, $status->failed failed");
        $this->line('schedule                 '.($status->schedule === null
            ? 'has not run yet'
            : "ran $status->schedule seconds ago"));
        $this->line('last backup              '.($status->backup ?? 'none'));
        foreach ($status->sites as $site) {
            $this->line(sprintf('%-24s read %s, surveyed %s', $site['slug'], $site['read_at'] ?? 'never',
                $site['surveyed_at'] ?? 'never'));
        }
        foreach ($said['kept'] as $kept) {
            $this->line(sprintf('%-40s %d, kept: %s', $kept['what'], $kept['count'], $kept['until']));
        }
        foreach ($status->places as $place) {
            $this->line(sprintf(
                '%-24s %s',
                $place['place'],
                $place['folder'].($place['wrong'] === null ? '' : '  (not the one that is known)'),
            ));
        }
        foreach ($status->space as $room) {
            $this->line(sprintf(
                '%-24s %s',
                "room for {$room['place']}",
                $room['free'] === null
                    ? 'cannot be told'
                    : number_format($room['free'] / 1e9, 1).' GB free'
                        .($room['days'] === null ? '' : ", {$room['days']} days as it grows now"),
            ));
        }
        if ($status->certificate !== null) {
            $this->line("certificate              until $status->certificate");
        }
        foreach ($status->versions as $what => $version) {
            $this->line(sprintf('%-24s %s', $what, $version));
        }

        return $said['well'] === true ? ExitCode::DONE : ExitCode::NO;
    }
}
