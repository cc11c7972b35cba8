<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Reading;
use App\Models\ReadingState;
use App\Models\Site;
use App\Reading\AlreadyReading;
use App\Reading\ReadSite;
use App\Survey\AlreadySurveying;
use App\Survey\Surveys;

/** Begins what is due tonight: a reading first, and once it has landed, a survey of what visitors get. */
final class NightlyCommand extends Command
{
    protected $signature = 'ylema:nightly';

    protected $description = 'Begin the nightly reading and survey of the sites whose minute has come';

    protected $hidden = true;

    public function handle(ReadSite $readSite, Surveys $surveys): int
    {
        $today = now()->toDateString();
        foreach (Site::query()->whereNotNull('nightly')->where('nightly', '<=', now()->format('H:i'))->get() as $site) {
            if ($site->nightly_read_on !== $today) {
                try {
                    $readSite->begin($site, null);
                    $site->update(['nightly_read_on' => $today]);
                } catch (AlreadyReading) {
                    // Somebody has it read just now; in a minute it is tried again.
                }

                continue;
            }
            // Where nobody said how the public site may be asked, there is nothing to survey.
            $mayAsk = $site->ask_public || $site->reach_at !== [];
            if ($site->nightly_surveyed_on === $today || ! $mayAsk || $this->isRead($site)) {
                continue;
            }
            try {
                $surveys->begin($site, null);
                $site->update(['nightly_surveyed_on' => $today]);
            } catch (AlreadySurveying) {
                // The same.
            }
        }

        return self::SUCCESS;
    }

    private function isRead(Site $site): bool
    {
        return Reading::query()
            ->where('site_id', $site->id)
            ->whereIn('state', [ReadingState::Queued, ReadingState::Reading, ReadingState::Landing])
            ->exists();
    }
}
