<?php

declare(strict_types=1);

namespace App\Models;

enum ChangeState: string
{
    case Applying = 'applying';
    case Applied = 'applied';

    /** Some records had changed meanwhile and were left alone. */
    case AppliedInPart = 'applied-in-part';
    case Undoing = 'undoing';
    case Undone = 'undone';
    case UndoneInPart = 'undone-in-part';

    public function isRunning(): bool
    {
        return $this === self::Applying || $this === self::Undoing;
    }
}
