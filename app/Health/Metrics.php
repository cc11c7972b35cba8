<?php

declare(strict_types=1);

namespace App\Health;

/** A status in the OpenMetrics text format, version 1.0.0. */
final class Metrics
{
    public const TYPE = 'application/openmetrics-text; version=1.0.0; charset=utf-8';

    public static function of(Status $status): string
    {
        $age = static fn (?string $at): ?int => $at === null ? null : time() - (int) strtotime($at);
        $text = self::gauge('ylema_workers', 'Workers that run.', [
            '' => count(array_filter($status->workers, static fn (array $worker): bool => $worker['alive'])),
        ]);
        $text .= self::gauge('ylema_workers_busy', 'Workers that work on something.', [
            '' => count(array_filter(
                $status->workers,
                static fn (array $worker): bool => $worker['alive'] && $worker['doing'] !== null,
            )),
        ]);
        $text .= self::gauge('ylema_queue_jobs', 'Jobs that wait for a worker.', ['' => $status->waiting]);
        $text .= self::gauge('ylema_queue_oldest_seconds', 'How long the oldest waits.', ['' => $status->oldest]);
        $text .= self::gauge('ylema_failed_jobs', 'Jobs that failed and were not forgotten.', ['' => $status->failed]);
        $text .= self::gauge('ylema_schedule_seconds', 'Since the schedule ran.', ['' => $status->schedule]);
        $text .= self::gauge('ylema_backup_seconds', 'Since the last backup was written.', [
            '' => $age($status->backup),
        ]);
        $text .= self::gauge('ylema_certificate_seconds', 'Until the certificate ends.', [
            '' => $status->certificate === null ? null : (int) strtotime($status->certificate) - time(),
        ]);
        $done = ['read' => 'its content was read', 'surveyed' => 'its public pages were surveyed'];
        foreach ($done as $what => $words) {
            $ages = [];
            foreach ($status->sites as $site) {
                $ages['{site="'.self::escaped($site['slug']).'"}'] = $age($site["{$what}_at"]);
            }
            $text .= self::gauge("ylema_site_{$what}_seconds", "Since $words.", $ages);
        }
        $of = ['free' => 'Free bytes of a place.', 'days' => 'Days until it is full, as it grows now.'];
        foreach ($of as $what => $words) {
            $rooms = [];
            foreach ($status->space as $room) {
                $rooms['{place="'.self::escaped($room['place']).'"}'] = $room[$what];
            }
            $text .= self::gauge($what === 'free' ? 'ylema_space_free_bytes' : 'ylema_space_days', $words, $rooms);
        }

        $places = [];
        foreach ($status->places as $place) {
            $places['{place="'.self::escaped($place['place']).'"}'] = $place['wrong'] === null ? 1 : 0;
        }
        $help = 'Whether a folder is the one that is known (1), or not (0).';
        $text .= self::gauge('ylema_place_known', $help, $places);

        return $text."# EOF\n";
    }

    /** @param  array<string, int|null>  $values labels → value; one that is not known is left out */
    private static function gauge(string $name, string $help, array $values): string
    {
        $lines = '';
        foreach ($values as $labels => $value) {
            $lines .= $value === null ? '' : "$name$labels $value\n";
        }

        return "# TYPE $name gauge\n# HELP $name $help\n$lines";
    }

    private static function escaped(string $value): string
    {
        return strtr($value, ['\\' => '\\\\', '"' => '\\"', "\n" => '\\n']);
    }
}
