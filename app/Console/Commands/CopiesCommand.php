<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Retire\CopyGroups;
use App\Retire\LookAtPictures;
use Ylema\Plan\Words;

final class CopiesCommand extends Command implements AsksTheIndex
{
    use FindsSites;

    private const PAGE = 100;

    protected $signature = 'ylema:copies {site : its short name} {--ndjson : one group a line}
        {--look : first look at pictures that came since}';

    protected $description = 'List items that show the same picture: the same bytes, another size or type, a part';

    public function handle(): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        if ($this->option('look')) {
            do {
                $before = LookAtPictures::left($site->id);
                LookAtPictures::dispatchSync($site->id);
                $left = LookAtPictures::left($site->id);
            } while ($left > 0 && $left < $before);
            if ($left > 0) {
                $this->error(
                    Words::many($left, 'picture').' could not be looked at now: a worker looks at those of another '
                        .'site, or the site’s files are away. Try again later.',
                );
            }
        }
        $groups = new CopyGroups($site);
        $offset = 0;
        do {
            $page = $groups->page('', $offset, self::PAGE);
            foreach ($page['groups'] as $group) {
                $this->group($group);
            }
            $offset += self::PAGE;
        } while ($offset < $page['total']);
        if (! $this->option('ndjson')) {
            $this->line(
                number_format($page['total']).' groups; '.Words::many($page['same'], 'item')
                    .' with the same bytes could go; compare the others yourself.',
            );
        }

        return self::SUCCESS;
    }

    /** @param  array<string, mixed>  $group */
    private function group(array $group): void
    {
        if ($this->option('ndjson')) {
            $this->line((string) json_encode($group, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));

            return;
        }
        foreach (is_array($group['items'] ?? null) ? $group['items'] : [] as $item) {
            if (is_array($item)) {
                $text = static fn (string $key): string => is_scalar($item[$key] ?? null) ? (string) $item[$key] : '';
                $this->line(
                    str_pad($text('how'), 9)
                        .$text('path')
                        .' ('
                        .$text('width')
                        .' × '
                        .$text('height')
                        .', '
                        .$text('uses')
                        .' uses)',
                );
            }
        }
        $this->line('');
    }
}
