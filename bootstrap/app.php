<?php

declare(strict_types=1);

use App\Console\Kernel;
use App\Http\Middleware\ReadableInput;
use App\Http\Middleware\SafeHeaders;
use App\Http\Problems;
use Illuminate\Contracts\Console\Kernel as ConsoleKernel;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;

// Everything that an installation writes lies in one folder, so that a demo, a test run and a real
// installation can stand side by side on one checkout, which none of them need write to.
$var = getenv('YLEMA_VAR') ?: dirname(__DIR__).'/var/demo';

// What the framework finds in the libraries holds until they are installed anew.
$libraries = (string) @filemtime(__DIR__.'/../vendor/composer/installed.php');
$_ENV['APP_SERVICES_CACHE'] ??= "$var/storage/framework/cache/services-$libraries.php";
$_ENV['APP_PACKAGES_CACHE'] ??= "$var/storage/framework/cache/packages-$libraries.php";

$app = Application::configure(basePath: dirname(__DIR__))
    ->withRouting(
        web: __DIR__.'/../routes/web.php',
        commands: __DIR__.'/../routes/console.php',
    )
    ->withMiddleware(function (Middleware $middleware): void {
        $middleware->redirectGuestsTo('/');
        // To the last space and line end, as they were typed.
        $middleware->trimStrings(except: ['map', 'current']);
        $middleware->prepend([SafeHeaders::class, ReadableInput::class]);
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        Problems::register($exceptions);
    })
    ->create();

$app->singleton(ConsoleKernel::class, Kernel::class);
$app->useEnvironmentPath($var);
$app->useStoragePath($var.'/storage');

return $app;
