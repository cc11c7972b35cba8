<?php

declare(strict_types=1);

namespace Ylema\Usage;

/** Whether a record itself is out, not yet out, or no longer out. The order is from best to worst for a visitor. */
enum RecordState: int
{
    case Live = 0;
    case Waiting = 1;
    case Fading = 2;

    public function word(): string
    {
        return strtolower($this->name);
    }

    public static function ofWord(string $word): self
    {
        return match ($word) {
            'live' => self::Live,
            'waiting' => self::Waiting,
            default => self::Fading,
        };
    }

    /** The worse of two: a live banner in an expired set is expired. */
    public function and(self $other): self
    {
        return $this->value >= $other->value ? $this : $other;
    }
}
