<?php

declare(strict_types=1);

namespace Ylema\Logs;

/** Who asked for a file, as far as a log tells it. */
enum Asker: string
{
    case Visitor = 'visitor';

    /** A visitor of another site, whose page shows the file or leads to it. */
    case OtherSite = 'other-site';

    /** Somebody who read a message that shows the file. */
    case Mail = 'mail';

    /** A program that asks for everything: no sign that anybody needs it. */
    case Robot = 'robot';

    /** Whether a person is behind it. */
    public function isPerson(): bool
    {
        return $this !== self::Robot;
    }
}
