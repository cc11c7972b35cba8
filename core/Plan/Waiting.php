<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** Which steps of a plan wait in vain, since what they need comes of a step that cannot be carried out. */
final class Waiting
{
    private const BEGINS = 'Not done, because ';

    private const STAYS = 'It stays as ';

    /** @var array<string, string> mark → why it will not be there */
    private array $missing = [];

    /**
     * @param  string|null  $why the step itself cannot be carried out; null where it can
     * @return string|null the same, or why it waits in vain
     */
    public function met(Step $step, ?string $why): ?string
    {
        if ($this->missing !== []) {
            foreach ($why === null ? $step->needs() : [] as $mark) {
                $why ??= $this->missing[$mark] ?? null;
            }
        }
        $gives = $why === null ? null : $step->gives();
        if ($gives !== null) {
            $this->missing[$gives] = self::because($step->kind(), $step->title(), (string) $why);
        }

        return $why;
    }

    /** What a step says that waits for another one in vain: the first reason of all. */
    public static function because(StepKind $kind, string $title, string $why): string
    {
        return str_starts_with($why, self::BEGINS) ? $why : self::BEGINS."$title {$kind->refusal()}: ".lcfirst($why);
    }

    /** What a step says that is not taken back, since another one could not be. */
    public static function together(string $title, string $why): string
    {
        return self::first($why) ?? self::STAYS."it is, since \"$title\" was not taken back: ".lcfirst($why);
    }

    /** The same of one that has to stay, as another one still needs it. */
    public static function stays(string $title, string $why): string
    {
        return self::first($why) ?? self::STAYS."long as \"$title\" needs it, which was not taken back: ".lcfirst($why);
    }

    /** The first reason of all, where a step stays because of another one that stays itself. */
    private static function first(string $why): ?string
    {
        return str_starts_with($why, self::STAYS) ? $why : null;
    }
}
