<?php

declare(strict_types=1);

use Tests\Browser\FetchJudge;

it('names every picture that Chromium requests for a page, and only what it may request', function (): void {
    $judge = new FetchJudge(self::installation());
    try {
        $requests = 0;
        foreach (
            [
                '/',
                '/people',
                '/events',
                '/history',
                '/tides/tables',
                '/species/dulse',
                '/walks/gull-skerry',
                '/boats',
                '/journal/from-the-hide-no-9',
                '/journal/bird-count-week-1',
                '/journal/log-of-the-petrel-trip-110',
                '/journal/notes-on-the-ebb-52',
            ] as $page
        ) {
            $verdict = $judge->judge($page);
            expect($verdict->unnamed)
                ->toBe([], "$page: requested, but not named by the reader")
                ->and($verdict->missed)
                ->toBe([], "$page: named as fetched by itself, but not requested")
                ->and($verdict->unmapped)
                ->toBe([], "$page: requested, but not on the map of the page")
                ->and(count($verdict->requested))
                ->toBeGreaterThan(2, $page);
            $requests += count($verdict->requested);
        }
        expect($requests)->toBeGreaterThan(80);
    } finally {
        $judge->quit();
    }
});
