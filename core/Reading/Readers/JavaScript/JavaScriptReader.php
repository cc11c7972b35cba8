<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\JavaScript;

use Ylema\Reading\Collector;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * Script: its strings and templates (ECMA-262, 12.9.4 and 12.9.6), also where it puts several together, read where they
 * plainly hold an address of the site's, markup, style or json. An address of which a part is known only at run time is
 * a problem, for no reader can say which files it means.
 */
final readonly class JavaScriptReader implements Reader
{
    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        // The site's tokens were looked for in the text around.
        $rules = $rules->withoutTokens();
        $found->enterCondition();
        (new ScriptWalk($slice, $found, new Pieces($slice, $found, $rules, $others)))->run();
        $found->leaveCondition();
    }
}
