<?php

declare(strict_types=1);

namespace Ylema\Logs;

use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Whose;

/**
 * Counts what a log says of the files of a site. It keeps counts by path, and nothing of anybody who asked.
 *
 * Paths are as a server sees them: below the site's root, decoded once, without a query.
 */
final class LogTally
{
    /** Different paths that are counted before whoever reads must take them. */
    private const PATHS = 50_000;

    /** Other hosts that are told apart. */
    private const HOSTS = 50;

    /** Different targets that are remembered with what they mean. */
    private const TARGETS = 100_000;

    public int $lines = 0;

    /** Lines that are none of a log. */
    public int $broken = 0;

    /** One of them, cut short. */
    public string $example = '';

    public int $requests = 0;

    /** Lines of requests to the site itself. */
    public int $own = 0;

    /** @var array<string, int> other hosts that lines speak of → how many */
    public array $hosts = [];

    /** When the first and the last request to the site were, in seconds since 1970; 0 where there is none. */
    public int $from = 0;

    public int $until = 0;

    /** @var array<array-key, AskedFor> */
    private array $paths = [];

    /** @var array<string, string|null> target → path, null for what is no file of the site */
    private array $targets = [];

    /** @var array<string, Whose> */
    private array $whose = [];

    /** @param  list<string>  $folders of files, below the root, each ending in `/` */
    public function __construct(
        private readonly LogFormat $format,
        private readonly Askers $askers,
        private readonly SiteAddresses $addresses,
        private readonly array $folders,
    ) {
    }

    public function add(string $line): void
    {
        if ($line === '') {
            return;
        }
        $this->lines++;
        $read = $this->format->read($line);
        if ($read === null) {
            $this->broken++;
            if ($this->example === '') {
                $this->example = self::withoutPeople($line);
            }

            return;
        }
        // What another host was asked for says nothing of this one, not even that its log goes on.
        $whose = $this->whose($read);
        if ($whose === Whose::Foreign) {
            return;
        }
        if ($whose === Whose::Own) {
            $this->own++;
            if ($this->from === 0 || $read->time < $this->from) {
                $this->from = $read->time;
            }
            if ($read->time > $this->until) {
                $this->until = $read->time;
            }
        }
        if ($read->method !== 'GET' && $read->method !== 'HEAD') {
            return;
        }
        $key = $read->host === null ? $read->target : "$read->host $read->target";
        $path = array_key_exists($key, $this->targets) ? $this->targets[$key] : $this->path($key, $read);
        if ($path === null) {
            return;
        }
        $who = $this->askers->of($read);
        if ($who !== null) {
            $this->requests++;
            ($this->paths[$path] ??= new AskedFor())->count($who, $read);
        }
    }

    /** Whether what is counted should be taken away before it grows further. */
    public function isFull(): bool
    {
        return count($this->paths) >= self::PATHS;
    }

    /** @return array<array-key, AskedFor> path → counts since they were last taken */
    public function take(): array
    {
        $paths = $this->paths;
        $this->paths = [];

        return $paths;
    }

    /** Whose a line is: a log without hosts is taken for the site's own. */
    private function whose(LogLine $line): Whose
    {
        $host = $line->host ?? (preg_match('~^https?://([^/?#]+)~i', $line->target, $m) === 1 ? $m[1] : null);
        if ($host === null) {
            return Whose::Own;
        }
        // Neither the port nor the scheme says which site it is.
        $host = strtolower(preg_replace('~:\d+$~', '', $host) ?? $host);
        if (count($this->whose) > self::HOSTS * 20) {
            $this->whose = [];
        }
        $whose = $this->whose[$host] ??= $this->host($host);
        if ($whose === Whose::Foreign && (isset($this->hosts[$host]) || count($this->hosts) < self::HOSTS)) {
            $this->hosts[$host] = ($this->hosts[$host] ?? 0) + 1;
        }

        return $whose;
    }

    private function host(string $host): Whose
    {
        $now = $this->addresses->now;
        foreach ($this->addresses->former() as $former) {
            if ($former->host === $host && $now->host !== $host) {
                return Whose::Former;
            }
        }
        $place = $this->addresses->locate("$now->scheme://$host$now->path");

        return $place?->whose === Whose::Own ? Whose::Own : Whose::Foreign;
    }

    private function path(string $key, LogLine $line): ?string
    {
        if (count($this->targets) >= self::TARGETS) {
            $this->targets = [];
        }
        $plain = $line->host === null ? $this->plain($line->target) : null;
        if ($plain !== null) {
            return $this->targets[$key] = $this->isFile($plain) ? $plain : null;
        }
        $address =
            $line->host === null || ! str_starts_with($line->target, '/')
                ? $line->target
                : // Neither the port nor the scheme says which site it is.
                    $this->addresses->now->scheme.'://'.preg_replace('~:\d+$~', '', $line->host).$line->target;
        $place = $this->addresses->locate($address);
        $path = $place !== null && in_array($place->whose, [Whose::Own, Whose::Former], true) ? $place->path : null;
        if ($path !== null && ! $this->isFile($path)) {
            $path = null;
        }

        return $this->targets[$key] = $path;
    }

    /**
     * Most targets are a path that no rule of the URL Standard changes: no dot segments, nothing to be encoded.
     *
     * @return string|null the path below the root; null where the rules have to be asked
     */
    private function plain(string $target): ?string
    {
        $root = $this->addresses->now->path;
        if (
            preg_match('~^(/(?:[\w.%-]++|/(?![/.]))*+)(?:\?|$)~D', $target, $m) !== 1
            || stripos($m[1], '%2e') !== false
            || str_contains($m[1], '/.')
            || ! str_starts_with($m[1], $root)
        ) {
            return null;
        }

        return rawurldecode(substr($m[1], strlen($root)));
    }

    private function isFile(string $path): bool
    {
        foreach ($this->folders as $folder) {
            if (str_starts_with($path, $folder) && ! str_ends_with($path, '/')) {
                return true;
            }
        }

        return false;
    }

    /** A line that is shown to somebody must not say whose it was. */
    private static function withoutPeople(string $line): string
    {
        $shown = mb_scrub(substr($line, 0, 160));

        return preg_replace('~\b\d{1,3}(?:\.\d{1,3}){3}\b|\b[0-9a-f]{0,4}(?::[0-9a-f]{0,4}){3,7}\b~i', '…', $shown) ??
            '';
    }
}
