<?php

declare(strict_types=1);

return [
    'default' => 'vault',
    'disks' => [
        // The bytes that undo needs, by their own hash; shared by all workers.
        'vault' => ['driver' => 'local', 'root' => storage_path('app/vault'), 'throw' => true],
        // Uploads that wait for their plan, and small pictures for the interface.
        'work' => ['driver' => 'local', 'root' => storage_path('app/work'), 'throw' => true],
    ],
];
