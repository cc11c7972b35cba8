<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Reading;
use App\Models\ReadingState;
use App\Models\Site;
use App\Sites\SiteOpener;
use Illuminate\Database\UniqueConstraintViolationException;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\Resolver;
use Ylema\Sites\FileMissing;

/** Reads again just the records and files that a change wrote, through the same staging and landing as a whole reading. */
final readonly class RefreshIndex
{
    public function __construct(private SiteOpener $opener)
    {
    }

    /**
     * @param  array<string, list<string>>  $records kind → keys
     * @param  list<string>  $paths
     * @param  bool  $media whether media rows came or went
     *
     * @throws AlreadyReading while a whole reading runs; try again after it
     */
    public function refresh(Site $model, array $records, array $paths, bool $media): void
    {
        $site = $this->opener->open($model);
        try {
            $reading = Reading::query()->create(['site_id' => $site->id, 'state' => ReadingState::Landing, 'stage' => 'Reading what changed', 'started_at' => now(), 'totals' => ['partial' => true]]);
        } catch (UniqueConstraintViolationException) {
            throw new AlreadyReading;
        }
        try {
            foreach ($records as $kind => $keys) {
                $chunk = $reading->chunks()->create(['kind' => $kind]);
                (new ChunkReader($site))->stage($chunk, $site->content->find($kind, $keys));
            }
            $gone = $this->stageFiles($site, $reading, $paths);
            if ($media) {
                $rows = new BulkRows('staged_media', ['reading_id', 'path', 'source_id', 'hash', 'row']);
                foreach ($site->content->media() as $item) {
                    $row = get_object_vars($item);
                    $rows->add([$reading->id, $item->path, $item->id, hash('xxh128', serialize($row)), $row]);
                }
                $rows->flush();
                $this->dropGoneMedia($site->id, $reading->id);
            }
            if ($gone !== []) {
                DB::table('files')->where('site_id', $site->id)->whereIn('path', $gone)->delete();
            }
            (new Landing($site, $reading))->land(whole: false);
        } finally {
            // Not part of the history of readings; its rows go with it.
            $reading->delete();
        }
    }

    /**
     * @param  list<string>  $paths
     * @return list<string> those that no longer exist
     */
    private function stageFiles(\App\Sites\OpenSite $site, Reading $reading, array $paths): array
    {
        $gone = [];
        $rows = new BulkRows('staged_files', ['reading_id', 'path', 'fold', 'name_fold', 'size', 'modified', 'sha256', 'width', 'height', 'mime']);
        foreach ($paths as $path) {
            try {
                $bytes = $site->files->read($path);
            } catch (FileMissing) {
                $gone[] = $path;

                continue;
            }
            $probe = FileProbe::of($bytes);
            $rows->add([$reading->id, $path, Resolver::fold($path), Resolver::foldName($path), strlen($bytes), time(), $probe->sha256, $probe->width, $probe->height, $probe->mime]);
        }
        $rows->flush();

        return $gone;
    }

    private function dropGoneMedia(int $site, int $reading): void
    {
        DB::delete('delete from media_items m where m.site_id = ? and m.source_id is not null and not exists (select 1 from staged_media s where s.reading_id = ? and s.path = m.path)', [$site, $reading]);
    }
}
