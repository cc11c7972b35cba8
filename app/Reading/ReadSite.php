<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Reading;
use App\Models\ReadingChunk;
use App\Models\ReadingState;
use App\Models\Site;
use App\Models\User;
use App\Retire\Proofs;
use App\Sites\Checkable;
use App\Sites\NotSearched;
use App\Sites\OpenSite;
use App\Sites\RedirectPlace;
use App\Sites\SiteOpener;
use App\Support\BulkRows;
use App\Support\Clock;
use App\Support\OwnDatabase;
use App\Support\WorkLock;
use Illuminate\Database\UniqueConstraintViolationException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use stdClass;
use Throwable;
use Ylema\Addresses\Resolver;
use Ylema\Failure;
use Ylema\Sites\StoredFile;

/**
 * Reading a site: begun, cut into chunks, stopped, finished. Each step is a job that may be run again, and holds a lock
 * while it works, so that a job whose worker died is known by its lock being free.
 */
final readonly class ReadSite
{
    private const RECORDS_A_CHUNK = 500;

    private const FILES_A_CHUNK = 300;

    private const TABLES_A_CHUNK = 10;

    public function __construct(private SiteOpener $opener)
    {
    }

    /**
     * @param  bool  $acceptLoss whether files that are not there any more are known to be really gone
     *
     * @throws AlreadyReading
     */
    public function begin(Site $site, ?User $by, bool $acceptLoss = false): Reading
    {
        $this->recover($site);
        try {
            $reading = Reading::query()->create([
                'site_id' => $site->id,
                'state' => ReadingState::Queued,
                'stage' => 'Waiting for a worker',
                'started_by' => $by?->id,
                'started_at' => now(),
                'accept_loss' => $acceptLoss,
            ]);
        } catch (UniqueConstraintViolationException) {
            throw new AlreadyReading();
        }
        PrepareReading::dispatch($reading->id);

        return $reading->refresh();
    }

    /** Lists files and media rows and cuts the records into chunks; then hands the chunks to the queue. */
    public function prepare(Reading $reading): void
    {
        $lock = WorkLock::take(WorkLock::READING, $reading->id);
        if ($lock === null) {
            return;
        }
        try {
            $reading->refresh();
            $underWay = in_array($reading->state, [ReadingState::Queued, ReadingState::Reading], true);
            if ($reading->prepared || ! $underWay) {
                return;
            }
            $site = $this->opener->open($reading->site);
            $reading->update([
                'state' => ReadingState::Reading,
                'stage' => 'Listing files',
                'anew' => trim((string) $reading->site->read_with) !== $site->readWith,
            ]);
            if ($site->content instanceof Checkable) {
                $site->content->check();
            }
            DB::transaction(function () use ($reading, $site): void {
                $reading->chunks()->delete();
                (new Landing($site, $reading))->clear();
                $this->list($reading, $site);
                $this->cut($reading, $site);
                $reading->update(['prepared' => true, 'stage' => 'Reading']);
            });
        } finally {
            $lock->release();
        }
        foreach ($reading->chunks()->orderBy('id')->pluck('id') as $chunk) {
            ReadChunk::dispatch((int) $chunk);
        }
    }

    public function chunk(ReadingChunk $chunk): void
    {
        $lock = WorkLock::take(WorkLock::CHUNK, $chunk->id);
        if ($lock === null) {
            return;
        }
        try {
            $chunk->refresh()->load('reading.site');
            if ($chunk->reading->state !== ReadingState::Reading || $chunk->done) {
                return;
            }
            $chunk->update(['begun' => true]);
            $site = $this->opener->open($chunk->reading->site);
            if (str_starts_with($chunk->kind, ':')) {
                (new BesideReader($site, $chunk->reading_id))->read($chunk);
            } else {
                (new ChunkReader($site, $chunk->reading->anew))->read($chunk);
            }
        } finally {
            $lock->release();
        }
        $this->finishIfRead($chunk->reading);
    }

    public function finish(Reading $reading): void
    {
        $lock = WorkLock::take(WorkLock::READING, $reading->id);
        if ($lock === null) {
            return;
        }
        try {
            // A stopped or failed reading leaves the index as it was.
            if (
                ! $reading->refresh()->state->isOpen()
                || ! $reading->prepared
                || $reading->chunks()->where('done', false)->exists()
            ) {
                return;
            }
            $reading->update(['state' => ReadingState::Landing, 'stage' => 'Working out where everything is met']);
            $site = $this->opener->open($reading->site);
            $totals = $this->totals($reading);
            (new Landing($site, $reading))->land(whole: true);
            $reading->site->update([
                'read_at' => now(),
                'read_with' => $site->readWith,
                'beside' => $this->beside($reading),
            ]);
            Nets::forget();
            (new Proofs($site->id))->settle();
            $reading->update([
                'state' => ReadingState::Done,
                'stage' => '',
                'totals' => $totals,
                'finished_at' => now(),
            ]);
        } finally {
            $lock->release();
        }
    }

    public function stop(Reading $reading): void
    {
        if (! $reading->state->isOpen() || $reading->state === ReadingState::Landing) {
            return;
        }
        $totals = $this->totals($reading);
        $reading->update([
            'state' => ReadingState::Stopped,
            'stage' => '',
            'totals' => $totals,
            'finished_at' => now(),
        ]);
    }

    public function fail(Reading $reading, Throwable $why): void
    {
        if (! $reading->state->isOpen()) {
            return;
        }
        if (! $why instanceof Failure) {
            report($why);
        }
        $reading->update([
            'state' => ReadingState::Failed,
            'stage' => '',
            'problem' => Str::limit(self::sentence($why), 1000),
            'totals' => $this->totals($reading),
            'finished_at' => now(),
        ]);
    }

    /**
     * Takes up again what dead workers left: a job whose lock nobody holds, though it was begun, is given to another
     * worker, and
     * what a dead refresh had staged is cleared.
     *
     * @return int how many readings were taken up
     */
    public function recover(?Site $site = null): int
    {
        $count = 0;
        $found = Reading::query()
            ->with('site')
            ->whereIn('state', ReadingState::open())
            ->when($site !== null, fn ($q) => $q->where('site_id', $site?->id))
            ->get();
        foreach ($found as $reading) {
            if (! WorkLock::isFree(WorkLock::READING, $reading->id)) {
                continue;
            }
            $count++;
            if (($reading->totals['partial'] ?? false) === true) {
                $reading->delete();
            } elseif (! $reading->prepared) {
                // One that nobody began may just be waiting in the queue for its turn.
                $reading->state === ReadingState::Queued && ! Clock::isPast($reading->started_at, 45)
                    ? $count--
                    : PrepareReading::dispatch($reading->id);
            } else {
                $this->recoverChunks($reading);
            }
        }

        return $count;
    }

    /**
     * What was looked into beside the field map, over all chunks.
     *
     * @return array{tables: int, files: int, left: list<array{place: string, why: string}>, more: int}
     */
    private function beside(Reading $reading): array
    {
        $beside = ['tables' => 0, 'files' => 0, 'left' => [], 'more' => 0];
        foreach ($reading->chunks()->whereNotNull('beside')->orderBy('id')->get() as $chunk) {
            $own = $chunk->beside ?? ['left' => [], 'more' => 0];
            $beside['tables'] += $own['tables'] ?? 0;
            $beside['files'] += $own['files'] ?? 0;
            $beside['more'] += $own['more'];
            array_push($beside['left'], ...$own['left']);
        }

        return $beside;
    }

    /** @return array<string, int> */
    public function totals(Reading $reading): array
    {
        $row = DB::selectOne(
            <<<'SQL'
            select coalesce(sum(records) filter (where kind <> 'files'), 0) as records, coalesce(sum(refs), 0) as refs,
                coalesce(sum(changed) filter (where kind <> 'files'), 0) as changed,
                    coalesce(sum(records) filter (where kind = 'files'), 0) as files,
                coalesce(sum(changed) filter (where kind = 'files'), 0) as changed_files,
                coalesce(sum(jsonb_array_length(problems)), 0) as problems, count(*) as chunks,
                    count(*) filter (where done) as done
            from reading_chunks where reading_id = ?
            SQL
            ,
            [$reading->id],
        );
        $totals = array_map(intval(...), (array) $row);
        $totals['problems'] = ($totals['problems'] ?? 0) + count($reading->unread);

        return $totals;
    }

    private function recoverChunks(Reading $reading): void
    {
        foreach ($reading->chunks()->where('done', false)->where('begun', true)->pluck('id') as $chunk) {
            if (WorkLock::isFree(WorkLock::CHUNK, (int) $chunk)) {
                ReadChunk::dispatch((int) $chunk);
            }
        }
        $waiting = $reading->chunks()->where('done', false)->where('begun', false);
        if (
            Clock::isPast($reading->started_at, 45)
            && (clone $waiting)->exists()
            && ! DB::table('jobs')->where('payload', 'like', '%ReadChunk%')->exists()
        ) {
            // Cut, but the process died before it had handed all of them on.
            foreach ($waiting->pluck('id') as $chunk) {
                ReadChunk::dispatch((int) $chunk);
            }
        }
        $this->finishIfRead($reading);
    }

    private function finishIfRead(Reading $reading): void
    {
        if (! $reading->chunks()->where('done', false)->exists()) {
            FinishReading::dispatch($reading->id);
        }
    }

    private function list(Reading $reading, OpenSite $site): void
    {
        $rows = new BulkRows('staged_files', ['reading_id', 'path', 'fold', 'name_fold', 'size', 'modified']);
        $unread = [];
        foreach ($site->files->files() as $file) {
            if ($file instanceof StoredFile) {
                $rows->add([
                    $reading->id,
                    $file->path,
                    Resolver::fold($file->path),
                    Resolver::foldName($file->path),
                    $file->size,
                    $file->modified,
                ]);
            } elseif (count($unread) < 1000) {
                $unread[] = ['path' => mb_scrub($file->path), 'why' => $file->why];
            }
        }
        $rows->flush();
        $reading->update(['unread' => $unread]);
        if (! $reading->accept_loss) {
            $this->refuseLoss($reading, $site);
        }
        $rows = new BulkRows('staged_media', ['reading_id', 'path', 'source_id', 'hash', 'row']);
        foreach ($site->content->media() as $item) {
            $row = get_object_vars($item);
            $rows->add([$reading->id, $item->path, $item->id, hash('xxh128', serialize($row)), $row]);
        }
        $rows->flush();
        $this->listRedirects($reading, $site);
        $this->readCode($reading, $site);
    }

    private function listRedirects(Reading $reading, OpenSite $site): void
    {
        $rows = new BulkRows('staged_redirects', ['reading_id', 'from_path', 'to_address', 'to_path', 'status']);
        foreach ($site->content->redirects() as $redirect) {
            $from = RedirectPlace::key($site->addresses, $redirect->from);
            if ($from !== null) {
                $rows->add([
                    $reading->id,
                    $from,
                    $redirect->to,
                    RedirectPlace::key($site->addresses, $redirect->to),
                    $redirect->status,
                ]);
            }
        }
        $rows->flush();
    }

    /** What the site's own code names: templates and styles on disk are few, and are read whole each time. */
    private function readCode(Reading $reading, OpenSite $site): void
    {
        if ($site->code === null) {
            $reading->site->update(['code' => null]);

            return;
        }
        $staged = new StagedMentions($reading->id, null, Nets::words($site->id));
        $reader = new BesideReader($site, $reading->id);
        $files = 0;
        foreach ($site->code->files() as $path => $file) {
            if ($file instanceof NotSearched) {
                $reader->leave($file);

                continue;
            }
            $files++;
            $reader->file($path, $file, StagedMentions::CODE, $staged);
            $served = $site->code->served($path);
            if ($served !== null) {
                $staged->isCode($served);
            }
        }
        $staged->flush();
        $reading->site->update(['code' => ['files' => $files, 'left' => $reader->left()]]);
    }

    /**
     * A folder that is suddenly empty is more likely not mounted than emptied; taking that for true would lose the
     * whole index of it.
     */
    private function refuseLoss(Reading $reading, OpenSite $site): void
    {
        foreach ($site->map->mediaFolders as $folder) {
            $like = addcslashes($folder, '%_\\').'%';
            $before = DB::table('files')->where('site_id', $site->id)->where('path', 'like', $like)->count();
            if (
                $before > 0
                && DB::table('staged_files')
                    ->where('reading_id', $reading->id)
                    ->where('path', 'like', $like)
                    ->doesntExist()
            ) {
                throw new FolderEmptied($folder, $before);
            }
        }
    }

    private function cut(Reading $reading, OpenSite $site): void
    {
        $size = self::FILES_A_CHUNK;
        $ends = DB::select(
            'select path from (select path, row_number() over (order by path) as n from staged_files where reading_id '
                ."= ?) as numbered where n % $size = 0 order by n",
            [$reading->id],
        );
        $rows = new BulkRows('reading_chunks', ['reading_id', 'kind', 'after_key', 'to_key']);
        $after = null;
        foreach ([...array_map(static fn (stdClass $row): string => $row->path, $ends), null] as $to) {
            $rows->add([$reading->id, 'files', $after, $to]);
            $after = $to;
        }
        foreach (array_chunk($site->tablesBeside?->tables() ?? [], self::TABLES_A_CHUNK) as $tables) {
            $rows->add([$reading->id, BesideReader::TABLES, null, implode("\n", $tables)]);
        }
        $rows->add([$reading->id, BesideReader::FILES, null, null]);
        foreach ($site->content->kinds() as $kind) {
            foreach ($site->content->ranges($kind, self::RECORDS_A_CHUNK) as $range) {
                $rows->add([$reading->id, $kind, $range->after, $range->to]);
            }
        }
        $rows->flush();
    }

    private static function sentence(Throwable $why): string
    {
        return $why instanceof Failure
            ? $why->getMessage()
            : OwnDatabase::says($why) ?? 'The reading stopped on an error of its own: '.$why->getMessage();
    }
}
