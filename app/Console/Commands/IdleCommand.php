<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Models\MediaItem;
use App\Retire\Proofs;
use Ylema\Retire\Verdict;

final class IdleCommand extends Command implements AsksTheIndex
{
    use FindsSites;

    private const BATCH = 250;

    protected $signature = 'ylema:idle {site : its short name}
        {--safe : only what everything speaks for} {--ndjson : each with its whole proof sheet, one a line}';

    protected $description = 'List what may be laid to rest, and what speaks for and against it';

    public function handle(): int
    {
        $site = $this->site();
        if ($site === null) {
            return ExitCode::WRONG;
        }
        $items = MediaItem::query()
            ->where('site_id', $site->id)
            ->where('verdict', $this->option('safe') ? '=' : '<>', $this->option('safe') ? 'safe' : 'needed')
            ->select(['id', 'path', 'verdict']);
        $count = 0;
        foreach ($items->lazyById(self::BATCH)->chunk(self::BATCH) as $batch) {
            $ids = array_values($batch->map(static fn (MediaItem $item): int => $item->id)->all());
            $sheets = (new Proofs($site->id))->sheets($ids);
            foreach ($batch as $item) {
                $sheet = $sheets[$item->id]['sheet'] ?? null;
                if ($this->option('safe') && $sheet?->verdict !== Verdict::Safe) {
                    // A witness grew too old since it was judged.
                    continue;
                }
                $count++;
                if ($this->option('ndjson')) {
                    $this->line(
                        (string) json_encode(
                            [
                                'path' => $item->path,
                                'verdict' => $sheet === null ? $item->verdict : $sheet->verdict->value,
                                'proof' => $sheet?->toArray() ?? [],
                            ],
                            JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
                        ),
                    );

                    continue;
                }
                $verdict = ($sheet === null ? Verdict::Ask : $sheet->verdict)->words();
                $this->line(str_pad($verdict, 13).$item->path);
                if ($sheet?->reason !== null) {
                    $this->line(str_repeat(' ', 13).$sheet->reason->sentence);
                }
            }
        }
        if (! $this->option('ndjson')) {
            $this->line(number_format($count).($count === 1 ? ' item.' : ' items.'));
        }

        return self::SUCCESS;
    }
}
