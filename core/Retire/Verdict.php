<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** What a proof sheet comes to. */
enum Verdict: string
{
    /** Everything was looked at, and nothing needs it. */
    case Safe = 'safe';

    /** Something may need it, or something that could say so was not looked at. */
    case Ask = 'ask';

    case Needed = 'needed';

    public function words(): string
    {
        return match ($this) {
            self::Safe => 'safe to rest',
            self::Ask => 'ask first',
            self::Needed => 'needed',
        };
    }
}
