<?php

declare(strict_types=1);

use Ylema\Csv;

it('writes rows as RFC 4180 has them, and none that a spreadsheet would run', function (): void {
    expect(Csv::row(['a', 'b "c", d', null, 4, "two\nlines", '=1+1', '-x', '-3', '-2.5', '-2+3+cmd', '+1', '@x', "\tx", "\rx"]))->toBe(
        "a,\"b \"\"c\"\", d\",,4,\"two\nlines\",'=1+1,'-x,-3,-2.5,'-2+3+cmd,'+1,'@x,'\tx,\"'\rx\"\r\n",
    );
});
