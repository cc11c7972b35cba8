<?php

declare(strict_types=1);

namespace App\Retire;

use App\Media\Looks;
use App\Models\MediaFile;
use App\Models\Site;
use App\Sites\SiteOpener;
use App\Support\WorkLock;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Foundation\Queue\Queueable;
use Ylema\Failure;

/** Takes the looks of pictures that nobody looked at yet, a turn at a time, and then says which are alike. */
final class LookAtPictures implements ShouldQueue
{
    use Queueable;

    /** Seconds that one worker gives to it before others get their turn. */
    private const TURN = 60;

    private const BATCH = 40;

    public int $tries = 3;

    public int $timeout = 900;

    public function __construct(public readonly int $siteId)
    {
    }

    /** Whether there are pictures that nobody looked at. */
    public static function isWanted(int $site): bool
    {
        return (new self($site))->unseen()->exists();
    }

    public function handle(SiteOpener $opener, Looks $looks): void
    {
        $lock = WorkLock::take(WorkLock::LOOKS, $this->siteId);
        if ($lock === null) {
            return;
        }
        try {
            $site = $opener->open(Site::query()->findOrFail($this->siteId));
            $until = time() + self::TURN;
            while (($files = $this->next()) !== []) {
                if (time() >= $until) {
                    self::dispatch($this->siteId);

                    return;
                }
                foreach ($files as $file) {
                    $looks->take($site, $file);
                }
            }
            (new Alike($this->siteId))->settle();
        } catch (Failure) {
            // The site does not answer; the next reading asks for it again.
        } finally {
            $lock->release();
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
