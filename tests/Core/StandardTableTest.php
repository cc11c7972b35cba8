<?php

declare(strict_types=1);

/*
 * The table in docs/security.md: what it calls met names something that is there, what is open says until when.
 */

/** @return list<array{string, string, string, string}> number, what, state, where */
function standardRows(): array
{
    $text = (string) file_get_contents(dirname(__DIR__, 2).'/docs/security.md');
    preg_match_all('~^\| (\d+\.\d+\.\d+) \| (.+?) \| (.+?) \| (.+) \|$~m', $text, $rows, PREG_SET_ORDER);

    return array_map(static fn (array $row): array => [$row[1], $row[2], $row[3], $row[4]], $rows);
}

it('has each requirement once, in one of three states, and counts them rightly', function (): void {
    $rows = standardRows();
    $numbers = array_column($rows, 0);
    $states = array_count_values(array_column($rows, 2));
    expect(count($rows))->toBeGreaterThan(240)
        ->and($numbers)->toBe(array_unique($numbers))
        ->and(array_keys($states))->toEqualCanonicalizing(['met', 'not applicable', 'open'])
        ->and(file_get_contents(dirname(__DIR__, 2).'/docs/security.md'))
        ->toContain("{$states['met']} are met, {$states['not applicable']} do not apply, {$states['open']} are open.");
});

it('names only what is there, and says until when something is open', function (): void {
    $root = dirname(__DIR__, 2);
    foreach (standardRows() as [$number, , $state, $where]) {
        preg_match_all('~`((?:tests|app|core|bin|config)/[\w/.]+)~', $where, $names);
        foreach ($names[1] as $name) {
            expect(file_exists("$root/$name") || file_exists("$root/$name.php"))->toBeTrue("$number names $name");
        }
        if ($state === 'open') {
            expect(preg_match('~until 20\d\d-\d\d|with \d+\.\d+\.\d+~', $where))->toBe(1, "$number is open for ever");
        }
    }
});

it('runs no text as code, makes no objects of bytes, and starts no shell', function (): void {
    $root = dirname(__DIR__, 2);
    $bad = [];
    foreach (['app', 'core'] as $folder) {
        foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator("$root/$folder")) as $file) {
            $code = str_ends_with((string) $file, '.php') ? php_strip_whitespace((string) $file) : '';
            preg_match_all(
                '~(?<![\w>:\\\\$\'])(?:eval|shell_exec|passthru|system|exec|popen|assert|create_function)\(|'
                    .'(?<![\w>:\'])unserialize\((?![^;]*[\'"]allowed_classes[\'"] => false)~',
                $code,
                $found,
            );
            foreach ($found[0] as $call) {
                $bad[] = substr((string) $file, strlen($root) + 1).": $call";
            }
        }
    }
    expect($bad)->toBe([]);
});
