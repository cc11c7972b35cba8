<?php

declare(strict_types=1);

/*
 * The short names of bin/ylema: `ylema uses SITE PATH` is `artisan ylema:uses SITE PATH`.
 */

use Symfony\Component\Console\Input\ArgvInput;

require __DIR__.'/../../vendor/autoload.php';

$arguments = $_SERVER['argv'];
$command = $arguments[1] ?? 'list';
if (! str_starts_with($command, '-') && ! str_contains($command, ':') && $command !== 'list' && $command !== 'help') {
    $arguments[1] = "ylema:$command";
} elseif ($command === 'list') {
    $arguments = [$arguments[0], 'list', 'ylema'];
}

exit((require_once __DIR__.'/../../bootstrap/app.php')->handleCommand(new ArgvInput($arguments)));
