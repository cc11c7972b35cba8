<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\Site;

/**
 * What somebody typed into a find field: an address, a path, or words.
 *
 * An address may be the site's now, before, or as this machine reaches it, with or without scheme; a path may begin
 * with a slash or not. Both come down to a path below the site's root, decoded.
 */
final readonly class Asked
{
    /** @param  list<string>  $words all of which must be found */
    private function __construct(public ?string $path, public array $words)
    {
    }

    public static function of(Site $site, string $text): self
    {
        $text = trim($text);
        $url = self::url($site, $text);
        if ($url !== null) {
            // Of a foreign address no path is the site's own, and then its words are all there is.
            return new self($site->addresses()->locate($url)?->path, [$text]);
        }
        $path = str_contains($text, '/') ? $site->addresses()->locate('/'.ltrim($text, '/'))?->path : null;
        $words = preg_split('~\s+~', trim($text, '/')) ?: [];

        return new self($path, array_values(array_filter($words, static fn (string $word): bool => $word !== '')));
    }

    public function isEmpty(): bool
    {
        return $this->path === null && $this->words === [];
    }

    /** @return list<string> the words as patterns for SQL's `ilike` */
    public function patterns(): array
    {
        return array_map(static fn (string $word): string => '%'.addcslashes($word, '%_\\').'%', $this->words);
    }

    /** All that was typed, as one pattern that begins where it begins. */
    public function beginning(): string
    {
        return addcslashes(implode(' ', $this->words), '%_\\').'%';
    }

    private static function url(Site $site, string $text): ?string
    {
        $plain = preg_replace('~^(?:https?:)?//~i', '', $text, 1, $hasScheme) ?? $text;
        foreach ($site->reach_at as $host => $origin) {
            $here = preg_replace('~^https?://~i', '', rtrim($origin, '/')) ?? $origin;
            if ($plain === $here || str_starts_with($plain, "$here/")) {
                return 'https://'.$host.substr($plain, strlen($here));
            }
        }
        if ($hasScheme === 1) {
            return $text;
        }
        foreach ([$site->address, ...$site->former, ...$site->aliases] as $address) {
            $host = (string) parse_url($address, PHP_URL_HOST);
            foreach ([$host, preg_replace('~^www\.~', '', $host)] as $name) {
                if ($plain === $name || str_starts_with($plain, "$name/")) {
                    return "https://$plain";
                }
            }
        }

        return null;
    }
}
