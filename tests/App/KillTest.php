<?php

declare(strict_types=1);

use App\Plans\Planners;
use Tests\App\Kill\AllKindsPlanner;
use Tests\App\Kill\Killing;
use Tests\App\Kill\Moments;

it('loses nothing and leaves nothing half done when workers are killed', function (string $kind, int $kills): void {
    $this->touched();
    app(Planners::class)->add(AllKindsPlanner::class);
    $killing = new Killing($kind, 4711);
    // About ten kills a round: five acts, there and back. bench/kill does as many as it is told to.
    while ($killing->kills < $kills) {
        $killing->once();
    }
    expect(array_sum($killing->caught))->toBeGreaterThan(0);
})->with([['pgsql', 18], ['mysql', 9], ['sqlite', 9]]);

it('counts the calls of every room that changes files', function (): void {
    $calls = implode('|', Moments::CALLS);
    $rooms = [];
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(base_path('app'))) as $file) {
        $code = str_ends_with((string) $file, '.php') ? (string) file_get_contents((string) $file) : '';
        $bare = (string) preg_replace('~/\*(?s:.*?)\*/|//.*~', '', $code);
        if (preg_match("~(?<![>:\\\\\w\$])(?:$calls)\(~", $bare) === 1) {
            preg_match('~^namespace ([\w\\\\]+);~m', $code, $m);
            $rooms[$m[1] ?? ''] = true;
        }
    }
    // What these write is no part of a change.
    $others = ['', 'Backup', 'Connect', 'Console', 'Console\Commands', 'Health', 'Http', 'Http\Controllers', 'Logs',
        'Media', 'Outgoing', 'People', 'Reading', 'Sites\Packed', 'Sites\Remote', 'Sites\Sql', 'Support', 'Survey',
        'Takeaway'];
    $others = array_map(static fn (string $room): string => $room === '' ? '' : "App\\$room", $others);
    expect(array_values(array_diff(array_keys($rooms), Moments::ROOMS, $others)))->toBe([]);
});
