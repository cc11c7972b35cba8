<?php

declare(strict_types=1);

namespace Ylema\Repair;

use Ylema\Addresses\OutcomeKind;

/** Which families of findings are to be mended, and what a person decided about the open ones. */
final readonly class RepairRequest
{
    /**
     * @param  list<OutcomeKind>  $kinds
     * @param  array<string, string>  $decisions path that references ask for → path that they shall name
     * @param  bool  $isSure whether the sure cures are wanted, too, beside what was decided
     */
    public function __construct(public array $kinds, public array $decisions = [], public bool $isSure = true)
    {
    }

    /** @return array{kinds: list<string>, decisions: array<string, string>, sure: bool} */
    public function toArray(): array
    {
        return [
            'kinds' => array_map(static fn (OutcomeKind $kind): string => $kind->value, $this->kinds),
            'decisions' => $this->decisions,
            'sure' => $this->isSure,
        ];
    }

    /** @param  array<mixed>  $data as toArray() made it */
    public static function fromArray(array $data): self
    {
        $kinds = [];
        foreach (is_array($data['kinds'] ?? null) ? $data['kinds'] : [] as $kind) {
            $kind = is_string($kind) ? OutcomeKind::tryFrom($kind) : null;
            if ($kind !== null && $kind->isFinding()) {
                $kinds[] = $kind;
            }
        }
        $decisions = [];
        foreach (is_array($data['decisions'] ?? null) ? $data['decisions'] : [] as $asked => $path) {
            if (is_string($path)) {
                $decisions[(string) $asked] = $path;
            }
        }

        return new self($kinds, $decisions, ($data['sure'] ?? true) === true);
    }
}
