<?php

declare(strict_types=1);

namespace App\Models;

enum ReadingState: string
{
    case Queued = 'queued';
    case Reading = 'reading';
    case Landing = 'landing';
    case Done = 'done';
    case Stopped = 'stopped';
    case Failed = 'failed';

    public function isOpen(): bool
    {
        return $this === self::Queued || $this === self::Reading || $this === self::Landing;
    }

    /** @return list<string> */
    public static function open(): array
    {
        return [self::Queued->value, self::Reading->value, self::Landing->value];
    }
}
