<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Site;
use App\Outgoing\Question;
use App\Outgoing\Visit;
use App\Outgoing\Visitor;
use Ylema\Addresses\Url;
use Ylema\Connect\AddressTrial;

/** Tries addresses at the public site, politely: one at a time, and only so many. */
final class PublicTrial implements AddressTrial
{
    private const MOST = 400;

    /** @var array<string, string|null> address → what its page says; null where none answers */
    private array $pages = [];

    private int $asked = 0;

    public function __construct(private readonly Site $site)
    {
    }

    public function shows(string $address, string $words): bool
    {
        $page = $this->page($address);

        return $page !== null && str_contains($page, self::bare($words));
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
                    $this->pages[$address] = self::bare((string) $visit->response->getBody());
                }
            });
        }

        return $this->pages[$address];
    }

    private function whole(string $address): string
    {
        [$path, $query] = [...explode('?', $address, 2), null];

        return $this->site->addresses()->addressOf((string) $path).($query === null ? '' : "?$query");
    }

    /** Words as they are compared: without marks, and without what only their writing differs in. */
    private static function bare(string $markup): string
    {
        $text = html_entity_decode(
            strip_tags(preg_replace('~<(script|style)\b.*?</\1>~is', ' ', $markup) ?? $markup),
            ENT_QUOTES | ENT_HTML5,
            'UTF-8',
        );

        return mb_strtolower(trim(preg_replace('~\s+~u', ' ', mb_scrub($text)) ?? ''));
    }
}
