<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** Plain text: only what is plainly an address counts, one with a scheme or in one of the site's media folders. */
final readonly class TextReader implements Reader
{
    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $folders = array_map(static fn (string $folder): string => preg_quote($folder, '~'), $rules->mediaFolders);
        $schemes = array_map(
            static fn (string $scheme): string => '(?<![\w.+-])'.preg_quote($scheme, '~').':/{0,3}(?=\w)',
            array_map(strval(...), array_keys($rules->schemes)),
        );
        $start = implode(
            '|', ['https?://', ...$schemes, ...array_map(static fn (string $f): string => '(?<![\w/.-])'.$f, $folders)],
        );
        // Closing punctuation belongs to the sentence, not to the address.
        $pattern = '~(?:'.$start.')[^\s<>"\'\\\\`{}|^]*[^\s<>"\'\\\\`{}|^.,;:!?)\]]~i';
        if (preg_match_all($pattern, $slice->text, $matches, PREG_OFFSET_CAPTURE) === false) {
            return;
        }
        $layer = new Plain(Notation::Text, '~^[^\s<>"\'\\\\`{}|^]+$~D');
        foreach ($matches[0] as [$value, $offset]) {
            $found->add(
                $slice, $offset, strlen($value), $value, Names::Address, $rules->role ?? 'text', Fetch::WhenFollowed,
                $layer,
            );
        }
    }
}
