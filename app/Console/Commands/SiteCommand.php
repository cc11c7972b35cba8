<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Site;
use Illuminate\Console\Command;

final class SiteCommand extends Command
{
    use FindsSites;

    /** Options with the column that they set, the least and the most. */
    private const NUMBERS = ['at-once' => ['at_once', 1, 16], 'pause' => ['pause', 0, 60_000]];

    protected $signature = 'ylema:site
        {site : its short name}
        {--ask-public= : yes or no: may the public site be asked over the network after a change?}
        {--at-once= : how many questions a survey has open at a time, 1 to 16}
        {--pause= : milliseconds before each of them, up to 60000}';

    protected $description = 'Show one site, and what the owner allows there';

    public function handle(): int
    {
        $site = $this->site();
        if ($site === null) {
            return 2;
        }
        $asked = $this->option('ask-public');
        if ($asked !== null) {
            if (! in_array($asked, ['yes', 'no'], true)) {
                $this->error('--ask-public takes yes or no.');

                return 2;
            }
            $site->update(['ask_public' => $asked === 'yes']);
        }
        foreach (self::NUMBERS as $option => [$column, $least, $most]) {
            $said = $this->option($option);
            if ($said === null) {
                continue;
            }
            if (! is_string($said) || ! ctype_digit($said) || (int) $said < $least || (int) $said > $most) {
                $this->error("--$option takes a number from $least to $most.");

                return 2;
            }
            $site->update([$column => (int) $said]);
        }
        foreach (self::facts($site) as $word => $fact) {
            $this->line(sprintf('%-20s %s', $word, $fact));
        }

        return self::SUCCESS;
    }

    /** @return array<string, string> */
    private static function facts(Site $site): array
    {
        $reached = array_map(
            static fn (string $host, string $origin): string => "$host at $origin",
            array_keys($site->reach_at),
            $site->reach_at,
        );

        return array_filter([
            'name' => $site->name,
            'address' => $site->address,
            'before' => implode(', ', $site->former),
            'also served as' => implode(', ', $site->aliases),
            'reached from here' => implode(', ', $reached),
            'ask the public site' => $site->ask_public ? 'yes' : 'no',
            'a survey asks' => "{$site->at_once} at a time, {$site->pause} ms apart",
            'read' => $site->read_at?->diffForHumans() ?? 'never',
        ], static fn (string $fact): bool => $fact !== '');
    }
}
