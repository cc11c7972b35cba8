<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\Resolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Whose;

/** The addresses of pages that texts of a site link to, or that stand by themselves in its menus. */
final readonly class Links
{
    /** More of them would tell nothing new. */
    private const MOST = 20_000;

    /** What looks like an address of a site, wherever it stands in a text. */
    public const ANY =
        '~(?<![\w.:/-])(?:https?:)?/{1,2}[^\s"\'<>()\[\]{}\\\\,|]+|(?<=["\'(=])[\w.-]+\.php\?[^\s"\'<>()]+~i';

    private const LINK =
        '~\bhref\s*=\s*\\\\?["\']?([^"\'\s>#\\\\]+)|\]\(\s*<?([^)\s>#]+)|'.
        '^\s*(/[^\s#<>"|,]*|https?://[^\s#<>"|,]+)\s*$~i';

    public function __construct(private SiteAddresses $addresses)
    {
    }

    /**
     * @param  iterable<string>  $texts
     * @return list<string> below the root, decoded, with their query; each once, files of media left out
     */
    public function in(iterable $texts): array
    {
        $found = [];
        foreach ($texts as $text) {
            // In json, slashes are written with another one before them.
            preg_match_all(self::LINK, str_replace('\\/', '/', $text), $links, PREG_SET_ORDER);
            foreach ($links as $link) {
                $address = $this->page(html_entity_decode(end($link), ENT_QUOTES | ENT_HTML5));
                if ($address !== null) {
                    $found[$address] = true;
                }
            }
            if (count($found) >= self::MOST) {
                break;
            }
        }

        return array_map(strval(...), array_keys($found));
    }

    private function page(string $link): ?string
    {
        $place = $this->addresses->locate($link);
        if (
            $place === null
            || $place->path === null
            || ! in_array($place->whose, [Whose::Own, Whose::Former], true)
            || Resolver::hasMediaType($place->path)
        ) {
            return null;
        }
        $query = $place->url->query;

        return $place->path.($query === null || $query === '' ? '' : "?$query");
    }
}
