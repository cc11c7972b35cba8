<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Connect\MapVersions;
use App\Console\ExitCode;
use App\Models\Site;
use Ylema\Failure;

final class FieldMapCommand extends Command
{
    use FindsSites;

    protected const FILES = ['file'];

    protected $signature = 'ylema:fieldmap {site : its short name}
        {file? : a field map to take from now on; it is held against the source first}
        {--versions : list the maps that the site has had} {--back= : take one of them back, by its number}
        {--show= : print one of them} {--reason= : why, for whoever looks back}';

    protected $description = 'Show, change or take back the field map of a site; it holds from the next reading on';

    public function handle(MapVersions $versions): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        if ($this->option('versions') === true) {
            foreach ($versions->of($site) as $version) {
                $this->line(
                    sprintf(
                        '%5d  %s  %4d lines  %s%s',
                        $version['id'],
                        substr($version['at'], 0, 16),
                        $version['lines'],
                        $version['reason'],
                        $version['by'] === null ? '' : " ({$version['by']})",
                    ),
                );
            }

            return self::SUCCESS;
        }
        $number = $this->option('back') ?? $this->option('show');
        $file = $this->argument('file');
        if (is_string($number)) {
            $yaml = ctype_digit($number) ? $versions->yaml($site, (int) $number) : null;
            if ($yaml === null) {
                $this->error("The site has no map of the number $number; --versions lists those that it has had.");

                return ExitCode::WRONG;
            }

            return $this->option('show') === null
                ? $this->take($versions, $site, $yaml, "number $number, taken back")
                : $this->printed($yaml);
        }
        if (! is_string($file)) {
            return $this->printed($site->field_map);
        }
        $yaml = is_file($file) ? @file_get_contents($file) : false;
        if ($yaml === false) {
            $this->error("There is no file $file that can be read.");

            return ExitCode::WRONG;
        }

        return $this->take($versions, $site, $yaml, 'from '.basename($file));
    }

    private function printed(string $yaml): int
    {
        $this->output->write(rtrim($yaml)."\n");

        return self::SUCCESS;
    }

    private function take(MapVersions $versions, Site $site, string $yaml, string $reason): int
    {
        try {
            $said = $this->option('reason');
            $versions->take($site, $yaml, is_string($said) ? $said : $reason);
        } catch (Failure $e) {
            $this->error($e->getMessage());
            $this->line('The map of before stays.');

            return ExitCode::of($e);
        }
        $this->line("Taken. It holds from the next reading on: bin/ylema read $site->slug");

        return self::SUCCESS;
    }
}
