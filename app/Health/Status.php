<?php

declare(strict_types=1);

namespace App\Health;

use App\Bytes\Marks;
use App\Bytes\Place;
use App\Models\Site;
use App\Support\Clock;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Plan\Words;

/**
 * How an installation fares: who works, what waits, when things were last done, and how much room is left. What could
 * not be looked at is null, and never counts as well.
 *
 * @phpstan-type Worker array{name: string, doing: string|null, since: string|null, beat_at: string, alive: bool}
 */
final readonly class Status
{
    /** Seconds after which a silent worker that waits counts as gone. */
    private const SILENT = 60;

    /** Seconds that a job may take at most (config/queue.php). */
    private const LONGEST = 3900;

    /** Seconds that work may wait for a worker. */
    private const PATIENCE = 300;

    /** Hours without a backup, where some are made each night. */
    private const BACKUP = 26;

    /** Days until a place is full, and bytes, that are too few. */
    private const DAYS = 14;

    private const FREE = 500_000_000;

    /** Days before a certificate ends that somebody should know. */
    private const CERTIFICATE = 14;

    /**
     * @param  list<Worker>  $workers
     * @param  int|null  $schedule seconds since the schedule ran
     * @param  int  $waiting jobs that no worker has taken
     * @param  int  $oldest seconds that the oldest of them waits
     * @param  int  $failed jobs that failed
     * @param  string|null  $backup when the last one was written
     * @param  list<array{slug: string, read_at: string|null, surveyed_at: string|null}>  $sites
     * @param  list<array{place: string, free: int|null, total: int|null, days: int|null}>  $space
     * @param  list<array{place: string, folder: string, wrong: string|null}>  $places folders that are known by a mark
     * @param  string|null  $certificate when it ends
     * @param  array<string, string>  $versions
     */
    private function __construct(
        public array $workers,
        public ?int $schedule,
        public int $waiting,
        public int $oldest,
        public int $failed,
        public ?string $backup,
        public array $sites,
        public array $space,
        public array $places,
        public ?string $certificate,
        public array $versions,
    ) {
    }

    public static function now(): self
    {
        $beats = DB::table('beats')->orderBy('name')->get()->keyBy('name');
        $workers = [];
        foreach ($beats as $name => $beat) {
            if (str_starts_with((string) $name, 'worker ')) {
                $workers[] = self::worker($beat);
            }
        }
        $jobs = DB::selectOne(
            'select count(*) as waiting, coalesce(max(extract(epoch from now()) - available_at), 0)::bigint as oldest '
                .'from jobs where reserved_at is null and available_at <= extract(epoch from now())',
        );
        $schedule = $beats[Beats::SCHEDULE] ?? null;
        $backup = $beats[Beats::BACKUP] ?? null;

        return new self(
            $workers,
            $schedule instanceof stdClass ? self::since(self::at($schedule->beat_at)) : null,
            $jobs instanceof stdClass ? (int) $jobs->waiting : 0,
            $jobs instanceof stdClass ? (int) $jobs->oldest : 0,
            DB::table('failed_jobs')->count(),
            $backup instanceof stdClass ? self::said($backup->beat_at) : null,
            self::sites(),
            Space::left(),
            self::places(),
            self::certificate(),
            self::versions(),
        );
    }

    /** @return list<Trouble> the urgent ones first */
    public function troubles(): array
    {
        $found = [];
        $alive = array_filter($this->workers, static fn (array $worker): bool => $worker['alive']);
        if ($alive === []) {
            $found[] = new Trouble('workers', 'No worker runs, so nothing is read, planned or carried out. Start them '
                .'(on a server: systemctl start ylema.target).', true);
        } elseif ($this->oldest > self::PATIENCE) {
            $found[] = new Trouble('queue', Words::many($this->waiting, 'job').' waiting for a worker, the oldest for '
                .self::span($this->oldest).'. Look at what the workers do, or start more of them.', true);
        }
        if ($this->schedule === null || $this->schedule > self::PATIENCE) {
            $found[] = new Trouble('schedule', 'The schedule '.($this->schedule === null
                ? 'has not run yet'
                : 'has not run for '.self::span($this->schedule))
                .', so nothing is watched, backed up or cleared. Start it (on a server: systemctl start '
                .'ylema-schedule).', true);
        }
        foreach ($this->places as $place) {
            if ($place['wrong'] !== null) {
                $found[] = new Trouble("place: {$place['place']}", "The {$place['place']} is not written to: "
                    ."{$place['wrong']}", true);
            }
        }
        foreach ($this->space as $room) {
            $found = [...$found, ...self::room($room)];
        }
        if ($this->failed > 0) {
            $found[] = new Trouble('jobs', Words::many($this->failed, 'job').' failed. The log says why '
                .'(storage/logs); what is understood is forgotten with: php artisan queue:flush', false);
        }
        if (is_string(config('backup.folder')) && $this->isLongAgo($this->backup)) {
            $found[] = new Trouble('backup', $this->backup === null
                ? 'No backup was written yet.'
                : "The last backup is of $this->backup. Look whether its folder can be written, and has room.", false);
        }
        if ($this->certificate === null && self::hasCertificate()) {
            $found[] = new Trouble('certificate', 'When the certificate ends cannot be told: this user cannot read it '
                .'(YLEMA_CERTIFICATE in the settings). Give it the right to.', false);
        }
        $ends = $this->certificate === null ? null : (int) strtotime($this->certificate) - time();
        if ($ends !== null && $ends < self::CERTIFICATE * 86_400) {
            $found[] = new Trouble('certificate', $ends < 0
                ? "The certificate ended on $this->certificate: browsers refuse this installation. Renew it."
                : "The certificate ends on $this->certificate. Renew it.", $ends < 2 * 86_400);
        }
        usort($found, static fn (Trouble $a, Trouble $b): int => $b->isUrgent <=> $a->isUrgent);

        return $found;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $troubles = $this->troubles();

        return [
            'up' => true,
            'well' => ! in_array(true, array_column($troubles, 'isUrgent'), true),
            'troubles' => array_map(
                static fn (Trouble $t): array => ['about' => $t->about, 'words' => $t->words, 'urgent' => $t->isUrgent],
                $troubles,
            ),
            'workers' => $this->workers,
            'schedule_seconds' => $this->schedule,
            'queue' => ['waiting' => $this->waiting, 'oldest_seconds' => $this->oldest, 'failed' => $this->failed],
            'backup_at' => $this->backup,
            'sites' => $this->sites,
            'space' => $this->space,
            'places' => $this->places,
            'certificate_until' => $this->certificate,
            'versions' => $this->versions,
        ];
    }

    /**
     * @param  array{place: string, free: int|null, total: int|null, days: int|null}  $room
     * @return list<Trouble>
     */
    private static function room(array $room): array
    {
        return match (true) {
            $room['free'] === null => [
                new Trouble("space: {$room['place']}", "How much room is left for \"{$room['place']}\" cannot be told: "
                    .'its folder cannot be looked at.', false),
            ],
            $room['free'] < self::FREE => [
                new Trouble("space: {$room['place']}", "For \"{$room['place']}\" "
                    .number_format($room['free'] / 1e6).' MB are left. Make room before something cannot be '
                    .'written.', true),
            ],
            $room['days'] !== null && $room['days'] < self::DAYS => [
                new Trouble("space: {$room['place']}", "For \"{$room['place']}\" there is room for {$room['days']} "
                    .'more days, as it grows now.', false),
            ],
            default => [],
        };
    }

    private function isLongAgo(?string $backup): bool
    {
        return $backup === null || Clock::ago((int) strtotime($backup)) > self::BACKUP * 3600;
    }

    /** @return Worker */
    private static function worker(stdClass $beat): array
    {
        $silent = Clock::ago(self::at($beat->beat_at));
        [, $host, $pid] = [...explode(' ', (string) $beat->name), '', ''];
        // Of this machine the system knows; of another, what was heard last.
        $isThere = $host !== gethostname() || @file_exists("/proc/$pid");

        return [
            'name' => (string) $beat->name,
            'doing' => is_string($beat->doing) ? $beat->doing : null,
            'since' => is_string($beat->since) ? self::said($beat->since) : null,
            'beat_at' => self::said($beat->beat_at),
            'alive' => $isThere && $silent < ($beat->doing === null ? self::SILENT : self::LONGEST),
        ];
    }

    /** @return list<array{slug: string, read_at: string|null, surveyed_at: string|null}> */
    private static function sites(): array
    {
        $surveyed = DB::table('surveys')
            ->whereNotNull('finished_at')
            ->groupBy('site_id')
            ->selectRaw('site_id, max(finished_at) as at')
            ->pluck('at', 'site_id');

        return array_values(Site::query()->orderBy('slug')->get(['id', 'slug', 'read_at'])->map(
            static fn (Site $site): array => [
                'slug' => $site->slug,
                'read_at' => $site->read_at?->toIso8601ZuluString(),
                'surveyed_at' => is_string($surveyed[$site->id] ?? null) ? self::said($surveyed[$site->id]) : null,
            ],
        )->all());
    }

    /** @return list<array{place: string, folder: string, wrong: string|null}> */
    private static function places(): array
    {
        $marks = app(Marks::class);
        $marked = array_filter(Place::all(), static fn (Place $place): bool => $place->isMarked);

        return array_values(array_map(static fn (Place $place): array => [
            'place' => $place->key(),
            'folder' => $place->root->folder,
            'wrong' => $marks->wrong($place),
        ], $marked));
    }

    private static function hasCertificate(): bool
    {
        return is_string(config('health.certificate')) && config('health.certificate') !== '';
    }

    private static function certificate(): ?string
    {
        $file = config('health.certificate');
        $read = self::hasCertificate() && is_string($file)
            ? openssl_x509_parse((string) @file_get_contents($file))
            : false;

        return $read === false ? null : gmdate('Y-m-d\TH:i:s\Z', (int) $read['validTo_time_t']);
    }

    /** @return array<string, string> */
    private static function versions(): array
    {
        $row = DB::selectOne("select current_setting('server_version') as postgres, (select max(migration) from "
            .'migrations) as schema');

        return [
            'php' => PHP_VERSION,
            'postgres' => $row instanceof stdClass ? (string) $row->postgres : '',
            'schema' => $row instanceof stdClass ? (string) $row->schema : '',
        ];
    }

    /** @return int|null seconds; null where it lies ahead, since a clock was set back */
    private static function since(int $at): ?int
    {
        return Clock::ago($at) === PHP_INT_MAX ? null : Clock::ago($at);
    }

    private static function at(mixed $time): int
    {
        return CarbonImmutable::parse(is_string($time) ? $time : 'now')->getTimestamp();
    }

    private static function said(mixed $time): string
    {
        return gmdate('Y-m-d\TH:i:s\Z', self::at($time));
    }

    private static function span(int $seconds): string
    {
        return $seconds < 7200 ? intdiv($seconds, 60).' minutes' : intdiv($seconds, 3600).' hours';
    }
}
