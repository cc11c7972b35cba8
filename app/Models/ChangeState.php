<?php

declare(strict_types=1);

namespace App\Models;

enum ChangeState: string
{
    case Applying = 'applying';

    /** A maintainer stopped it between two steps; it goes on or is rolled back as they say. */
    case Stopped = 'stopped';
    case Applied = 'applied';

    /** Some steps could not be carried out; the others are. */
    case AppliedInPart = 'applied-in-part';
    case Undoing = 'undoing';
    case UndoStopped = 'undo-stopped';
    case Undone = 'undone';
    case UndoneInPart = 'undone-in-part';

    public function isRunning(): bool
    {
        return $this === self::Applying || $this === self::Undoing;
    }

    /** Whether the way it was going, or went, is back. */
    public function isBack(): bool
    {
        return in_array($this, [self::Undoing, self::UndoStopped, self::Undone, self::UndoneInPart], true);
    }

    /** @return list<self> of changes that nobody works on, and that wait for nobody */
    public static function atRest(): array
    {
        return [self::Applied, self::AppliedInPart, self::Undone, self::UndoneInPart];
    }

    public function canBeUndone(): bool
    {
        return in_array(
            $this,
            [self::Applied, self::AppliedInPart, self::UndoneInPart, self::Stopped, self::UndoStopped],
            true,
        );
    }
}
