<?php

declare(strict_types=1);

namespace App\Outgoing;

use Psr\Http\Message\ResponseInterface;

/** What came of asking: the answers on the way, the last one, or why there is none. */
final class Visit
{
    /** @var list<array{string, int}> each address that answered, and with which status */
    public array $steps = [];

    public ?ResponseInterface $response = null;

    /** Why the last address gave no answer, as a sentence. */
    public ?string $problem = null;

    /** Whether the address may be asked at all. */
    public bool $isAllowed = true;

    /** Milliseconds from the first question to the last answer. */
    public int $ms = 0;

    private readonly float $began;

    public function __construct()
    {
        $this->began = microtime(true);
    }

    public function end(?ResponseInterface $response, ?string $problem): self
    {
        $this->response = $response;
        $this->problem = $problem;
        $this->ms = (int) round((microtime(true) - $this->began) * 1000);

        return $this;
    }

    /** The address that gave the last answer. */
    public function address(): ?string
    {
        return $this->steps === [] ? null : $this->steps[count($this->steps) - 1][0];
    }

    public function status(): ?int
    {
        return $this->response?->getStatusCode();
    }

    public function header(string $name): ?string
    {
        $value = $this->response?->getHeaderLine($name) ?? '';

        return $value === '' ? null : mb_scrub(mb_strcut($value, 0, 500));
    }

    /** Whether the answer is markup, or says of itself nothing else. */
    public function isPage(): bool
    {
        return preg_match('~^(?:$|text/html|application/xhtml\+xml)~i', $this->header('Content-Type') ?? '') === 1;
    }
}
