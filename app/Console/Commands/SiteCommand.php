<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Connect\ConnectionTest;
use App\Connect\Finding;
use App\Console\ExitCode;
use App\Models\Site;

final class SiteCommand extends Command
{
    use FindsSites;

    /** Options with the column that they set, the least and the most. */
    private const NUMBERS = ['at-once' => ['at_once', 1, 16], 'pause' => ['pause', 0, 60_000]];

    protected $signature = 'ylema:site
        {site : its short name}
        {--ask-public= : yes or no: may the public site be asked over the network after a change?}
        {--writes= : yes or no: may plans be carried out? yes tries first whether the source lets it}
        {--nightly= : HH:MM in UTC, from when on it is read and surveyed each night; or off}
        {--at-once= : how many questions a survey has open at a time, 1 to 16}
        {--pause= : milliseconds before each of them, up to 60000}';

    protected $description = 'Show one site, and what the owner allows there';

    public function handle(ConnectionTest $test): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $asked = $this->option('ask-public');
        if ($asked !== null) {
            if (! in_array($asked, ['yes', 'no'], true)) {
                $this->error('--ask-public takes yes or no.');

                return ExitCode::WRONG;
            }
            $site->update(['ask_public' => $asked === 'yes']);
        }
        $nightly = $this->option('nightly');
        if (is_string($nightly)) {
            if ($nightly !== 'off' && preg_match('~^(?:[01]\d|2[0-3]):[0-5]\d$~D', $nightly) !== 1) {
                $this->error('--nightly takes a time such as 03:10, or off.');

                return ExitCode::WRONG;
            }
            // A minute that is past today comes again tomorrow.
            $done = $nightly !== 'off' && $nightly <= now()->format('H:i') ? now()->toDateString() : null;
            $site->update([
                'nightly' => $nightly === 'off' ? null : $nightly,
                'nightly_read_on' => $done ?? $site->nightly_read_on,
                'nightly_surveyed_on' => $done ?? $site->nightly_surveyed_on,
            ]);
        }
        $writes = $this->option('writes');
        if ($writes !== null && ! in_array($writes, ['yes', 'no'], true)) {
            $this->error('--writes takes yes or no.');

            return ExitCode::WRONG;
        }
        if ($writes !== null && ! $this->switched($site, $writes === 'yes', $test)) {
            return ExitCode::LEFT;
        }
        foreach (self::NUMBERS as $option => [$column, $least, $most]) {
            $said = $this->option($option);
            if ($said === null) {
                continue;
            }
            if (! is_string($said) || ! ctype_digit($said) || (int) $said < $least || (int) $said > $most) {
                $this->error("--$option takes a number from $least to $most.");

                return ExitCode::WRONG;
            }
            $site->update([$column => (int) $said]);
        }
        foreach (self::facts($site) as $word => $fact) {
            $this->line(sprintf('%-20s %s', $word, $fact));
        }

        return self::SUCCESS;
    }

    /** What cannot be written is said before anybody plans on it. */
    private function switched(Site $site, bool $on, ConnectionTest $test): bool
    {
        $wrong = $on ? array_filter($test->of($site, true), static fn (Finding $f): bool => ! $f->isGood) : [];
        foreach ($wrong as $finding) {
            $this->error("$finding->what: $finding->words");
        }
        if ($wrong === []) {
            $site->update(['writes' => $on]);
        }

        return $wrong === [];
    }

    /** @return array<string, string> */
    private static function facts(Site $site): array
    {
        $reached = array_map(
            static fn (string $host, string $origin): string => "$host at $origin",
            array_keys($site->reach_at),
            $site->reach_at,
        );

        return array_filter(
            [
                'name' => $site->name,
                'address' => $site->address,
                'before' => implode(', ', $site->former),
                'also served as' => implode(', ', $site->aliases),
                'reached from here' => implode(', ', $reached),
                'plans' => $site->writes ? 'may be carried out' : 'are only looked at; nothing is written',
                'ask the public site' => $site->ask_public ? 'yes' : 'no',
                'a survey asks' => "{$site->at_once} at a time, {$site->pause} ms apart",
                'each night' => $site->nightly === null ? '' : "read and surveyed from $site->nightly UTC",
                'read' => $site->read_at?->diffForHumans() ?? 'never',
            ],
            static fn (string $fact): bool => $fact !== '',
        );
    }
}
