<?php

declare(strict_types=1);

use App\Http\Problems;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;

$app = Application::configure(basePath: dirname(__DIR__))
    ->withRouting(
        web: __DIR__.'/../routes/web.php',
        commands: __DIR__.'/../routes/console.php',
        health: '/up',
    )
    ->withMiddleware(function (Middleware $middleware): void {
        $middleware->redirectGuestsTo('/');
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        Problems::register($exceptions);
    })
    ->create();

// Everything that an installation writes lies in one folder, so that a demo, a test run and a real
// installation can stand side by side on one checkout.
$var = getenv('YLEMA_VAR') ?: dirname(__DIR__).'/var/demo';
$app->useEnvironmentPath($var);
$app->useStoragePath($var.'/storage');

return $app;
