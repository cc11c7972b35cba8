<?php

declare(strict_types=1);

namespace App\Models;

/** What a person may do. Each role may also do what the ones before it may. */
enum Role: string
{
    /** Looks. */
    case Viewer = 'viewer';

    /** Applies and undoes. */
    case Maintainer = 'maintainer';

    /** Also archives for good and manages people and sites. */
    case Owner = 'owner';

    public function covers(self $needed): bool
    {
        $order = [self::Viewer, self::Maintainer, self::Owner];

        return array_search($this, $order, true) >= array_search($needed, $order, true);
    }
}
