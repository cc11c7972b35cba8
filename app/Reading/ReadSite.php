<?php

declare(strict_types=1);

namespace App\Reading;

use App\Jobs\FinishReading;
use App\Jobs\PrepareReading;
use App\Jobs\ReadChunk;
use App\Models\Reading;
use App\Models\ReadingChunk;
use App\Models\ReadingState;
use App\Models\Site;
use App\Models\User;
use App\Sites\SiteOpener;
use Illuminate\Bus\Batch;
use Illuminate\Database\UniqueConstraintViolationException;
use Illuminate\Support\Facades\Bus;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Throwable;
use Ylema\Addresses\Resolver;
use Ylema\Sites\StoredFile;

/** Reading a site: begun, cut into chunks, stopped, finished. Each step is a job that may be run again. */
final readonly class ReadSite
{
    private const RECORDS_A_CHUNK = 500;

    private const FILES_A_CHUNK = 300;

    public function __construct(private SiteOpener $opener)
    {
    }

    /** @throws AlreadyReading */
    public function begin(Site $site, ?User $by): Reading
    {
        $this->dropAbandoned($site);
        try {
            $reading = Reading::query()->create(['site_id' => $site->id, 'state' => ReadingState::Queued, 'stage' => 'Waiting for a worker', 'started_by' => $by?->id, 'started_at' => now()]);
        } catch (UniqueConstraintViolationException) {
            throw new AlreadyReading;
        }
        PrepareReading::dispatch($reading->id);

        return $reading;
    }

    /** Lists files and media rows and cuts the records into chunks; then hands the chunks to the queue. */
    public function prepare(Reading $reading): void
    {
        $site = $this->opener->open($reading->site);
        $reading->update(['state' => ReadingState::Reading, 'stage' => 'Listing files']);
        DB::transaction(function () use ($reading, $site): void {
            $reading->chunks()->delete();
            (new Landing($site, $reading))->clear();
            $rows = new BulkRows('staged_files', ['reading_id', 'path', 'fold', 'name_fold', 'size', 'modified']);
            /** @var StoredFile $file */
            foreach ($site->files->files() as $file) {
                $rows->add([$reading->id, $file->path, Resolver::fold($file->path), Resolver::foldName($file->path), $file->size, $file->modified]);
            }
            $rows->flush();
            $rows = new BulkRows('staged_media', ['reading_id', 'path', 'source_id', 'hash', 'row']);
            foreach ($site->content->media() as $item) {
                $row = get_object_vars($item);
                $rows->add([$reading->id, $item->path, $item->id, hash('xxh128', serialize($row)), $row]);
            }
            $rows->flush();
            $this->cut($reading, $site->content->kinds(), $site->content);
        });
        $reading->update(['stage' => 'Reading']);
        $id = $reading->id;
        $batch = Bus::batch($reading->chunks()->pluck('id')->map(static fn (int $chunk): ReadChunk => new ReadChunk($chunk))->all())
            ->name("reading $id")
            ->then(static function (Batch $batch) use ($id): void {
                FinishReading::dispatch($id);
            })
            ->catch(static function (Batch $batch, Throwable $e) use ($id): void {
                app(self::class)->fail(Reading::query()->findOrFail($id), $e);
            })
            ->dispatch();
        $reading->update(['batch_id' => $batch->id]);
    }

    /** @param  list<string>  $kinds */
    private function cut(Reading $reading, array $kinds, \Ylema\Sites\ContentSource $content): void
    {
        $size = self::FILES_A_CHUNK;
        $ends = DB::select("select path from (select path, row_number() over (order by path) as n from staged_files where reading_id = ?) as numbered where n % $size = 0 order by n", [$reading->id]);
        $after = null;
        foreach ([...array_map(static fn (\stdClass $row): string => $row->path, $ends), null] as $to) {
            $reading->chunks()->create(['kind' => 'files', 'after_key' => $after, 'to_key' => $to]);
            $after = $to;
        }
        foreach ($kinds as $kind) {
            foreach ($content->ranges($kind, self::RECORDS_A_CHUNK) as $range) {
                $reading->chunks()->create(['kind' => $kind, 'after_key' => $range->after, 'to_key' => $range->to]);
            }
        }
    }

    public function chunk(ReadingChunk $chunk): void
    {
        $chunk->loadMissing('reading.site');
        if ($chunk->reading->state !== ReadingState::Reading) {
            return;
        }
        (new ChunkReader($this->opener->open($chunk->reading->site)))->read($chunk);
    }

    public function finish(Reading $reading): void
    {
        // A stopped or failed reading leaves the index as it was.
        if (! $reading->state->isOpen()) {
            return;
        }
        $reading->update(['state' => ReadingState::Landing, 'stage' => 'Working out where everything is met']);
        $site = $this->opener->open($reading->site);
        $totals = $this->totals($reading);
        (new Landing($site, $reading))->land(whole: true);
        $reading->update(['state' => ReadingState::Done, 'stage' => '', 'totals' => $totals, 'finished_at' => now()]);
        $reading->site->update(['read_at' => now()]);
    }

    public function stop(Reading $reading): void
    {
        if (! $reading->state->isOpen() || $reading->state === ReadingState::Landing) {
            return;
        }
        $totals = $this->totals($reading);
        $reading->update(['state' => ReadingState::Stopped, 'stage' => '', 'totals' => $totals, 'finished_at' => now()]);
        if ($reading->batch_id !== null) {
            Bus::findBatch($reading->batch_id)?->cancel();
        }
    }

    public function fail(Reading $reading, Throwable $why): void
    {
        if (! $reading->state->isOpen()) {
            return;
        }
        report($why);
        $reading->update(['state' => ReadingState::Failed, 'stage' => '', 'problem' => Str::limit(self::sentence($why), 1000), 'totals' => $this->totals($reading), 'finished_at' => now()]);
    }

    /** @return array<string, int> */
    public function totals(Reading $reading): array
    {
        $row = DB::selectOne(<<<'SQL'
            select coalesce(sum(records) filter (where kind <> 'files'), 0) as records, coalesce(sum(refs), 0) as refs,
                coalesce(sum(changed) filter (where kind <> 'files'), 0) as changed, coalesce(sum(records) filter (where kind = 'files'), 0) as files,
                coalesce(sum(changed) filter (where kind = 'files'), 0) as changed_files,
                coalesce(sum(jsonb_array_length(problems)), 0) as problems, count(*) as chunks, count(*) filter (where done) as done
            from reading_chunks where reading_id = ?
            SQL, [$reading->id]);

        return array_map(intval(...), (array) $row);
    }

    /** A reading whose worker never came back does not block the next one for ever. */
    private function dropAbandoned(Site $site): void
    {
        Reading::query()->where('site_id', $site->id)->whereIn('state', ReadingState::open())->where('started_at', '<', now()->subHours(6))
            ->update(['state' => ReadingState::Failed, 'problem' => 'It was left unfinished for six hours, so it was given up. Read again.', 'finished_at' => now()]);
    }

    private static function sentence(Throwable $why): string
    {
        return $why instanceof \Ylema\Sites\SourceUnavailable || $why instanceof \App\Sites\FieldMapError
            ? $why->getMessage()
            : 'The reading stopped on an error of its own: '.$why->getMessage();
    }
}
