<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeOptions;
use Facebook\WebDriver\Remote\DesiredCapabilities;
use Facebook\WebDriver\Remote\RemoteWebDriver;

/** A headless Chromium that asks nobody outside of this machine. */
final class Chromium
{
    private const ARGUMENTS = [
        '--headless=new',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--disable-dev-shm-usage',
        '--force-prefers-reduced-motion',
        // A page that was left is gone: kept for a way back, it would go on taking memory and time.
        '--disable-features=BackForwardCache',
    ];

    /** @param  list<string>  $more arguments */
    public static function start(string $driver, array $more = [], bool $logged = false): RemoteWebDriver
    {
        $options = (new ChromeOptions())
            ->setBinary('/usr/bin/chromium')
            ->addArguments([
                ...self::ARGUMENTS,
                ...$more,
                '--user-data-dir='.sys_get_temp_dir().'/ylema-chromium-'.bin2hex(random_bytes(4)),
            ]);
        $capabilities = DesiredCapabilities::chrome()->setCapability(ChromeOptions::CAPABILITY, $options);
        if ($logged) {
            $capabilities->setCapability('goog:loggingPrefs', ['performance' => 'ALL']);
        }

        return RemoteWebDriver::create($driver, $capabilities, 30_000, 90_000);
    }
}
