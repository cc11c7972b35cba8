<?php

declare(strict_types=1);

/*
 * Two machines of one commit have the same libraries, to the last one that another needs. bin/pin writes them down.
 */

it('has the very PHP libraries that are written down', function (): void {
    $root = dirname(__DIR__, 2);
    $installed = json_decode((string) file_get_contents("$root/vendor/composer/installed.json"), true)['packages'];
    $lines = array_map(static fn (array $one): string => "{$one['name']} {$one['version']}", $installed);
    sort($lines);
    expect($lines)->toBe(explode("\n", trim((string) file_get_contents("$root/composer.versions"))));
});

it('has the very front-end libraries that are written down, and no other bytes', function (): void {
    $root = dirname(__DIR__, 2);
    $read = static fn (string $file): array => json_decode((string) file_get_contents("$root/$file"), true)['packages'];
    $locked = $read('package-lock.json');
    $differ = [];
    foreach ($read('node_modules/.package-lock.json') as $path => $one) {
        $wanted = $locked[$path] ?? [];
        foreach (['version', 'integrity'] as $what) {
            if (($one[$what] ?? null) !== ($wanted[$what] ?? null)) {
                $differ[] = "$path: $what";
            }
        }
    }
    expect($differ)->toBe([]);
});

it('names no server from which they are fetched', function (): void {
    $root = dirname(__DIR__, 2);
    expect((string) file_get_contents("$root/package-lock.json"))->not->toContain('"resolved"')->not->toContain('://')
        ->and((string) file_get_contents("$root/composer.versions"))->not->toContain('://');
});
