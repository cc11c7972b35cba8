<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** What is asked about a file, in the order in which a sheet shows it. */
enum ProofSource: string
{
    case Content = 'content';

    /** Files of the site's own code: templates, styles and scripts on disk. */
    case Code = 'code';

    /** What names it in a way that is not read, in content, code, or what the field map leaves out. */
    case Mentions = 'mentions';

    case Survey = 'survey';

    case Log = 'log';

    case Age = 'age';

    case Copies = 'copies';
}
