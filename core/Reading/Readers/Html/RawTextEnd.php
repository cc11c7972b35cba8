<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Html;

/**
 * Where an element ends whose content is text to the tokeniser (HTML Standard, 13.2.5.2–4 and 13.2.5.15–31).
 *
 * @internal
 */
final class RawTextEnd
{
    /** @return int the offset of the end tag's `<`, or the end of the text */
    public static function of(string $text, string $element, int $at): int
    {
        if ($element === 'plaintext') {
            return strlen($text);
        }

        return $element === 'script'
            ? self::ofScript($text, $at)
            : self::next($text, '</'.$element.'(?=[\t\n\f\r />])', $at)[0];
    }

    /** A script may hold `<!-- <script> … </script> -->`; the inner end tag then ends nothing (13.2.5.26–31). */
    private static function ofScript(string $text, int $at): int
    {
        $escaped = $double = false;
        while (true) {
            [$at, $mark] = match (true) {
                $double => self::next($text, '-->|</script(?=[\t\n\f\r />])', $at),
                $escaped => self::next($text, '-->|</?script(?=[\t\n\f\r />])', $at),
                default => self::next($text, '<!--|</script(?=[\t\n\f\r />])', $at),
            };
            if ($mark === '' || ($mark[1] === '/' && ! $double)) {
                return $at;
            }
            if ($mark === '<!--') {
                $escaped = true;
                // The dashes that open may be among those that close: `<!-->` is both.
                $at += 2;

                continue;
            }
            [$escaped, $double] = $mark === '-->' ? [false, false] : [true, ! $double];
            $at += strlen($mark);
        }
    }

    /** @return array{int, string} where it is and what it is; the end of the text and nothing, where it is nowhere */
    private static function next(string $text, string $pattern, int $at): array
    {
        return preg_match('~'.$pattern.'~i', $text, $m, PREG_OFFSET_CAPTURE, $at) === 1
            ? [$m[0][1], $m[0][0]]
            : [strlen($text), ''];
    }
}
