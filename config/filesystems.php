<?php

declare(strict_types=1);

return [
    'default' => 'vault',
    'disks' => [
        // The bytes that undo needs, by their own hash; shared by all workers.
        'vault' => ['driver' => 'local', 'root' => storage_path('app/vault'), 'throw' => true],
        // Uploads that wait for their plan, and small pictures for the interface.
        'work' => ['driver' => 'local', 'root' => storage_path('app/work'), 'throw' => true],
        // Files at rest and the bags of the archive: outside of every site's public tree, best on the same file system,
        // where a file is moved rather than copied.
        'rest' => ['driver' => 'local', 'root' => env('YLEMA_REST', storage_path('app/rest')), 'throw' => true],
        'bags' => ['driver' => 'local', 'root' => env('YLEMA_BAGS', storage_path('app/bags')), 'throw' => true],
    ],
];
