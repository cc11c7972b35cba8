<?php

declare(strict_types=1);

return [
    // Both are links by which somebody chooses a password; minutes until they end.
    'passwords' => [
        'invitations' => [
            'provider' => 'users',
            'table' => 'invitations',
            'expire' => 7 * 24 * 60,
            'throttle' => 0,
        ],
        'links' => [
            'provider' => 'users',
            'table' => 'password_links',
            'expire' => 60,
            'throttle' => 60,
        ],
    ],
];
