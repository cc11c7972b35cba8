<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Site;

final class SitesCommand extends Command
{
    protected $signature = 'ylema:sites {--json : as json}';

    protected $description = 'List the sites that this installation looks after';

    public function handle(): int
    {
        $sites = Site::query()->orderBy('slug')->get();
        if ($this->option('json')) {
            $this->line(
                (string) json_encode(
                    $sites
                        ->map(
                            static fn (Site $s): array => [
                                'slug' => $s->slug,
                                'name' => $s->name,
                                'address' => $s->address,
                                'read_at' => $s->read_at?->toIso8601String(),
                            ],
                        )
                        ->all(),
                    JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES,
                ),
            );

            return self::SUCCESS;
        }
        foreach ($sites as $site) {
            $this->line(
                sprintf(
                    '%-16s %s  %s',
                    $site->slug,
                    $site->address,
                    $site->read_at === null ? 'never read' : 'read '.$site->read_at->diffForHumans(),
                ),
            );
        }

        return self::SUCCESS;
    }
}
