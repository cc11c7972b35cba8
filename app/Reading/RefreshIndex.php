<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Reading;
use App\Models\ReadingState;
use App\Models\Site;
use App\Sites\OpenSite;
use App\Sites\SiteOpener;
use App\Support\BulkRows;
use App\Support\Sql;
use App\Support\WorkLock;
use Illuminate\Database\UniqueConstraintViolationException;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\Resolver;
use Ylema\Sites\FileMissing;
use Ylema\Sites\SourceUnavailable;

/**
 * Reads again just the records and files that a change wrote, through the same staging and landing as a whole reading.
 */
final readonly class RefreshIndex
{
    public function __construct(private SiteOpener $opener)
    {
    }

    /**
     * @param  iterable<array{0: string, 1: list<string>, 2?: list<string>}>  $records kind and keys, in batches; and
     *     those keys that leave the index where the source has them no more
     * @param  iterable<string>  $paths
     * @param  bool  $media whether media rows came, changed or went
     *
     * @throws AlreadyReading while a whole reading runs; try again after it
     * @throws SourceUnavailable
     */
    public function refresh(Site $model, iterable $records, iterable $paths, bool $media): void
    {
        $site = $this->opener->open($model);
        try {
            $reading = Reading::query()
                ->create([
                    'site_id' => $site->id,
                    'state' => ReadingState::Landing,
                    'stage' => 'Reading what changed',
                    'started_at' => now(),
                    'totals' => ['partial' => true],
                ])
                ->refresh();
        } catch (UniqueConstraintViolationException) {
            throw new AlreadyReading();
        }
        // Whoever finds the row without its lock knows that nobody works on it any more.
        $lock = WorkLock::take(WorkLock::READING, $reading->id);
        try {
            foreach ($records as $batch) {
                [$kind, $keys] = $batch;
                $chunk = $reading->chunks()->create(['kind' => $kind]);
                (new ChunkReader($site))->stage($chunk, $site->content->find($kind, $keys));
                $this->dropGoneRecords($site->id, $reading->id, $kind, $batch[2] ?? []);
            }
            $this->stageFiles($site, $reading, $paths);
            if ($media) {
                $rows = new BulkRows('staged_media', ['reading_id', 'path', 'source_id', 'hash', 'row']);
                foreach ($site->content->media() as $item) {
                    $row = get_object_vars($item);
                    $rows->add([$reading->id, $item->path, $item->id, hash('xxh128', serialize($row)), $row]);
                }
                $rows->flush();
                $this->dropGoneMedia($site->id, $reading->id);
            }
            (new Landing($site, $reading))->land(whole: false);
        } finally {
            // Not part of the history of readings; its rows go with it.
            $reading->delete();
            $lock?->release();
        }
    }

    /** @param  iterable<string>  $paths one that is not there is noted with a size below 0 */
    private function stageFiles(OpenSite $site, Reading $reading, iterable $paths): void
    {
        $rows = new BulkRows('staged_files', [
            'reading_id',
            'path',
            'fold',
            'name_fold',
            'size',
            'modified',
            'sha256',
            'width',
            'height',
            'mime',
        ]);
        $seen = [];
        foreach ($paths as $path) {
            if (isset($seen[$path])) {
                continue;
            }
            $seen[$path] = true;
            try {
                $bytes = $site->files->read($path);
                $probe = FileProbe::of($path, $bytes);
                $rows->add([
                    $reading->id,
                    $path,
                    Resolver::fold($path),
                    Resolver::foldName($path),
                    strlen($bytes),
                    $site->files->state($path)->modified ?? time(),
                    $probe->sha256,
                    $probe->width,
                    $probe->height,
                    $probe->mime,
                ]);
            } catch (FileMissing) {
                $rows->add([
                    $reading->id,
                    $path,
                    Resolver::fold($path),
                    Resolver::foldName($path),
                    -1,
                    0,
                    null,
                    null,
                    null,
                    null,
                ]);
            }
        }
        $rows->flush();
    }

    /**
     * What was asked for and is not there any more, as a row that has another key by now.
     *
     * @param  list<string>  $keys
     */
    private function dropGoneRecords(int $site, int $reading, string $kind, array $keys): void
    {
        if ($keys === []) {
            return;
        }
        DB::delete(
            'delete from records r where r.site_id = ? and r.kind = ? and r.key = any(cast(? as text[])) and not '
                .'exists (select 1 from staged_records s where s.reading_id = ? and s.kind = r.kind and s.key = r.key)',
            [$site, $kind, Sql::texts($keys), $reading],
        );
    }

    private function dropGoneMedia(int $site, int $reading): void
    {
        Landing::rememberGone($site, $reading);
        DB::delete(
            'delete from media_items m where m.site_id = ? and m.source_id is not null and not exists (select 1 from '
                .'staged_media s where s.reading_id = ? and s.path = m.path)',
            [$site, $reading],
        );
    }
}
