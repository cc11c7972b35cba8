<?php

declare(strict_types=1);

/*
 * Makes the demo: draws its pictures (in as many processes as asked) and writes its content database.
 *
 *     CONTENT_PASSWORD=… php standin/generate.php FOLDER DSN USER [--processes=2] [--fresh-content]
 *     php standin/generate.php FOLDER --draw=PART/OF
 */

use Standin\Content\AccessLog;
use Standin\Content\Catalogue;
use Standin\Content\Generator;
use Standin\Content\Scenario;

require __DIR__.'/../vendor/autoload.php';

$arguments = array_values(
    array_filter(array_slice($argv, 1), static fn (string $a): bool => ! str_starts_with($a, '--')),
);
$options = array_values(array_filter(array_slice($argv, 1), static fn (string $a): bool => str_starts_with($a, '--')));
$folder = $arguments[0] ?? exit("Say where the demo's files shall lie.\n");
$catalogue = new Catalogue();
$generator = new Generator($folder);
$option = static function (string $name, string $default) use ($options): string {
    foreach ($options as $o) {
        if (str_starts_with($o, "--$name=")) {
            return substr($o, strlen($name) + 3);
        }
    }

    return $default;
};

if (($share = $option('draw', '')) !== '') {
    [$part, $of] = array_map(intval(...), explode('/', $share));
    $generator->draw($catalogue, $part, $of);
    exit(0);
}

// Drawn for another catalogue, the files have other names and are of no use.
$stamp = hash('sha256', serialize($catalogue->items));
if (is_dir("$folder/site") && @file_get_contents("$folder/catalogue") !== $stamp) {
    foreach (['site', 'former', 'foreign'] as $old) {
        shell_exec('rm -rf '.escapeshellarg("$folder/$old"));
    }
}
@mkdir($folder, 0o775, true);
file_put_contents("$folder/catalogue", $stamp);

$processes = max(1, (int) $option('processes', '2'));
$running = [];
for ($i = 0; $i < $processes; $i++) {
    $child = proc_open(
        [PHP_BINARY, '-d', 'memory_limit=1G', __FILE__, $folder, "--draw=$i/$processes"],
        [1 => STDERR, 2 => STDERR],
        $pipes,
    );
    if ($child === false) {
        exit("Could not start a drawing process.\n");
    }
    $running[] = $child;
}
$failed = false;
foreach ($running as $child) {
    $failed = proc_close($child) !== 0 || $failed;
}
if ($failed) {
    fwrite(STDERR, "Drawing the demo's pictures failed; the lines above say where.\n");
    exit(1);
}
$generator->outside($catalogue);
$generator->code();
(new AccessLog($catalogue))->write("$folder/logs", time());
$database = new PDO($arguments[1], $arguments[2], (string) getenv('CONTENT_PASSWORD'), [
    PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION,
]);
$there = $database->query("select to_regclass('entries')");
if ($there === false || $there->fetchColumn() === null || in_array('--fresh-content', $options, true)) {
    $generator->write(new Scenario($catalogue), $database);
}
