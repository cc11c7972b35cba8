<?php

declare(strict_types=1);

namespace Ylema\Repair;

use Ylema\Addresses\OutcomeKind;

/** Which families of findings are to be mended, and what a person decided about the open ones. */
final readonly class RepairRequest
{
    /**
     * @param  list<OutcomeKind>  $kinds
     * @param  array<string, string|null>  $decisions what references ask for → path that they shall name, of a file or
     *       a page; null where they shall be taken out
     * @param  list<array{string, string}>  $rules what a person decided for all alike: whatever begins with the first
     *       is to begin with the second, where such a file or page is there
     * @param  bool  $isSure whether the sure cures are wanted, too, beside what was decided
     */
    public function __construct(
        public array $kinds,
        public array $decisions = [],
        public bool $isSure = true,
        public array $rules = [],
    ) {
    }

    /** Where a rule leads what is asked for; null where none fits. */
    public function ruled(string $asked): ?string
    {
        foreach ($this->rules as [$from, $to]) {
            if (str_starts_with($asked, $from)) {
                return $to.substr($asked, strlen($from));
            }
        }

        return null;
    }

    /**
     * @return array{
     *     kinds: list<string>,
     *     decisions: array<string, string|null>,
     *     sure: bool,
     *     rules: list<array{string, string}>,
     * }
     */
    public function toArray(): array
    {
        return [
            'kinds' => array_map(static fn (OutcomeKind $kind): string => $kind->value, $this->kinds),
            'decisions' => $this->decisions,
            'sure' => $this->isSure,
            'rules' => $this->rules,
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
            if (is_string($path) || $path === null) {
                $decisions[(string) $asked] = $path;
            }
        }

        $rules = [];
        foreach (is_array($data['rules'] ?? null) ? $data['rules'] : [] as $rule) {
            if (is_array($rule) && is_string($rule[0] ?? null) && is_string($rule[1] ?? null)) {
                $rules[] = [$rule[0], $rule[1]];
            }
        }

        return new self($kinds, $decisions, ($data['sure'] ?? true) === true, $rules);
    }
}
