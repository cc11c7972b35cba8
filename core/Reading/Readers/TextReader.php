<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Generator;
use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** Plain text: only what is plainly an address counts, one with a scheme or in one of the site's media folders. */
final readonly class TextReader implements Reader
{
    /** What no address in plain text holds (RFC 3986, appendix C). */
    private const NONE = '\s<>"\'\\\\`{}|^';

    /** What separates one address from the next where no blank does; what a query or a path is made of does not. */
    private const BETWEEN = '[^\w\s/.%=?&@-]';

    /** Closing punctuation belongs to the sentence, not to the address. */
    private const CLOSING = '.,;:!?)]';

    /** What else may stand at the end of an address where another one follows. */
    private const SEPARATING = '~#*+$';

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $layer = new Plain(Notation::Text, '~^[^'.self::NONE.']+$~D');
        foreach (self::addresses($slice->text, $rules) as [$value, $offset]) {
            $found->add(
                $slice, $offset, strlen($value), $value, Names::Address, $rules->role ?? 'text', Fetch::WhenFollowed,
                $layer,
            );
        }
        $found->gaveUp($slice, 0);
    }

    /** Whether words hold an address in one of the media folders. */
    public static function isTelling(string $text, Rules $rules): bool
    {
        foreach ($rules->mediaFolders as $folder) {
            if (stripos($text, $folder) !== false) {
                return self::addresses($text, $rules)->valid();
            }
        }

        return false;
    }

    /** Whether something that begins with an address goes on with another, or with words. */
    public static function isMoreThanOne(string $text, Rules $rules): bool
    {
        // An address with blanks in it is none, and yet is written by hand.
        $isOne = preg_match('~^[^\n]*+(?<=\.[a-z0-9]{2}|\.[a-z0-9]{3}|\.[a-z0-9]{4}|\.[a-z0-9]{5})$~Di', $text) === 1
            && preg_match('~\.[a-z0-9]{2,5}[\s,;:|]~i', $text) !== 1;

        $another = self::BETWEEN.'\s*+(?:'.self::beginnings($rules).')';

        return preg_match('~'.($isOne ? '' : '\s|').$another.'~i', $text) === 1;
    }

    /**
     * Each stretch without a blank is cut where an address begins behind a sign that separates.
     *
     * @return Generator<array{string, int}> value and offset
     */
    private static function addresses(string $text, Rules $rules): Generator
    {
        $begins = '~(?:'.self::beginnings($rules).')~i';
        $at = $blank = 0;
        while (preg_match($begins, $text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $start = $m[0][1];
            $behind = $start + strlen($m[0][0]);
            if ($start >= $blank && preg_match('~[^'.self::NONE.']++~A', $text, $stretch, 0, $start) === 1) {
                $blank = $start + strlen($stretch[0]);
            }
            $end = max($behind, $blank);
            $at = $behind;
            while (preg_match($begins, $text, $next, PREG_OFFSET_CAPTURE, $at) === 1 && $next[0][1] < $end) {
                if (preg_match('~'.self::BETWEEN.'~', $text[$next[0][1] - 1]) === 1) {
                    $end = $next[0][1];
                    break;
                }
                $at = $next[0][1] + strlen($next[0][0]);
            }
            // Signs that may be of the address itself separate where another follows, at once or behind blanks.
            $isFollowed = preg_match('~\s*+(?:'.self::beginnings($rules).')~Ai', $text, $next, 0, $end) === 1;
            $value = rtrim(
                substr($text, $start, $end - $start),
                self::CLOSING.($isFollowed ? self::SEPARATING : ''),
            );
            if (strlen($value) > strlen($m[0][0])) {
                yield [$value, $start];
            }
            $at = $end;
        }
        PatternGaveUp::check();
    }

    private static function beginnings(Rules $rules): string
    {
        $folders = array_map(static fn (string $folder): string => preg_quote($folder, '~'), $rules->mediaFolders);
        $schemes = array_map(
            static fn (string $scheme): string => '(?<![\w.+-])'.preg_quote($scheme, '~').':/{0,3}(?=\w)',
            array_map(strval(...), array_keys($rules->schemes)),
        );

        return implode(
            '|',
            ['https?://', ...$schemes, ...array_map(static fn (string $f): string => '(?<![\w/.-])'.$f, $folders)],
        );
    }
}
