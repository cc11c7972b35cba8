<?php

declare(strict_types=1);

namespace App\Changes;

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

/**
 * Asks the public site, politely: only hosts that the site's table says how to reach, or its own public address where
 * the owner
 * has switched that on. A redirect is followed within the site's own hosts, five times at most.
 */
final readonly class Visitor
{
    private const REDIRECTS = 5;

    private const SECONDS = 5;

    private const AT_ONCE = 6;

    private SiteAddresses $addresses;

    private Client $client;

    public function __construct(private Site $site)
    {
        $this->addresses = $site->addresses();
        $this->client = new Client([
            'timeout' => self::SECONDS,
            'connect_timeout' => 2,
            'http_errors' => false,
            'allow_redirects' => false,
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
                $e instanceof TransferException ? 'It does not answer.' : $e->getMessage(),
            ),
        ]))
            ->promise()
            ->wait();
    }

    private function follow(string $address, string $method, int $left): PromiseInterface
    {
        $request = $this->request($address, $method);
        if ($request === null) {
            return Create::rejectionFor(new NotToBeAsked((string) Url::parse($address)?->host));
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

            return $this->isOwn($next) && $this->request($next, $method) !== null
                ? $this->follow($next, $method, $left - 1)
                : $response;
        };

        return $this->client->sendAsync($request)->then($onward);
    }

    private function isOwn(string $address): bool
    {
        return $this->addresses->locate($address)?->whose === Whose::Own;
    }

    private function request(string $address, string $method): ?Request
    {
        $url = Url::parse($address);
        if ($url === null) {
            return null;
        }
        $origin = $this->site->reach_at[$url->host] ?? null;
        if ($origin === null && ! ($this->site->ask_public && $this->isOwn($address))) {
            return null;
        }
        $target =
            $origin === null
                ? $address
                : rtrim($origin, '/').$url->path.($url->query === null ? '' : '?'.$url->query);

        return new Request($method, $target, ['Host' => $url->authority(), 'User-Agent' => 'Ylema']);
    }
}
