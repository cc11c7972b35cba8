<?php

declare(strict_types=1);

namespace App\Outgoing;

use App\Models\Site;
use GuzzleHttp\Client;
use GuzzleHttp\Exception\TransferException;
use GuzzleHttp\Pool;
use GuzzleHttp\Promise\Create;
use GuzzleHttp\Promise\PromiseInterface;
use GuzzleHttp\Psr7\Request;
use GuzzleHttp\Psr7\Uri;
use GuzzleHttp\Psr7\UriResolver;
use Psr\Http\Message\ResponseInterface;
use Throwable;
use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Url;
use Ylema\Addresses\Whose;
use Ylema\Failure;

/**
 * All that Ylema asks of other servers, politely: only hosts that the site's table says how to reach, or its own public
 * address where the owner has switched that on, and then only where the name leads to an address of the internet. The
 * name is looked up once and the connection goes there. A redirect is followed within the site's own hosts, five times
 * at most, and judged anew each time. What takes too long or is too large is left.
 */
final readonly class Visitor
{
    private const REDIRECTS = 5;

    private const SECONDS = 5;

    private const AT_ONCE = 6;

    /** Bytes of an answer: more than any page or picture that a site shows. */
    private const LARGEST = 64 * 1024 * 1024;

    private SiteAddresses $addresses;

    private Client $client;

    public function __construct(
        private Site $site,
        private HostNames $names = new HostNames(),
        private int $largest = self::LARGEST,
        private int $seconds = self::SECONDS,
    ) {
        $this->addresses = $site->addresses();
        $this->client = new Client([
            'timeout' => $this->seconds,
            'connect_timeout' => 2,
            'http_errors' => false,
            'allow_redirects' => false,
            // No proxy of the machine's environment comes between.
            'proxy' => '',
            'protocols' => ['http', 'https'],
            'progress' => function (int $total, int $come): void {
                if (max($total, $come) > $this->largest) {
                    throw new TooLarge($this->largest);
                }
            },
        ]);
    }

    /**
     * @param  list<string>  $addresses
     * @param  callable(int, ?ResponseInterface, ?string): void  $seen the number of the address, and its answer or why
     *       there is none
     */
    public function ask(array $addresses, string $method, callable $seen): void
    {
        $requests = function () use ($addresses, $method) {
            foreach ($addresses as $i => $address) {
                yield $i => fn (): PromiseInterface => $this->follow(
                    $address,
                    $method,
                    $method === 'GET' ? self::REDIRECTS : 0,
                );
            }
        };
        (new Pool($this->client, $requests(), [
            'concurrency' => self::AT_ONCE,
            'fulfilled' => static fn (ResponseInterface $response, int $i) => $seen($i, $response, null),
            'rejected' => static fn (Throwable $e, int $i) => $seen(
                $i,
                null,
                self::why($e),
            ),
        ]))
            ->promise()
            ->wait();
    }

    private static function why(Throwable $e): string
    {
        for ($cause = $e; $cause !== null; $cause = $cause->getPrevious()) {
            if ($cause instanceof Failure) {
                return $cause->getMessage();
            }
        }

        return $e instanceof TransferException ? 'It does not answer.' : $e->getMessage();
    }

    private function follow(string $address, string $method, int $left): PromiseInterface
    {
        try {
            [$request, $options] = $this->request($address, $method);
        } catch (NotToBeAsked $e) {
            return Create::rejectionFor($e);
        }

        $onward = function (ResponseInterface $response) use (
            $address,
            $method,
            $left,
        ): ResponseInterface|PromiseInterface {
            $location = $response->getHeaderLine('Location');
            if (
                $left === 0
                || $location === ''
                || ! in_array($response->getStatusCode(), [301, 302, 303, 307, 308], true)
            ) {
                return $response;
            }
            $next = (string) UriResolver::resolve(new Uri($address), new Uri($location));

            return $this->isOwn($next) && $this->mayAsk($next, $method)
                ? $this->follow($next, $method, $left - 1)
                : $response;
        };

        return $this->client->sendAsync($request, $options)->then($onward);
    }

    private function isOwn(string $address): bool
    {
        return $this->addresses->locate($address)?->whose === Whose::Own;
    }

    private function mayAsk(string $address, string $method): bool
    {
        try {
            $this->request($address, $method);
        } catch (NotToBeAsked) {
            return false;
        }

        return true;
    }

    /**
     * @return array{Request, array<string, mixed>} and what the connection needs to know
     *
     * @throws NotToBeAsked
     */
    private function request(string $address, string $method): array
    {
        $url = Url::parse($address);
        if ($url === null || ! in_array($url->scheme, ['http', 'https'], true)) {
            throw NotToBeAsked::unknown($address);
        }
        $host = (string) $url->host;
        $headers = ['Host' => $url->authority(), 'User-Agent' => 'Ylema'];
        $origin = $this->site->reach_at[$host] ?? null;
        if ($origin !== null) {
            $target = rtrim($origin, '/').$url->path.($url->query === null ? '' : '?'.$url->query);

            return [new Request($method, $target, $headers), []];
        }
        if (! $this->site->ask_public || ! $this->isOwn($address)) {
            throw NotToBeAsked::unknown($host);
        }
        $port = $url->port ?? ($url->scheme === 'https' ? 443 : 80);
        $ip = $this->names->publicAddress($host) ?? throw NotToBeAsked::notPublic($host);

        // The connection goes where the name was judged to lead, whatever it is said to lead to by then.
        return [
            new Request($method, $address, $headers),
            ['curl' => [CURLOPT_RESOLVE => ["$host:$port:".(str_contains($ip, ':') ? "[$ip]" : $ip)]]],
        ];
    }
}
