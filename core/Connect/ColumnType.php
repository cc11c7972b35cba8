<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** What a column can hold, as far as a proposal cares. */
enum ColumnType
{
    case Number;
    case Rounded;
    case Text;
    case Bytes;
    case Moment;
    case Flag;
}
