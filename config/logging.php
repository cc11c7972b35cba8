<?php

declare(strict_types=1);

return [
    // A file a day, fourteen of them (LOG_DAILY_DAYS); on a server the journal of systemd has it. A log that takes no
    // more (a full disk) must not keep anything else from being done, or said.
    'default' => 'own',
    'channels' => [
        'own' => ['driver' => 'stack', 'channels' => [env('LOG_CHANNEL', 'daily')], 'ignore_exceptions' => true],
    ],
];
