<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Context;

/**
 * A place in style: the selector and the property that it belongs to, inside whatever holds the style.
 *
 * @internal
 */
final readonly class Declaration implements Surroundings
{
    /** How far back a selector or a property is looked for. */
    private const FAR = 400;

    /** @param  int  $offset of the address in the style */
    public function __construct(
        private Surroundings $outside,
        private int $anchor,
        private string $css,
        private int $offset,
    ) {
    }

    public function document(): Document
    {
        return $this->outside->document();
    }

    public function context(int $start, int $anchor, ?string $path, ?string $descriptor): Context
    {
        return $this->outside->context($start, $this->anchor, $path, $descriptor)->inside($this->words());
    }

    private function words(): ?string
    {
        $from = max(0, $this->offset - self::FAR);
        // A comment is not part of what it stands before; its bytes stay, so that places do.
        $before = strtr(preg_replace_callback('~/\*.*?\*/~s', static fn (array $m): string => str_repeat(' ', strlen($m[0])), substr($this->css, $from, $this->offset - $from)) ?? '', ';', '}');
        $open = strrpos($before, '{');
        $cut = max($open === false ? -1 : $open, (int) (strrpos($before, '}') ?: -1));
        $declaration = trim(preg_replace('~(?:url|src)\($~i', '', substr($before, $cut + 1)) ?? '');
        $colon = strpos($declaration, ':');
        $property = $colon === false ? $declaration : substr($declaration, 0, $colon);
        $selector = '';
        // The brace that opened this block, unless the block lies so far back that it is out of sight.
        if ($open !== false && $open > (int) strrpos(str_replace(';', ' ', substr($this->css, $from, $this->offset - $from)), '}')) {
            $head = substr($before, 0, $open);
            $selector = trim(substr($head, max((int) (strrpos($head, '}') ?: -1), (int) (strrpos($head, '{') ?: -1)) + 1));
        }
        $words = trim($selector.($selector === '' ? '' : ' · ').$property);

        return $words === '' ? null : $words;
    }
}
