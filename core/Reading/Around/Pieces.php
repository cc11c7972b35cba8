<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Readers\Html\HtmlPatterns;

/**
 * Finds what must go from markup so that nothing is left of one reference: the element that shows it, what would be
 * empty around it, one candidate of a list; of a link, its tags, while its words stay. Offsets are those of the text.
 *
 * @internal
 */
final readonly class Pieces
{
    /** Elements that have no end tag (HTML Standard, 13.1.2 "void elements"), as far as they name anything. */
    private const VOID = ['img', 'source', 'embed', 'input', 'area', 'track'];

    /** What is nothing without what it shows. */
    private const WRAPPERS = 'a|figure|picture|p|li|center';

    private const CANDIDATE = '~[\t\n\f\r ,]*+([^\t\n\f\r ,][^\t\n\f\r ]*+)(?:(?<!,)(?:[^,(]++|\([^)]*+\))*+)?+,?+~A';

    private const LONGEST_CAPTION = 10_000;

    public function __construct(private string $text)
    {
    }

    /**
     * @param  int  $tag offset of the start tag
     * @param  string  $role of the reference: `img[src]`
     * @param  callable(int): bool  $isAt whether the reference begins at an offset
     * @return list<array{int, int}>|null starts and ends, rising; null where there is no way
     */
    public function of(int $tag, string $role, callable $isAt): ?array
    {
        if (preg_match('~^([\w:-]+)\[([\w:-]+)\]$~', $role, $m) !== 1 || ($this->text[$tag] ?? '') !== '<') {
            return null;
        }
        [, $element, $attribute] = $m;
        $behind = $tag + 1 + strcspn($this->text, "\t\n\f\r />", $tag + 1);
        if ($element === 'a') {
            return $attribute === 'href' ? $this->link($tag) : null;
        }
        if (str_ends_with($attribute, 'srcset')) {
            $candidate = $this->candidate($behind, $attribute, $isAt);
            if ($candidate !== null) {
                return [$candidate];
            }
            if ($element !== 'source') {
                return $this->attribute($behind, $attribute);
            }
        }

        return match ($element) {
            'img', 'embed', 'iframe', 'video', 'audio', 'object', 'image', 'svg:image' => $attribute === 'poster'
                ? $this->attribute($behind, $attribute)
                : $this->whole($tag, $element),
            'source' => $this->isOnlySource($tag) ? null : $this->element($tag, 'source'),
            default => $this->attribute($behind, $attribute),
        };
    }

    /** @return list<array{int, int}>|null */
    private function link(int $tag): ?array
    {
        $open = $this->tagEnd($tag);
        if ($open === null) {
            return null;
        }

        // A link ends where another begins, whether it says so or not (HTML Standard, 13.2.6.4.7).
        return preg_match('~<(/?)a(?=[\t\n\f\r />])[^>]*+>~i', $this->text, $m, PREG_OFFSET_CAPTURE, $open) === 1
            && $m[1][0] === '/'
            ? [[$tag, $open], [$m[0][1], $m[0][1] + strlen($m[0][0])]]
            : [[$tag, $open]];
    }

    /**
     * @param  callable(int): bool  $isAt
     * @return array{int, int}|null null where it is the only one
     */
    private function candidate(int $behind, string $attribute, callable $isAt): ?array
    {
        [$offset, $raw] = Attributes::place($this->text, $behind, $attribute) ?? [0, ''];
        $found = [];
        $at = 0;
        while (preg_match(self::CANDIDATE, $raw, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $at += strlen($m[0][0]);
            $found[] = [$m[1][1], $at];
        }
        if (count($found) < 2) {
            return null;
        }
        foreach ($found as $i => [$from, $to]) {
            if ($isAt($offset + $from)) {
                // With the comma before the last one, or up to the next one.
                return $i === count($found) - 1
                    ? [$offset + $this->withoutComma($raw, $found[$i - 1][1]), $offset + strlen(rtrim($raw))]
                    : [$offset + $from, $offset + $found[$i + 1][0]];
            }
        }

        return null;
    }

    private function withoutComma(string $raw, int $end): int
    {
        return strlen(rtrim(substr($raw, 0, $end), "\t\n\f\r ,"));
    }

    /** @return list<array{int, int}>|null */
    private function attribute(int $behind, string $attribute): ?array
    {
        $span = Attributes::span($this->text, $behind, $attribute);

        return $span === null ? null : [$span];
    }

    /** @return list<array{int, int}>|null */
    private function element(int $tag, string $element): ?array
    {
        $end = $this->elementEnd($tag, $element);

        return $end === null ? null : [[$tag, $end]];
    }

    /**
     * An element with all that would be empty without it.
     *
     * @return list<array{int, int}>|null
     */
    private function whole(int $tag, string $element): ?array
    {
        $from = $tag;
        $to = $this->elementEnd($tag, $element);
        if ($to === null) {
            return null;
        }
        if ($element === 'img') {
            [$from, $to] = $this->picture($from, $to);
        }
        while (($around = $this->around($from, $to)) !== null) {
            [$from, $to] = $around;
        }

        return [[$from, $to]];
    }

    /** @return array{int, int} */
    private function picture(int $from, int $to): array
    {
        $before = substr($this->text, 0, $from);
        $open = strripos($before, '<picture');
        if ($open === false || stripos($before, '</picture', $open) !== false) {
            return [$from, $to];
        }

        return preg_match('~</picture[\t\n\f\r ]*+>~i', $this->text, $m, PREG_OFFSET_CAPTURE, $to) === 1
            ? [$open, $m[0][1] + strlen($m[0][0])]
            : [$from, $to];
    }

    /** @return array{int, int}|null the element that holds this stretch and nothing else but a caption */
    private function around(int $from, int $to): ?array
    {
        $window = substr($this->text, $to, self::LONGEST_CAPTION);
        $caption = '(?:<figcaption(?=[\s>])(?:[^<]++|<(?!/figcaption))*+</figcaption\s*+>\s*+)?+';
        if (preg_match('~\A\s*+'.$caption.'</('.self::WRAPPERS.')\s*+>~i', $window, $end) !== 1) {
            return null;
        }
        $before = rtrim(substr($this->text, 0, $from));
        $before = preg_replace('~<figcaption(?=[\s>])(?:[^<]++|<(?!/?figcaption))*+</figcaption\s*+>$~i', '', $before)
            ?? $before;
        $open = strrpos(rtrim($before), '<');
        if ($open === false) {
            return null;
        }
        $tag = $this->tagEnd($open);
        $holdsCaption = str_contains(strtolower($end[0]), '<figcaption') || strlen(rtrim($before)) < strlen(
            rtrim(substr($this->text, 0, $from)),
        );

        return $tag === strlen(rtrim($before))
            && strcasecmp($this->nameAt($open), $end[1]) === 0
            && (! $holdsCaption || strcasecmp($end[1], 'figure') === 0)
            ? [$open, $to + strlen($end[0])]
            : null;
    }

    private function isOnlySource(int $tag): bool
    {
        $before = substr($this->text, 0, $tag);
        $open = max((int) strripos($before, '<video'), (int) strripos($before, '<audio'));

        return $open > 0 && preg_match('~<source|(</(?:video|audio))~i', $this->text, $m, 0, $open + 1) === 1
            && preg_match_all('~<source(?=[\s>/])~i', (string) strstr(substr($this->text, $open), '</', true)) < 2;
    }

    private function nameAt(int $tag): string
    {
        return substr($this->text, $tag + 1, strcspn($this->text, "\t\n\f\r />", $tag + 1));
    }

    private function tagEnd(int $tag): ?int
    {
        return preg_match(
            '~\G<[a-z][^\t\n\f\r\x20/>]*+'.HtmlPatterns::ATTRIBUTES.'/?+>~iS', $this->text, $m, 0, $tag,
        ) === 1 ? $tag + strlen($m[0]) : null;
    }

    private function elementEnd(int $tag, string $element): ?int
    {
        $end = $this->tagEnd($tag);
        if ($end === null || in_array($element, self::VOID, true) || substr($this->text, $end - 2, 2) === '/>') {
            return $end;
        }
        $name = preg_quote($this->nameAt($tag), '~');
        $depth = 1;
        $at = $end;
        while (preg_match('~<(/?)'.$name.'(?=[\t\n\f\r />])[^>]*+>~i', $this->text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $at = $m[0][1] + strlen($m[0][0]);
            $depth += $m[1][0] === '/' ? -1 : 1;
            if ($depth === 0) {
                return $at;
            }
        }

        return null;
    }
}
