<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Archive\VerifyBag;
use App\Changes\RestoreCalled;
use App\Logs\WatchedLogs;
use App\Models\Bag;
use App\Models\Site;
use App\Retire\LookAtPictures;

/** What happens to files at rest without anybody's doing: logs are read, called ones come back, bags are verified. */
final class WatchCommand extends Command
{
    /** A bag is read back this often. */
    private const DAYS = 30;

    protected $signature = 'ylema:watch';

    protected $description = 'Read watched logs, bring back what is called, verify bags that were not looked at lately';

    public function handle(WatchedLogs $logs, RestoreCalled $called): int
    {
        foreach (Site::query()->orderBy('id')->get() as $site) {
            foreach ($logs->read($site) as $said) {
                $this->line("$site->slug: $said");
            }
            $called->run($site);
            if (LookAtPictures::isWanted($site->id)) {
                LookAtPictures::dispatch($site->id);
            }
        }
        // One at a time: a bag may be large, and the disk is needed for other things.
        $bag = Bag::query()
            ->where('state', Bag::SEALED)
            ->where('verified_at', '<', now()->subDays(self::DAYS))
            ->orderBy('verified_at')
            ->first();
        if ($bag !== null) {
            VerifyBag::dispatch($bag->id);
        }

        return self::SUCCESS;
    }
}
