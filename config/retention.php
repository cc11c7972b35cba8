<?php

declare(strict_types=1);

return [
    // Days after which a change goes with its plan, and can be undone no more; nothing for "never". Thirty at least.
    'changes' => env('YLEMA_KEEP_CHANGES') === null ? null : max(30, (int) env('YLEMA_KEEP_CHANGES')),
];
