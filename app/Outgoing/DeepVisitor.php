<?php

declare(strict_types=1);

namespace App\Outgoing;

use App\Models\Site;
use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\ExecutableFinder;
use Symfony\Component\Process\Process;
use Ylema\Addresses\Url;

/**
 * Looks at a page in a browser, for what its scripts make of it. The browser reaches nothing but the page's own host,
 * and that only the way that a visit would; whatever else the page wants is not found.
 */
final readonly class DeepVisitor
{
    private const SECONDS = 25;

    /** Milliseconds of the page's own time in which its scripts may work. */
    private const BUDGET = 4000;

    private const LARGEST = 8 * 1024 * 1024;

    public function __construct(private Site $site, private HostNames $names)
    {
    }

    public static function isThere(): bool
    {
        return self::browser() !== null;
    }

    /** @return string|null the document as its scripts left it; null where the browser came to no end */
    public function look(string $address): ?string
    {
        $browser = self::browser();
        $way = $this->way($address);
        if ($browser === null || $way === null) {
            return null;
        }
        [$target, $rules] = $way;
        $profile = sys_get_temp_dir().'/ylema-look-'.bin2hex(random_bytes(6));
        $process = new Process(
            [
                $browser,
                '--headless=new',
                ...(posix_geteuid() === 0 ? ['--no-sandbox'] : []),
                '--disable-gpu',
                '--disable-quic',
                '--disable-dev-shm-usage',
                '--no-first-run',
                '--disable-background-networking',
                '--disable-component-update',
                '--disable-sync',
                '--disable-extensions',
                '--mute-audio',
                '--no-proxy-server',
                // Neither does a page call others past the rules, by what is meant for speaking with people.
                '--force-webrtc-ip-handling-policy=disable_non_proxied_udp',
                "--user-data-dir=$profile",
                "--host-resolver-rules=$rules",
                '--virtual-time-budget='.self::BUDGET,
                '--dump-dom',
                $target,
            ],
            null,
            ['HOME' => $profile],
        );
        $process->setTimeout(self::SECONDS);
        $text = '';
        try {
            $process->run(static function (string $kind, string $piece) use (&$text, $process): void {
                $text .= $kind === Process::OUT ? $piece : '';
                if (strlen($text) > self::LARGEST) {
                    $process->stop(0);
                }
            });
        } catch (ProcessTimedOutException) {
            return null;
        } finally {
            (new Process(['rm', '-rf', $profile]))->run();
        }

        return $process->isSuccessful() && $text !== '' ? $text : null;
    }

    /** @return array{string, string}|null what the browser is sent to, and where it may find hosts */
    private function way(string $address): ?array
    {
        $url = Url::parse($address);
        if ($url === null) {
            return null;
        }
        $origin = Url::parse(rtrim($this->site->reach_at[$url->host] ?? '', '/').'/');
        if ($origin !== null) {
            $only = self::bare($origin->host).':'.self::port($origin);

            return [
                $origin->scheme.'://'.$origin->authority().rtrim($origin->path, '/').$url->path
                    .($url->query === null ? '' : "?$url->query"),
                self::rules([$only => $only]),
            ];
        }
        $ip = $this->site->ask_public ? $this->names->publicAddress($url->host) : null;
        if ($ip === null) {
            return null;
        }
        $ways = [];
        foreach ($url->port === null ? [80, 443] : [$url->port] as $port) {
            $ways[self::bare($url->host).":$port"] = self::bare($ip).":$port";
        }

        return [(string) $url, self::rules($ways)];
    }

    /**
     * The one way out, port by port: on the machine that gives the page out, other programs listen as well. An
     * exclusion would hold for all ports of a host, so the way is mapped onto itself.
     *
     * @param  array<string, string>  $ways what is asked for → where that leads, each with its port
     */
    private static function rules(array $ways): string
    {
        $rules = array_map(
            static fn (string $from, string $to): string => "MAP $from $to",
            array_keys($ways),
            array_values($ways),
        );

        return implode(' , ', [...$rules, 'MAP * ~NOTFOUND']);
    }

    /** IPv6 stands in brackets before a port (RFC 3986, 3.2.2). */
    private static function bare(string $host): string
    {
        $host = trim($host, '[]');

        return str_contains($host, ':') ? "[$host]" : $host;
    }

    private static function port(Url $url): int
    {
        return $url->port ?? ($url->scheme === 'https' ? 443 : 80);
    }

    private static function browser(): ?string
    {
        $finder = new ExecutableFinder();

        return $finder->find('chromium') ?? $finder->find('chromium-browser') ?? $finder->find('google-chrome');
    }
}
