<?php

declare(strict_types=1);

return [
    // A log that takes no more (a full disk) must not keep anything else from being done, or said.
    'default' => 'own',
    'channels' => [
        'own' => ['driver' => 'stack', 'channels' => [env('LOG_CHANNEL', 'single')], 'ignore_exceptions' => true],
    ],
];
