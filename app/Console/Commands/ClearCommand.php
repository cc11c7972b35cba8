<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Health\Retention;
use App\Media\Uploads;
use App\Vault\Clearing;

final class ClearCommand extends Command
{
    protected $signature = 'ylema:clear {--nightly : also plans, drafts, histories and small pictures that are over}';

    protected $description = 'Clear away uploads that no plan uses, and kept bytes that nothing needs any more';

    public function handle(Uploads $uploads, Clearing $clearing): int
    {
        $this->line(sprintf('%d uploads that no plan uses were cleared away.', $uploads->clear()));
        [$count, $weight] = $clearing->run();
        $this->line(sprintf('%d kept files that nothing needs were cleared away (%.1f MB).', $count, $weight / 1e6));

        foreach ($this->option('nightly') === true ? Retention::rules() : [] as $rule) {
            $gone = ($rule->clear)();
            $gone === 0 ?: $this->line("$gone went of: $rule->what ($rule->until).");
        }

        return self::SUCCESS;
    }
}
