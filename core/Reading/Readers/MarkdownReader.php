<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\MarkdownDestination;
use Ylema\Reading\Layers\YamlScalar;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * CommonMark: images, links, reference definitions, the markup inside, and front matter before it.
 *
 * Code hides what stands in it, be it fenced, indented or in backticks.
 */
final readonly class MarkdownReader implements Reader
{
    private const DESTINATION = '(?:<((?:[^<>\\\\\n]++|\\\\.)*+)>|((?!<)(?:[^\s()\\\\\x00-\x1F]++|\\\\.|\((?:[^\s()\\\\]++|\\\\.)*+\))++))';

    private StructuredValues $values;

    public function __construct()
    {
        $this->values = new StructuredValues;
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $body = 0;
        if (preg_match('~^(?:\xEF\xBB\xBF)?---[ \t]*\r?\n(.*?\n)(?:---|\.\.\.)[ \t]*(?:\r?\n|$)~s', $text, $front, PREG_OFFSET_CAPTURE) === 1) {
            $this->frontMatter($slice, $front[1][0], $front[1][1], $found, $rules, $others);
            $body = strlen($front[0][0]);
        }
        $plain = $this->withoutCode(str_repeat(' ', $body).substr($text, $body));
        $title = '(?:[ \t\n]++(?:"(?:[^"\\\\]++|\\\\.)*+"|\'(?:[^\'\\\\]++|\\\\.)*+\'|\((?:[^()\\\\]++|\\\\.)*+\)))?+';
        // Inline: from "](" to ")"; whether "![" or "[" opened it is found by walking back over balanced brackets.
        preg_match_all('~\]\([ \t\n]*+'.self::DESTINATION.$title.'[ \t\n]*+\)~S', $plain, $inline, PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL);
        foreach ($inline as $m) {
            $image = $this->opensAsImage($plain, $m[0][1]);
            if ($image !== null) {
                $this->destination($slice, $m[1], $m[2], $image ? 'image' : 'link', $image ? Fetch::Always : Fetch::WhenFollowed, $found);
            }
        }
        preg_match_all('~^ {0,3}\[(?!\^)(?:[^\[\]\\\\]++|\\\\.)++\]:[ \t]*+\n?[ \t]*+'.self::DESTINATION.'~mS', $plain, $definitions, PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL);
        foreach ($definitions as $m) {
            $this->destination($slice, $m[1], $m[2], 'reference definition', Fetch::OnCondition, $found);
        }
        preg_match_all('~<((?:https?):[^\s<>\x00-\x1F]*+)>~i', $plain, $auto, PREG_OFFSET_CAPTURE);
        foreach ($auto[1] as [$value, $offset]) {
            $found->add($slice, $offset, strlen($value), $value, Names::Address, 'autolink', Fetch::WhenFollowed, new MarkdownDestination(true));
        }
        // What is escaped or stands in a destination is no markup, whatever it looks like.
        $markup = preg_replace_callback('~\\\\<|\]\([ \t\n]*+<[^<>\n]*+>|^ {0,3}\[[^\]\n]++\]:[ \t]*+<[^<>\n]*+>|<https?:[^\s<>]*+>~mi', self::blank(...), $plain) ?? $plain;
        $others->into($slice->blanked($markup), Notation::Html, $found, new Rules(paths: $rules->paths, lazyAttributes: $rules->lazyAttributes, role: $rules->role, mediaFolders: $rules->mediaFolders));
    }

    /**
     * @param  array{string|null, int}  $inAngles
     * @param  array{string|null, int}|null  $bare
     */
    private function destination(Slice $slice, array $inAngles, ?array $bare, string $role, Fetch $fetch, Collector $found): void
    {
        $angled = $inAngles[0] !== null;
        [$raw, $offset] = $angled ? $inAngles : ($bare ?? [null, -1]);
        if ($raw === null || $raw === '' || $raw[0] === '#') {
            return;
        }
        // Backslash escapes (2.4) and entities (2.5), in the order in which CommonMark reads them.
        $value = preg_replace_callback('~\\\\([!-/:-@\[-`{-\~])|&(?:#[xX][0-9a-fA-F]{1,6}|#[0-9]{1,7}|[a-zA-Z][a-zA-Z0-9]*+);~', static fn (array $m): string => ($m[1] ?? '') !== '' ? $m[1] : html_entity_decode($m[0], ENT_QUOTES | ENT_HTML5), $raw) ?? $raw;
        $found->add($slice, $offset, strlen($raw), $value, Names::Address, $role, $fetch, new MarkdownDestination($angled));
    }

    /** @return bool|null null where no bracket opened it */
    private function opensAsImage(string $text, int $close): ?bool
    {
        $depth = 0;
        for ($at = $close, $stop = max(0, $close - 2000); $at >= $stop; $at--) {
            $character = $text[$at];
            if (($character === '[' || $character === ']') && $at > 0 && $text[$at - 1] === '\\') {
                continue;
            }
            if ($character === ']') {
                $depth++;
            } elseif ($character === '[' && --$depth === 0) {
                return $at > 0 && $text[$at - 1] === '!';
            }
        }

        return null;
    }

    /** Blanks code out, byte for byte, so that places stay true. */
    private function withoutCode(string $text): string
    {
        $text = preg_replace_callback('~^ {0,3}(`{3,}|\~{3,})[^\n]*\n(?:.*?\n)??(?: {0,3}\1[`\~]*[ \t]*$|\z)~msS', self::blank(...), $text) ?? $text;
        $text = preg_replace_callback('~(?<=\n\n)(?:(?: {4}|\t)[^\n]*(?:\n|\z)|[ \t]*\n(?= {4}|\t))++~S', self::blank(...), $text) ?? $text;

        return preg_replace_callback('~(?<!`)(`++)(?!`)(?:(?!\n[ \t]*\n).)*?(?<!`)\1(?!`)~sS', self::blank(...), $text) ?? $text;
    }

    /**
     * @param  array<array-key, string>  $match
     * @return string as many spaces; lines stay lines
     */
    private static function blank(array $match): string
    {
        return preg_replace('~[^\n]~', ' ', $match[0]) ?? '';
    }

    private function frontMatter(Slice $slice, string $yaml, int $start, Collector $found, Rules $rules, FieldReader $others): void
    {
        preg_match_all('~^[ \t]*(?:- +)?(?:([\w.-]+)[ \t]*:[ \t]+)?(?:"((?:[^"\\\\\n]++|\\\\.)*+)"|\'((?:[^\'\n]++|\'\')*+)\'|([^\s"\'#&*!|>\[{][^\n#]*?))[ \t]*(?:#[^\n]*)?\r?$~mS', $yaml, $lines, PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL);
        foreach ($lines as $m) {
            foreach ([2 => '"', 3 => "'", 4 => ''] as $group => $quote) {
                [$raw, $offset] = $m[$group] ?? [null, -1];
                if ($raw === null || $raw === '') {
                    continue;
                }
                // Escaped quotes would part the offsets; an address holds none.
                if ($quote !== '' && strpbrk($raw, '\\'.$quote) !== false) {
                    continue;
                }
                $this->values->read($slice->inner($raw, $start + $offset, [], new YamlScalar($quote), $m[1][0] ?? null), $found, $rules, $others);
            }
        }
    }
}
