<?php

declare(strict_types=1);

namespace Ylema\Retire;

/**
 * Finds in a text of any language what may name a file: whatever ends in the extension of one. A name may hold blanks
 * and brackets, and nobody knows where it begins, so each beginning that is possible is one mention; what names no file
 * of the site does no harm.
 */
final class Mentions
{
    private const EXTENSIONS =
        'jpe?g|png|gif|webp|avif|svgz?|ico|bmp|tiff?|mp4|webm|ogv|mov|m4v|mp3|og[ga]|wav|m4a|'
        .'flac|pdf|docx?|xlsx?|pptx?|odt|ods|odp|zip|csv|epub|woff2?|ttf|otf';

    /** How far back a name may begin, in bytes. */
    private const LONGEST = 240;

    /** How many words of a name are tried as its beginning. */
    private const WORDS = 8;

    /** @return list<Mention> each once a line */
    public function in(string $text): array
    {
        $mentions = [];
        $line = 1;
        $at = 0;
        preg_match_all('~\.(?:'.self::EXTENSIONS.')(?![\w.-]*\w)~i', $text, $found, PREG_OFFSET_CAPTURE);
        foreach ($found[0] as [$extension, $offset]) {
            $line += substr_count($text, "\n", $at, $offset - $at);
            $at = $offset;
            $end = $offset + strlen($extension);
            $from = max(0, $end - self::LONGEST);
            foreach (self::beginnings(substr($text, $from, $end - $from)) as $said) {
                $mentions["$said $line"] = new Mention($said, $line);
            }
        }

        return array_values($mentions);
    }

    /** @return list<string> */
    private static function beginnings(string $before): array
    {
        // JSON and scripts write a slash behind a backslash.
        $before = str_replace('\\/', '/', $before);
        $run = preg_match('~[^"\'`<>\n\r\t{}|*?$\\\\]+$~', $before, $m) === 1 ? $m[0] : '';
        preg_match_all('~[\s(\[,:=&;]+~', $run, $breaks, PREG_OFFSET_CAPTURE);
        // The nearest beginnings first: a name is short more often than long.
        $from = array_map(static fn (array $one): int => $one[1] + strlen($one[0]), array_reverse($breaks[0]));
        $tries = [];
        foreach ([...array_slice($from, 0, self::WORDS), 0] as $start) {
            $written = substr($run, $start);
            foreach ([$written, rawurldecode($written)] as $spelt) {
                $said = self::plain(html_entity_decode($spelt, ENT_QUOTES | ENT_HTML5));
                if ($said !== '' && ! str_starts_with($said, '.') && mb_check_encoding($said, 'UTF-8')) {
                    $tries[$said] = true;
                }
            }
        }

        return array_map(strval(...), array_keys($tries));
    }

    private static function plain(string $said): string
    {
        $said = preg_replace('~^(?:[a-z][a-z0-9+.-]*:)?//[^/]*~i', '', trim($said)) ?? '';

        return mb_strtolower(ltrim(preg_replace('~^(?:\.{1,2}/)+~', '', $said) ?? '', '/'), 'UTF-8');
    }
}
