<?php

declare(strict_types=1);

return [
    // Without mail, links are shown to the owner who made them, and passed on by hand.
    'default' => env('MAIL_MAILER', 'off'),
    'mailers' => [
        'off' => ['transport' => 'array'],
        'smtp' => [
            'transport' => 'smtp',
            'scheme' => env('MAIL_SCHEME'),
            'host' => env('MAIL_HOST', '127.0.0.1'),
            'port' => env('MAIL_PORT', 25),
            'username' => env('MAIL_USERNAME'),
            'password' => env('MAIL_PASSWORD'),
            'timeout' => 10,
        ],
        'sendmail' => ['transport' => 'sendmail', 'path' => env('MAIL_SENDMAIL_PATH', '/usr/sbin/sendmail -bs -i')],
    ],
    'from' => [
        'address' => env('MAIL_FROM_ADDRESS', 'ylema@localhost'),
        'name' => env('MAIL_FROM_NAME', 'Ylema'),
    ],
];
