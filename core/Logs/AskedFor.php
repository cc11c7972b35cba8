<?php

declare(strict_types=1);

namespace Ylema\Logs;

/** How often one path was asked for, by whom, and when last. */
final class AskedFor
{
    /** Pages of other sites that are named for one path. */
    private const PAGES = 12;

    public int $visitors = 0;

    public int $otherSites = 0;

    public int $mail = 0;

    public int $robots = 0;

    /** How many were told that nothing is there (RFC 9110: 404 and 410); none of them counts among the others. */
    public int $missed = 0;

    /** When anybody asked last, in seconds since 1970; 0 for never. */
    public int $last = 0;

    /** When a person did. */
    public int $lastPerson = 0;

    /** @var array<string, int> page of another site → how often it sent somebody; its query is not kept */
    public array $pages = [];

    public function count(Asker $who, LogLine $line): void
    {
        $isMissed = $line->status === 404 || $line->status === 410;
        match (true) {
            $isMissed => $this->missed++,
            $who === Asker::Visitor => $this->visitors++,
            $who === Asker::OtherSite => $this->otherSites++,
            $who === Asker::Mail => $this->mail++,
            default => $this->robots++,
        };
        if ($line->time > $this->last) {
            $this->last = $line->time;
        }
        if ($who !== Asker::Robot && $line->time > $this->lastPerson) {
            $this->lastPerson = $line->time;
        }
        if ($who === Asker::OtherSite) {
            // What stands behind a question mark may say who somebody is.
            $page = preg_replace('~[?#].*$~s', '', $line->referrer) ?? '';
            if (isset($this->pages[$page]) || count($this->pages) < self::PAGES) {
                $this->pages[$page] = ($this->pages[$page] ?? 0) + 1;
            }
        }
    }
}
