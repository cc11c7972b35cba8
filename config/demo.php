<?php

declare(strict_types=1);

// What bin/demo and bin/test tell the application about the stand-ins they started.
return [
    'dsn' => env('CONTENT_DSN'),
    'user' => env('CONTENT_USER'),
    'password' => env('CONTENT_PASSWORD'),
    'folder' => env('SITE_FOLDER'),
    'site_port' => env('SITE_PORT'),
    'former_port' => env('FORMER_PORT'),
    'foreign_port' => env('FOREIGN_PORT'),
    'shown' => in_array(env('APP_ENV'), ['demo', 'testing'], true),
];
