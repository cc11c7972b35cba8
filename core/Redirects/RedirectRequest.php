<?php

declare(strict_types=1);

namespace Ylema\Redirects;

/** Redirects that shall be there, and addresses that nobody shall be sent on from any more. */
final readonly class RedirectRequest
{
    /**
     * @param  list<Entry>  $put
     * @param  list<string>  $drop addresses, as Entry::$from says them
     */
    public function __construct(public array $put, public array $drop = [])
    {
    }

    /** @return array{put: list<array{string, string, int}>, drop: list<string>} */
    public function toArray(): array
    {
        return [
            'put' => array_map(static fn (Entry $e): array => [$e->from, $e->to, $e->status], $this->put),
            'drop' => $this->drop,
        ];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $put = [];
        foreach (is_array($data['put'] ?? null) ? $data['put'] : [] as $row) {
            if (is_array($row) && is_string($row[0] ?? null) && is_string($row[1] ?? null) && is_int($row[2] ?? null)) {
                $put[] = new Entry($row[0], $row[1], $row[2]);
            }
        }

        return new self(
            $put,
            array_values(array_filter(is_array($data['drop'] ?? null) ? $data['drop'] : [], is_string(...))),
        );
    }
}
