<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Html;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Slice;

/**
 * Addresses that stand between tags as plain words, in one of the site's media folders: nobody fetches them, and yet
 * somebody means the file. Markup that is written out is an example, and means none.
 *
 * @internal
 */
final class NamedInText
{
    /**
     * Tags, comments and all whose content is no text of the page; what is left is words. A tag or comment that is not
     * whole takes all that follows, as in a browser, so that no byte is looked at twice.
     */
    private const NO_WORDS = '(?:'.HtmlPatterns::COMMENT.'|<!--.*+'
        .'|<(script|style|textarea|title|iframe|noembed|noframes|noscript|template|svg|math)(?=[\t\n\f\r\x20/>])'
        .HtmlPatterns::ATTRIBUTES.'/?+>.*?(?:</\1(?=[\t\n\f\r\x20/>])|\z)'
        .'|</?+[a-z][^\t\n\f\r\x20/>]*+'.HtmlPatterns::ATTRIBUTES.'/?+>|</?+[a-z].*+|<[/!?][^>]*+(?:>|\z))(*SKIP)(*F)';

    /** What no address in words holds, and what does not end one. */
    private const NONE = '\s<>"\'()\[\]{}|\\\\^`&';

    private Plain $layer;

    public function __construct()
    {
        $this->layer = new Plain(Notation::Text, '~^[^'.self::NONE.']+$~D');
    }

    /**
     * Only where a media folder stands more often than references name it is the text looked through once more.
     *
     * @param  list<string>  $folders such as `/media/`
     * @param  int  $before how many references there were before those of this text
     */
    public function read(Slice $slice, Collector $found, array $folders, int $before): void
    {
        $times = static fn (string $text): int => array_sum(
            array_map(static fn (string $folder): int => substr_count($text, $folder), $folders),
        );
        $left = $times($slice->text);
        if ($left === 0) {
            return;
        }
        $own = $before === 0 ? $found->references : array_slice($found->references, $before);
        $values = array_column($own, 'value');
        // Escapes make what stands there longer than what it says, so where all is as long nothing is escaped.
        $areAsWritten = array_sum(array_column($own, 'length')) === strlen(implode('', $values));
        $isEachOnce = count(array_flip(array_column($own, 'start'))) === count($own);
        if ($areAsWritten && $isEachOnce && $left <= $times(implode("\n", $values))) {
            return;
        }
        $places = [];
        for ($i = count($found->references) - 1; $left > 0 && $i >= $before; $i--) {
            $reference = $found->references[$i];
            // Only the bytes count in which a folder stands as it is; and markup in a token is met twice.
            if (! isset($places[$reference->start])) {
                $left -= $times(substr($found->document->text, $reference->start, $reference->length));
            }
            $places[$reference->start] = true;
        }
        if ($left <= 0) {
            return;
        }
        $known = implode('|', array_map(static fn (string $folder): string => preg_quote($folder, '~'), $folders));
        $address = '(?:https?://[^\s<>"\'/]++)?(?:'.$known.')[^'.self::NONE.']*[^'.self::NONE.'.,;:!?]';
        $pattern = '~'.self::NO_WORDS.'|(?<![\w/.:=-]|=["\']|url\(|=&quot;|=&\#3[49];)'.$address.'~isS';
        preg_match_all($pattern, $slice->text, $matches, PREG_OFFSET_CAPTURE);
        $found->gaveUp($slice, 0);
        foreach ($matches[0] ?? [] as [$value, $offset]) {
            if ($value !== '' && ! isset($places[$slice->outer($offset)])) {
                $found->add(
                    $slice, $offset, strlen($value), $value, Names::Address, 'named in text', Fetch::Never,
                    $this->layer,
                );
            }
        }
    }
}
