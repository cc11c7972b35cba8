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
use InvalidArgumentException;
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
 * at most, and judged anew each time. Hosts that a maintainer allowed by name are asked likewise. What takes too long
 * or is too large is left.
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

    /**
     * @param  int  $largest bytes of an answer at most
     * @param  int  $seconds until an answer is given up
     * @param  int  $pause milliseconds before each question
     * @param  list<string>  $hosts names of other hosts that the maintainer allowed to be asked
     */
    public function __construct(
        private Site $site,
        private HostNames $names = new HostNames(),
        private int $largest = self::LARGEST,
        private int $seconds = self::SECONDS,
        private int $atOnce = self::AT_ONCE,
        private int $pause = 0,
        private array $hosts = [],
    ) {
        $this->addresses = $site->addresses();
        $this->client = new Client([
            'timeout' => $this->seconds,
            'connect_timeout' => 2,
            'http_errors' => false,
            'allow_redirects' => false,
            // Nothing is unpacked: a small answer must not become a large one here.
            'decode_content' => false,
            // A connection ends with its answer: none is left open in a worker that lives for an hour.
            'curl' => [CURLOPT_FORBID_REUSE => true],
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
        $questions = array_map(
            static fn (string $address): Question => new Question($address, $method, [], $method === 'GET'),
            $addresses,
        );
        $this->visit($questions, static fn (int $i, Visit $visit) => $seen($i, $visit->response, $visit->problem));
    }

    /**
     * @param  array<int, Question>  $questions
     * @param  callable(int, Visit): void  $seen the number of the question, and what came of it
     */
    public function visit(array $questions, callable $seen): void
    {
        $visits = [];
        $requests = function () use ($questions, &$visits) {
            foreach ($questions as $i => $question) {
                yield $i => function () use ($i, $question, &$visits): PromiseInterface {
                    $visits[$i] = new Visit();

                    return $this->follow(
                        $question->address,
                        $question,
                        $question->follows ? self::REDIRECTS : 0,
                        $visits[$i],
                    );
                };
            }
        };
        $end = static function (int $i, ?ResponseInterface $response, ?string $problem) use ($seen, &$visits): void {
            $visit = $visits[$i] ?? new Visit();
            unset($visits[$i]);
            $seen($i, $visit->end($response, $problem));
        };
        (new Pool($this->client, $requests(), [
            'concurrency' => $this->atOnce,
            'fulfilled' => static fn (ResponseInterface $response, int $i) => $end($i, $response, null),
            'rejected' => static fn (Throwable $e, int $i) => $end($i, null, self::why($e)),
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

    private function follow(string $address, Question $question, int $left, Visit $visit): PromiseInterface
    {
        try {
            [$request, $options] = $this->request($address, $question);
        } catch (NotToBeAsked $e) {
            $visit->isAllowed = false;

            return Create::rejectionFor($e);
        }

        $onward = function (ResponseInterface $response) use (
            $address,
            $question,
            $left,
            $visit,
        ): ResponseInterface|PromiseInterface {
            $visit->steps[] = [$address, $response->getStatusCode()];
            $location = $response->getHeaderLine('Location');
            if (
                $left === 0
                || $location === ''
                || ! in_array($response->getStatusCode(), [301, 302, 303, 307, 308], true)
            ) {
                return $response;
            }
            $next = self::resolved($address, $location);

            return $next !== null && $this->mayFollow($next) && $this->mayAsk($next, $question)
                ? $this->follow($next, $question, $left - 1, $visit)
                : $response;
        };

        return $this->client->sendAsync($request, $options)->then($onward);
    }

    /** Where a Location header leads; null where that is no address. */
    public static function resolved(string $address, string $location): ?string
    {
        try {
            return (string) UriResolver::resolve(new Uri($address), new Uri($location));
        } catch (InvalidArgumentException) {
            return null;
        }
    }

    /** A redirect leads within the site, or within what its maintainer allowed. */
    private function mayFollow(string $address): bool
    {
        return $this->isOwn($address)
            || isset($this->site->reach_at[self::host($address)])
            || $this->isAllowed($address);
    }

    private function isAllowed(string $address): bool
    {
        return $this->site->ask_public && in_array(self::host($address), $this->hosts, true);
    }

    private static function host(string $address): string
    {
        return (string) Url::parse($address)?->host;
    }

    private function isOwn(string $address): bool
    {
        return $this->addresses->locate($address)?->whose === Whose::Own;
    }

    private function mayAsk(string $address, Question $question): bool
    {
        try {
            $this->request($address, $question);
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
    private function request(string $address, Question $question): array
    {
        $url = Url::parse($address);
        if ($url === null || ! in_array($url->scheme, ['http', 'https'], true)) {
            throw NotToBeAsked::unknown($address);
        }
        $host = (string) $url->host;
        $headers = [
            ...$question->headers,
            'Host' => $url->authority(),
            'User-Agent' => 'Ylema',
            'Accept-Encoding' => 'identity',
        ];
        $options = $this->pause === 0 ? [] : ['delay' => $this->pause];
        $origin = $this->site->reach_at[$host] ?? null;
        if ($origin !== null) {
            $target = rtrim($origin, '/').$url->path.($url->query === null ? '' : '?'.$url->query);

            return [new Request($question->method, $target, $headers), $options];
        }
        if (! $this->isAllowed($address) && (! $this->site->ask_public || ! $this->isOwn($address))) {
            throw NotToBeAsked::unknown($host);
        }
        $ip = $this->names->publicAddress($host) ?? throw NotToBeAsked::notPublic($host);

        // The connection goes where the name was judged to lead, whatever it is said to lead to by then; and the
        // address is sent as it was judged, which others may read otherwise (`http://a\@b/`).
        return [
            new Request(
                $question->method,
                "$url->scheme://".$url->authority().$url->path.($url->query === null ? '' : "?$url->query"),
                $headers,
            ),
            [
                ...$options,
                'curl' => [
                    CURLOPT_FORBID_REUSE => true,
                    // For whatever host and port a client makes of it (CURLOPT_CONNECT_TO, which leaves both empty).
                    CURLOPT_CONNECT_TO => ['::'.(str_contains($ip, ':') ? "[$ip]" : $ip).':'],
                ],
            ],
        ];
    }
}
