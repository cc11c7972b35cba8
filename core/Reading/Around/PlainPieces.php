<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

/**
 * The same for what is no markup: an entry of a list in JSON, an image or a link of Markdown.
 *
 * @internal
 */
final readonly class PlainPieces
{
    /** More words than this stand in no brackets. */
    private const WINDOW = 20_000;

    public function __construct(private string $text)
    {
    }

    /**
     * @param  int  $start of the reference
     * @param  string|null  $path where in a structured field
     * @return list<array{int, int}>|null
     */
    public function of(int $start, int $length, string $role, ?string $path): ?array
    {
        return match (true) {
            $path !== null => str_contains($path, '[') ? $this->entry($start) : null,
            $role === 'image', $role === 'link' => $this->brackets($start, $length, $role === 'image'),
            default => null,
        };
    }

    /**
     * The entry of the innermost list that holds a place, with the comma that parts it from its neighbour (RFC 8259).
     *
     * @return list<array{int, int}>|null
     */
    private function entry(int $start): ?array
    {
        // Open brackets, each with where its current entry begins and whether a comma stands before that.
        $open = [];
        $found = null;
        $at = 0;
        $token = '~[^"\[\]{},]*+(?:"(?:[^"\\\\]++|\\\\.)*+"|([\[\]{},]))~As';
        while (preg_match($token, $this->text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $at += strlen($m[0][0]);
            $sign = $m[1][0] ?? '';
            if ($found === null && $at > $start) {
                for ($i = count($open) - 1; $i >= 0 && $found === null; $i--) {
                    $found = $open[$i][0] === '[' ? $i : null;
                }
                if ($found === null) {
                    return null;
                }
            }
            $depth = count($open) - 1;
            if ($found !== null && $depth === $found && ($sign === ',' || $sign === ']')) {
                [, $from, $comma] = $open[$found];

                return [match (true) {
                    $sign === ',' => [$from, $at + strspn($this->text, " \t\r\n", $at)],
                    $comma !== null => [$comma, strlen(rtrim(substr($this->text, 0, $at - 1)))],
                    default => [$from, strlen(rtrim(substr($this->text, 0, $at - 1)))],
                }];
            }
            if ($sign === '[' || $sign === '{') {
                $open[] = [$sign, $at + strspn($this->text, " \t\r\n", $at), null];
            } elseif ($sign === ']' || $sign === '}') {
                array_pop($open);
            } elseif ($sign === ',' && $depth >= 0) {
                $open[$depth] = [$open[$depth][0], $at + strspn($this->text, " \t\r\n", $at), $at - 1];
            }
        }

        return null;
    }

    /** @return list<array{int, int}>|null */
    private function brackets(int $start, int $length, bool $isImage): ?array
    {
        $from = max(0, $start - self::WINDOW);
        $before = substr($this->text, $from, $start - $from);
        $inner = '(?:[^\[\]\\\\]|\\\\.|\[(?:[^\[\]\\\\]|\\\\.)*+\](?:\([^()]*+\))?+)*';
        if (
            preg_match('~(?<image>!?)\[('.$inner.')\]\([ \t\n]*+<?+\z~s', $before, $open, PREG_OFFSET_CAPTURE) !== 1
            || ($open['image'][0] === '!') !== $isImage
            || preg_match(
                '~\G>?+(?:[ \t\n]++(?:"[^"]*+"|\'[^\']*+\'|\([^)]*+\)|=\d*+x\d*+))*+[ \t\n]*+\)~',
                $this->text,
                $close,
                0,
                $start + $length,
            ) !== 1
        ) {
            return null;
        }
        $begin = $from + $open[0][1];
        $end = $start + $length + strlen($close[0]);
        if (! $isImage) {
            $words = $from + $open[2][1];

            return [[$begin, $words], [$words + strlen($open[2][0]), $end]];
        }

        // A link that shows nothing but the image goes with it.
        return $begin > 0 && $this->text[$begin - 1] === '['
            && preg_match('~\G\]\((?:[^()\\\\]|\\\\.)*+\)~', $this->text, $link, 0, $end) === 1
            ? [[$begin - 1, $end + strlen($link[0])]]
            : [[$begin, $end]];
    }
}
