<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Site;
use App\Outgoing\Question;
use App\Outgoing\Visit;
use App\Outgoing\Visitor;
use Ylema\Addresses\Url;
use Ylema\Connect\AddressTrial;
use Ylema\Connect\Links;

/** Tries addresses at the public site, politely: one at a time, and only so many. */
final class PublicTrial implements AddressTrial
{
    private const MOST = 400;

    /** @var array<string, string|null> address → what its page says; null where none answers */
    private array $pages = [];

    /** @var array<string, string> address → the markup of the first pages that were asked for */
    private array $bodies = [];

    private int $asked = 0;

    public function __construct(private readonly Site $site)
    {
    }

    public function shows(string $address, string $words): bool
    {
        $page = $this->page($address);

        // As whole words: what is called "Day 1" is not shown where "Day 12" is.
        $pattern = '~(?<![\pL\pN])'.preg_quote(self::bare($words), '~').'(?![\pL\pN])~u';

        return $page !== null && preg_match($pattern, $page) === 1;
    }

    /** Pages that are looked at for links: the first one, the sitemap, and what the first one links to. */
    private const LOOKED = 30;

    public function known(): array
    {
        $links = new Links($this->site->addresses());
        $this->page('');
        $known = $links->in([$this->bodies[''] ?? '', $this->locations()]);
        foreach (array_slice($known, 0, self::LOOKED) as $address) {
            $this->page($address);
        }

        return array_values(array_unique([...$known, ...$links->in($this->bodies)]));
    }

    /** Whether anything answered at all. */
    public function isThere(): bool
    {
        return $this->page('') !== null || array_filter($this->pages, is_string(...)) !== [];
    }

    private function page(string $address): ?string
    {
        if (array_key_exists($address, $this->pages)) {
            return $this->pages[$address];
        }
        if ($this->asked >= self::MOST) {
            return null;
        }
        $this->asked++;
        $url = Url::parse($this->whole($address));
        $this->pages[$address] = null;
        if ($url !== null) {
            (new Visitor($this->site, seconds: 5, atOnce: 1))->visit([new Question((string) $url)], function (
                int $i,
                Visit $visit,
            ) use ($address): void {
                if ($visit->status() === 200 && $visit->isPage() && $visit->response !== null) {
                    $body = (string) $visit->response->getBody();
                    $this->pages[$address] = self::bare($body);
                    if (count($this->bodies) <= self::LOOKED) {
                        $this->bodies[$address] = $body;
                    }
                }
            });
        }

        return $this->pages[$address];
    }

    /** What the sitemap lists (sitemaps.org, 0.9), each as a link. */
    private function locations(): string
    {
        $map = '';
        $url = Url::parse($this->whole('sitemap.xml'));
        if ($url !== null && $this->asked < self::MOST) {
            $this->asked++;
            (new Visitor($this->site, seconds: 5, atOnce: 1))->visit([new Question((string) $url)], function (
                int $i,
                Visit $visit,
            ) use (&$map): void {
                $map = $visit->status() === 200 ? (string) $visit->response?->getBody() : '';
            });
        }
        preg_match_all('~<loc>\s*([^<\s]+)\s*</loc>~i', $map, $found);

        return implode("\n", array_map(static fn (string $url): string => "href=\"$url\"", $found[1]));
    }

    private function whole(string $address): string
    {
        [$path, $query] = [...explode('?', $address, 2), null];

        return $this->site->addresses()->addressOf((string) $path).($query === null ? '' : "?$query");
    }

    /** Words as they are compared: without marks, and without what only their writing differs in. */
    private static function bare(string $markup): string
    {
        // Only within a line do tags stand between letters of one word.
        $apart = preg_replace(
            ['~<(script|style)\b.*?</\1>~is', '~<(?!/?(?:b|i|em|strong|span|su[bp]|small|mark|u|s|font)\b)~i'],
            [' ', ' <'],
            $markup,
        );
        $text = html_entity_decode(
            strip_tags($apart ?? $markup),
            ENT_QUOTES | ENT_HTML5,
            'UTF-8',
        );

        return mb_strtolower(trim(preg_replace('~\s+~u', ' ', mb_scrub($text)) ?? ''));
    }
}
