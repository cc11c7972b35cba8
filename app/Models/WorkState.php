<?php

declare(strict_types=1);

namespace App\Models;

/** How far a work is that is done in turns. */
enum WorkState: string
{
    case Waiting = 'waiting';
    case Running = 'running';
    case Done = 'done';
    /** Somebody stopped it; it goes on where it was. */
    case Stopped = 'stopped';
    /** It stopped by itself, and says why; it goes on where it was. */
    case Halted = 'halted';

    public function isOpen(): bool
    {
        return $this === self::Waiting || $this === self::Running;
    }
}
