<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** Which files at rest, or in the archive, are meant. */
final readonly class RestingQuestion
{
    /**
     * @param  list<int>|null  $files their numbers; an original is meant with what was derived from it
     * @param  int|null  $plan all that one plan laid to rest
     * @param  bool  $called all that something asks for
     * @param  string|null  $over all whose days are over on this day, and that nothing asks for (ISO 8601)
     * @param  list<int>|null  $bagged numbers of files in bags of the archive: these instead of any that rest
     */
    public function __construct(
        public ?array $files = null,
        public ?int $plan = null,
        public bool $called = false,
        public ?string $over = null,
        public ?array $bagged = null,
    ) {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'files' => $this->files,
            'plan' => $this->plan,
            'called' => $this->called,
            'over' => $this->over,
            'bagged' => $this->bagged,
        ];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $numbers = static fn (mixed $list): ?array => is_array($list)
            ? array_values(array_filter($list, is_int(...)))
            : null;

        return new self(
            $numbers($data['files'] ?? null),
            is_int($data['plan'] ?? null) ? $data['plan'] : null,
            ($data['called'] ?? false) === true,
            is_string($data['over'] ?? null) ? $data['over'] : null,
            $numbers($data['bagged'] ?? null),
        );
    }
}
