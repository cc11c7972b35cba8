<?php

declare(strict_types=1);

/*
 * Which tests a change asks for: those that changed, those that name a changed class, and those that name a class which
 * uses one. Prints "php FILE", "ts FILE" for what a linter looks at, "core FILE", "app FILE" for tests, and "not FILE"
 * for changed tests that need more than a moment.
 *
 *     php tests/changed.php FILE…      from the root of the checkout, as git says them
 */

const ROOMS = ['core/' => 'Ylema\\', 'app/' => 'App\\', 'standin/src/' => 'Standin\\', 'tests/' => 'Tests\\'];

chdir(dirname(__DIR__));
$changed = array_values(array_filter(array_slice($argv, 1), is_file(...)));

/** @return list<string> */
$files = static function (string $folder): array {
    $found = [];
    $tree = new RecursiveDirectoryIterator($folder, FilesystemIterator::SKIP_DOTS);
    foreach (new RecursiveIteratorIterator($tree) as $file) {
        if ($file->getExtension() === 'php') {
            $found[] = (string) $file;
        }
    }

    return $found;
};
$classOf = static function (string $file): ?string {
    foreach (ROOMS as $folder => $namespace) {
        if (str_starts_with($file, $folder)) {
            return $namespace.strtr(substr($file, strlen($folder), -4), '/', '\\');
        }
    }

    return null;
};

// What a file uses: by its name, or beside it in the same folder.
$uses = [];
foreach (array_keys(ROOMS) as $folder) {
    foreach ($files(rtrim($folder, '/')) as $file) {
        $code = (string) file_get_contents($file);
        preg_match_all('~\b(?:Ylema|App|Standin|Tests)(?:\\\\\w+)+~', $code, $named);
        preg_match_all('~\b[A-Z]\w+\b~', $code, $short);
        $beside = preg_match('~^namespace ([\w\\\\]+);~m', $code, $own) === 1
            ? array_map(static fn (string $name): string => "$own[1]\\$name", array_unique($short[0]))
            : [];
        $uses[$file] = array_fill_keys([...$named[0], ...$beside], true);
    }
}
$classes = array_values(array_filter(array_map($classOf, preg_grep('~\.php$~', $changed) ?: [])));
$near = $classes;
foreach ($uses as $file => $used) {
    if (array_intersect_key($used, array_flip($classes)) !== []) {
        $near[] = (string) $classOf($file);
    }
}
$near = array_flip($near);

$tests = [];
foreach ($uses as $file => $used) {
    $isTest = preg_match('~^tests/(Core|App|Shell)/(?:.+/)?\w+Test\.php$~', $file, $part) === 1;
    // Core is quick, so its tests come along with a class nearby; others are asked for by the class itself.
    $wanted = $isTest && $part[1] === 'Core' ? $near : array_flip($classes);
    if ($isTest && (in_array($file, $changed, true) || array_intersect_key($used, $wanted) !== [])) {
        $tests[$file] = $part[1] === 'Core' ? 'core' : 'app';
    }
}
if (array_filter($changed, static fn (string $file): bool => str_starts_with($file, 'bin/')) !== []) {
    $tests += array_fill_keys($files('tests/Shell'), 'app');
}
foreach ($changed as $file) {
    echo match (true) {
        str_ends_with($file, '.php') => "php $file\n",
        preg_match('~^(resources/ts|tests/Front)/.*\.tsx?$~', $file) === 1 => "ts $file\n",
        default => '',
    }, preg_match('~^tests/(Browser|Install)/.*Test\.php$~', $file) === 1 ? "not $file\n" : '';
}
foreach ($tests as $file => $part) {
    echo "$part $file\n";
}
