<?php

declare(strict_types=1);

use Facebook\WebDriver\Chrome\ChromeOptions;
use Facebook\WebDriver\Remote\DesiredCapabilities;
use Facebook\WebDriver\Remote\RemoteWebDriver;
use Ylema\Addresses\Url;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/**
 * The browser as the judge: what it requests for a public page is what the reader says of the page's markup and
 * style sheets. What is fetched on a condition may be requested or not; nothing else may be.
 */
it('names every picture that Chromium requests for a page, and only what it may request', function (string $path): void {
    $origin = 'http://127.0.0.1:'.self::setting('SITE_PORT');
    $options = (new ChromeOptions)->setBinary('/usr/bin/chromium');
    $options->addArguments(['--headless=new', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--disable-dev-shm-usage', '--window-size=1280,4000', '--user-data-dir='.sys_get_temp_dir().'/ylema-judge-'.bin2hex(random_bytes(4))]);
    // The site's own names lead to its stand-ins on this machine; every other name leads nowhere.
    $options->addArguments(['--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1']);
    $capabilities = DesiredCapabilities::chrome()->setCapability(ChromeOptions::CAPABILITY, $options)->setCapability('goog:loggingPrefs', ['performance' => 'ALL']);
    $driver = RemoteWebDriver::create('http://127.0.0.1:'.(self::port() + 9), $capabilities, 30_000, 60_000);
    try {
        $driver->get($origin.$path);
        usleep(1_200_000);
        $requested = [];
        foreach ($driver->manage()->getLog('performance') as $entry) {
            $message = json_decode($entry['message'], true)['message'] ?? [];
            if (($message['method'] ?? '') === 'Network.requestWillBeSent' && ($message['params']['type'] ?? '') === 'Image'
                // The start page of the browser itself loads pictures, too.
                && ($message['params']['documentURL'] ?? '') === $origin.$path && str_starts_with($message['params']['request']['url'], 'http')) {
                $requested[(string) strtok($message['params']['request']['url'], '#')] = true;
            }
        }
    } finally {
        $driver->quit();
    }

    $reader = new FieldReader;
    $rules = new Rules(mediaFolders: ['/media/']);
    $always = $may = [];
    $page = Url::parse($origin.$path);
    $note = static function (string $value, Fetch $fetch, ?Url $base) use (&$always, &$may): void {
        $url = Url::parse($value, $base);
        if ($url !== null && $url->isWeb() && $fetch !== Fetch::WhenFollowed) {
            $address = (string) new Url($url->scheme, $url->host, $url->port, $url->path, $url->query);
            $may[$address] = true;
            $fetch === Fetch::Always && $always[$address] = true;
        }
    };
    foreach ($reader->read((string) file_get_contents($origin.$path), Notation::Html, $rules)->references as $reference) {
        if ($reference->role === 'link[href]' && str_ends_with($reference->value, '.css')) {
            $sheet = Url::parse($reference->value, $page);
            foreach ($reader->read((string) file_get_contents((string) $sheet), Notation::Css, $rules)->references as $inSheet) {
                $note($inSheet->value, $inSheet->fetch, $sheet);
            }
        } elseif ($reference->role !== 'link[href]') {
            $note($reference->value, $reference->fetch, $page);
        } else {
            $note($reference->value, Fetch::OnCondition, $page);
        }
    }
    // A https address is upgraded or refused before it leaves the browser; the judge sees it as asked for.
    $known = array_filter(array_keys($requested), static fn (string $url): bool => ! isset($may[$url]));
    $missed = array_filter(array_keys($always), static fn (string $url): bool => ! isset($requested[$url]));
    expect(array_values($known))->toBe([], 'requested, but not named by the reader')
        ->and(array_values($missed))->toBe([], 'named as fetched by itself, but not requested')
        ->and(count($requested))->toBeGreaterThan(2);
})->with(['/', '/people', '/events', '/history', '/tides/tables', '/species/dulse', '/walks/gull-skerry', '/boats', '/journal/from-the-hide-no-9', '/journal/bird-count-week-1', '/journal/log-of-the-petrel-trip-110', '/journal/notes-on-the-ebb-52']);
