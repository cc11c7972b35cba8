<?php

declare(strict_types=1);

namespace Ylema\Redirects;

use Generator;
use Ylema\Addresses\PageResolver;

/**
 * A list of redirects without those that a web server must not be given: a second one of the same address, those that
 * lead in a circle, and those that lead to where nothing is.
 *
 * @internal
 */
final readonly class Straight
{
    /** Longer chains than this no browser follows (Fetch Standard, 4.4 "HTTP-redirect fetch": 20). */
    private const STEPS = 20;

    /** @var array<array-key, string> from → where it leads, as another `from` */
    private array $leads;

    /** @var array<array-key, true> addresses at which the list itself says that nothing is */
    private array $gone;

    /** @param  callable(): iterable<Entry>  $entries asked for more than once */
    public function __construct(private mixed $entries, private string $folder)
    {
        $leads = $gone = [];
        foreach ($entries() as $entry) {
            if (isset($leads[$entry->from])) {
                continue;
            }
            $leads[$entry->from] = $entry->isGone() ? '' : $this->place($entry->to);
            if ($entry->isGone()) {
                $gone[$entry->from] = true;
            }
        }
        $this->leads = $leads;
        $this->gone = $gone;
    }

    /** @return Generator<Entry|string> an entry, or why one was left out */
    public function entries(): Generator
    {
        $seen = [];
        foreach (($this->entries)() as $entry) {
            $why = isset($seen[$entry->from]) ? 'this address is in the list already' : $this->why($entry);
            $seen[$entry->from] = true;
            yield $why === null
                ? $entry
                : 'Left out: '.Format::encoded($entry->from, $this->folder).' → '.self::line($entry->to).": $why.";
        }
    }

    private function why(Entry $entry): ?string
    {
        $at = $entry->from;
        for ($i = 0; $i < self::STEPS && ($this->leads[$at] ?? '') !== ''; $i++) {
            $at = $this->leads[$at];
            if ($at === $entry->from) {
                return $i === 0 ? 'it leads to itself' : 'it leads in a circle';
            }
        }

        return match (true) {
            $i === self::STEPS => 'it leads in a circle, or on and on',
            $at !== $entry->from && isset($this->gone[$at]) => 'it leads to an address where nothing is any more',
            default => null,
        };
    }

    /** What an address of the site is called where visitors are sent on from; empty for any other. */
    private function place(string $to): string
    {
        $path = str_starts_with($to, $this->folder) ? substr($to, strlen($this->folder)) : '';
        [$path, $query] = [...explode('?', strtok($path, '#') ?: '', 2), null];

        return PageResolver::key(rawurldecode((string) $path), $query);
    }

    private static function line(string $text): string
    {
        return strtr($text, ["\n" => '%0A', "\r" => '%0D']);
    }
}
