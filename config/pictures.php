<?php

declare(strict_types=1);

return [
    // What one picture may take while it is drawn; a decoded pixel takes eight bytes.
    'memory_mb' => (int) env('PICTURE_MEMORY_MB', 320),
    'seconds' => (int) env('PICTURE_SECONDS', 60),
];
