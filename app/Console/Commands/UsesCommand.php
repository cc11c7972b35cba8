<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\ExitCode;
use App\Models\MediaReference;
use App\Models\Record;
use App\Support\Sql;
use App\Usage\UsageIndex;

final class UsesCommand extends Command implements AsksTheIndex
{
    use FindsSites;

    protected $signature =
        'ylema:uses {site : its short name} {path : of the original or any rendition} {--json '.': as json}';

    protected $description =
        'Say where a media item is used, and on which public pages it is met (exit code 1 '.'when nowhere)';

    public function handle(): int
    {
        $site = $this->site();
        $item = $site === null ? null : $this->item($site, $this->word('path'));
        if ($site === null || $item === null) {
            return ExitCode::WRONG;
        }
        $references = MediaReference::query()
            ->where('media_item_id', $item->id)
            ->with(['record', 'address'])
            ->orderBy('record_id')
            ->orderBy('start')
            ->get();
        /** @var list<int> $records */
        $records = array_values($references->pluck('record_id')->unique()->all());
        $graph = (new UsageIndex($site->id))->graph($records);
        $pages = Record::query()
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($graph->pagesOf($records))])
            ->orderBy('address')
            ->pluck('address')
            ->map(static fn (?string $a): string => $site->address.$a)
            ->all();
        if ($this->option('json')) {
            $this->line(
                (string) json_encode(
                    [
                        'path' => $item->path,
                        'standing' => $item->standing,
                        'uses' => $references
                            ->map(
                                static fn (MediaReference $r): array => [
                                    'kind' => $r->record->kind,
                                    'key' => $r->record->key,
                                    'title' => $r->record->title,
                                    'field' => $r->field,
                                    'role' => $r->role,
                                    'value' => $r->value,
                                    'line' => $r->line,
                                    'start' => $r->start,
                                    'length' => $r->length,
                                    'outcome' => $r->outcome ?? 'found',
                                ],
                            )
                            ->all(),
                        'pages' => $pages,
                    ],
                    JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
                ),
            );
        } else {
            $this->line(
                "{$item->path} is {$item->standing}: {$references->count()} references in "
                    .count($records)
                    .' records, met on '
                    .count($pages)
                    .' public pages.',
            );
            foreach ($references as $r) {
                $this->line(
                    sprintf(
                        '  %-11s %-34s %-12s line %-4d %s%s',
                        $r->record->kind,
                        mb_strimwidth($r->record->title, 0, 34, '…'),
                        $r->role,
                        $r->line,
                        $r->value,
                        ($r->outcome ?? 'found') === 'found' ? '' : "  [{$r->outcome}]",
                    ),
                );
            }
            foreach ($pages as $page) {
                $this->line("  → $page");
            }
        }

        return $references->isEmpty() ? ExitCode::NO : ExitCode::DONE;
    }
}
