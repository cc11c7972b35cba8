<?php

declare(strict_types=1);

namespace Ylema\Adopt;

use Ylema\Swap\NewItem;

/**
 * Where each picture has its place on the site, as a plan goes on finding one for it.
 *
 * @internal
 */
final class Home
{
    public int $added = 0;

    public int $reused = 0;

    /** @var array<string, true> paths that the plan gave out */
    public array $claimed = [];

    /** @var array<string, string> whole address → path */
    private array $paths = [];

    /** @var array<string, string> hash of the bytes → path */
    private array $byBytes = [];

    /**
     * @param  string  $folder in which new files lie, ending in `/`
     * @param  list<int>  $widths of the renditions that the site makes
     */
    public function __construct(public readonly string $folder, public readonly array $widths)
    {
    }

    public function of(string $url): ?string
    {
        return $this->paths[$url] ?? null;
    }

    public function reuse(string $url, string $path): void
    {
        $this->reused++;
        $this->paths[$url] = $path;
    }

    /** The same bytes under another address: one item for both. */
    public function again(string $url, string $sha256): bool
    {
        if (! isset($this->byBytes[$sha256])) {
            return false;
        }
        $this->paths[$url] = $this->byBytes[$sha256];

        return true;
    }

    public function add(string $url, string $sha256, NewItem $item): void
    {
        $this->added++;
        $this->paths[$url] = $this->byBytes[$sha256] = $item->path;
        $this->claimed += array_fill_keys($item->paths(), true);
    }
}
