<?php

declare(strict_types=1);

return [
    // A folder for a backup of each night, and how many are kept there; none are made without it.
    'folder' => env('YLEMA_BACKUPS'),
    'keep' => (int) env('YLEMA_BACKUPS_KEPT', 7),
];
