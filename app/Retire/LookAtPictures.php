<?php

declare(strict_types=1);

namespace App\Retire;

use App\Media\Differences;
use App\Media\Looks;
use App\Models\MediaFile;
use App\Models\Site;
use App\Sites\SiteOpener;
use App\Support\Clock;
use App\Support\WorkLock;
use Illuminate\Contracts\Queue\ShouldBeUniqueUntilProcessing;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Foundation\Queue\Queueable;
use Ylema\Failure;

/**
 * Takes the looks of pictures that nobody looked at yet, a turn at a time, compares what looks alike closely, and says
 * which are the same. It takes one worker, whatever the number of sites, so that the others read and carry out plans
 * meanwhile.
 */
final class LookAtPictures implements ShouldBeUniqueUntilProcessing, ShouldQueue
{
    use Queueable;

    /** Seconds that one worker gives to it before others get their turn. */
    private const TURN = 30;

    private const BATCH = 40;

    /** One lock for all sites. */
    private const EVERYBODY = 0;

    /** Seconds after which a queued job counts as lost. */
    public int $uniqueFor = 600;

    public int $tries = 3;

    public int $timeout = 900;

    public function __construct(public readonly int $siteId)
    {
    }

    /** One turn of a site waits at a time. */
    public function uniqueId(): string
    {
        return (string) $this->siteId;
    }

    /** How many pictures nobody looked at, and pairs that nobody compared. */
    public static function left(int $site): int
    {
        return (new self($site))->unseen()->count() + (new Comparisons($site))->left();
    }

    /** Whether there are such. */
    public static function isWanted(int $site): bool
    {
        return (new self($site))->unseen()->exists() || (new Comparisons($site))->areLeft();
    }

    public function handle(SiteOpener $opener, Looks $looks, Differences $differences): void
    {
        $lock = WorkLock::take(WorkLock::LOOKS, self::EVERYBODY);
        if ($lock === null) {
            // Who holds it hands on to this site when its turn ends.
            return;
        }
        $isDone = $isAway = false;
        try {
            $site = $opener->open(Site::query()->findOrFail($this->siteId));
            $until = Clock::seconds() + self::TURN;
            $comparisons = new Comparisons($this->siteId);
            $isNew = false;
            while (($files = $this->next()) !== []) {
                $isNew = true;
                foreach ($files as $file) {
                    $looks->take($site, $file);
                    if (Clock::seconds() >= $until) {
                        return;
                    }
                }
            }
            // Groups are worked out from afar first, which says what is worth a closer look, and once more after it.
            if (! $isNew && ! $comparisons->work($site, $differences, $until)) {
                return;
            }
            (new Alike($this->siteId))->settle();
            $isDone = ! $comparisons->areLeft();
        } catch (Failure) {
            // The site does not answer; the next reading asks for it again, and the day's watch for all the others.
            $isAway = true;
        } finally {
            $lock->release();
            if (! $isAway) {
                $this->handOn($isDone);
            }
        }
    }

    /** The next turn is another site's where one waits, and else this one's own. */
    private function handOn(bool $isDone): void
    {
        $next = Site::query()
            ->where('id', '<>', $this->siteId)
            ->orderByRaw('id < ?, id', [$this->siteId])
            ->get()
            ->first(static fn (Site $site): bool => self::isWanted($site->id));
        if ($next !== null) {
            self::dispatch($next->id);
        }
        if (! $isDone) {
            self::dispatch($this->siteId);
        }
    }

    /** @return list<MediaFile> */
    private function next(): array
    {
        return array_values($this->unseen()->orderBy('id')->limit(self::BATCH)->get()->all());
    }

    /** @return Builder<MediaFile> */
    private function unseen(): Builder
    {
        return MediaFile::query()
            ->where('site_id', $this->siteId)
            ->where('is_original', true)
            ->where('size', '>', 0)
            ->where('mime', 'like', 'image/%')
            ->where('mime', '<>', 'image/svg+xml')
            ->whereNotExists(fn ($q) => $q->from('looks')->whereColumn('looks.sha256', 'files.sha256'));
    }
}
