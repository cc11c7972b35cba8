<?php

declare(strict_types=1);

return [
    // What a monitor says to be told more by /up than whether Ylema works; nobody is told without it.
    'token' => env('YLEMA_MONITOR_TOKEN'),

    // The certificate that browsers see, where this machine holds it.
    'certificate' => env('YLEMA_CERTIFICATE'),
];
