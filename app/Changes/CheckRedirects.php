<?php

declare(strict_types=1);

namespace App\Changes;

use App\Models\Site;
use App\Redirects\RedirectChecker;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Checks the redirects of a site, once at a time, and with them what changes promised of them. */
final class CheckRedirects implements ShouldBeUnique, ShouldQueue
{
    use Queueable;

    public int $tries = 1;

    public int $timeout = 3600;

    public int $uniqueFor = 3600;

    public function __construct(public readonly int $siteId)
    {
    }

    public function uniqueId(): string
    {
        return (string) $this->siteId;
    }

    public function handle(RedirectChecker $checker, Verification $verification): void
    {
        $site = Site::query()->find($this->siteId);
        if ($site !== null) {
            $checker->check($site);
            $verification->askAgain($site);
        }
    }
}
