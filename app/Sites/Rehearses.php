<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Sites\Replacement;
use Ylema\Sites\SourceUnavailable;

/** A source of content that says what it would write, and writes nothing. */
interface Rehearses
{
    /**
     * @return list<string> what would be sent or written for one record; or why it would be refused
     *
     * @throws SourceUnavailable|FieldMapError
     */
    public function rehearse(string $kind, Replacement $replacement): array;
}
