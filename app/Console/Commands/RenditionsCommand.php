<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Changes\Journal;
use App\Console\ExitCode;
use App\Plans\PlanDesk;
use App\Retire\Renditions;
use App\Sites\SiteOpener;
use Ylema\Retire\RedrawPlanner;
use Ylema\Retire\RedrawRequest;

final class RenditionsCommand extends Command implements AsksTheIndex
{
    use CarriesOut;
    use FindsSites;

    protected $signature = 'ylema:renditions {site : its short name} {--ndjson : one size a line}
        {--redraw : draw missing ones again} {--width= : only those of this width}
        {--dry-run : only say what would be drawn}';

    protected $description = 'Count renditions by size and what needs them, or draw missing ones again';

    public function handle(SiteOpener $opener, PlanDesk $desk, Journal $journal): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        if ($this->option('redraw')) {
            $width = is_numeric($this->option('width')) ? (int) $this->option('width') : null;

            return $this->carryOut($site, new RedrawPlanner(new RedrawRequest(width: $width)), $desk, $journal);
        }
        $rows = [];
        foreach ((new Renditions($site))->table($opener->open($site))['sizes'] as $size) {
            if ($this->option('ndjson')) {
                $this->line((string) json_encode($size, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));
            }
            $number = static fn (string $key): int => is_int($size[$key] ?? null) ? $size[$key] : 0;
            $rows[] = [
                $number('width').(isset($size['height']) ? ' × '.$number('height') : ' wide'),
                number_format($number('files')),
                number_format($number('bytes') / 1000).' kB',
                number_format($number('refs')),
                number_format($number('seen')),
                number_format($number('asked')),
                number_format($number('safe')),
                number_format($number('missing')),
            ];
        }
        if (! $this->option('ndjson')) {
            $this->table(
                ['Size', 'Files', 'Weight', 'Named by', 'Seen', 'Asked for', 'Safe to rest', 'Missing'],
                $rows,
            );
        }

        return self::SUCCESS;
    }
}
