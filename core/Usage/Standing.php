<?php

declare(strict_types=1);

namespace Ylema\Usage;

/** How a media item stands. */
enum Standing: string
{
    /** A visitor can meet it now. */
    case Live = 'live';

    /** Only drafts, future dates, or carriers that nothing shows yet. */
    case Waiting = 'waiting';

    /** Only expired, binned or past versions. */
    case Fading = 'fading';

    /** Nothing refers to it. */
    case Idle = 'idle';

    public static function of(?RecordState $best): self
    {
        return match ($best) {
            RecordState::Live => self::Live,
            RecordState::Waiting => self::Waiting,
            RecordState::Fading => self::Fading,
            null => self::Idle,
        };
    }
}
