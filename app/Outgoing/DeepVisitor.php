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
        $origin = $this->site->reach_at[$url->host] ?? null;
        if ($origin !== null) {
            $host = (string) parse_url($origin, PHP_URL_HOST);

            return [
                rtrim($origin, '/').$url->path.($url->query === null ? '' : "?$url->query"),
                "MAP * ~NOTFOUND , EXCLUDE $host",
            ];
        }
        $ip = $this->site->ask_public ? $this->names->publicAddress($url->host) : null;

        return $ip === null ? null : [$address, "MAP $url->host $ip , MAP * ~NOTFOUND , EXCLUDE $ip"];
    }

    private static function browser(): ?string
    {
        $finder = new ExecutableFinder();

        return $finder->find('chromium') ?? $finder->find('chromium-browser') ?? $finder->find('google-chrome');
    }
}
