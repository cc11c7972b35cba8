<?php

declare(strict_types=1);

/*
 * The short names of bin/ylema: `ylema uses SITE PATH` is `artisan ylema:uses SITE PATH`.
 * The commands for pipes are answered here, before any framework is started.
 */

use App\Console\Pipes;
use Symfony\Component\Console\Input\ArgvInput;

require __DIR__.'/../../vendor/autoload.php';

/** @var list<string> $arguments */
$arguments = $_SERVER['argv'];
$command = $arguments[1] ?? 'list';
if (in_array($command, Pipes::COMMANDS, true)) {
    exit((new Pipes)->run($command, array_slice($arguments, 2)));
}
if (! str_starts_with($command, '-') && ! str_contains($command, ':') && $command !== 'list' && $command !== 'help') {
    $arguments[1] = "ylema:$command";
} elseif ($command === 'list') {
    $arguments = [$arguments[0], 'list', 'ylema'];
}

exit((require_once __DIR__.'/../../bootstrap/app.php')->handleCommand(new ArgvInput(array_values($arguments))));
