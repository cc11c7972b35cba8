<?php

declare(strict_types=1);

namespace Ylema\Plan;

/**
 * One thing in a plan. A step says what it expects to find and what it leaves behind, so that whoever carries it out
 * can tell "not done yet" from "done" from "something else is there"; and it knows the step that leads back.
 */
interface Step
{
    public function kind(): StepKind;

    /** What it is about, as a person would list it: a record's title, a path. */
    public function title(): string;

    /** The step that undoes it, once it is done. */
    public function inverse(): self;

    /** @return string|null what is there once it is done, for steps that wait for it (see Mark) */
    public function gives(): ?string;

    /**
     * What has to be there for it to be done, and to stay: where a step of the plan gives that and is refused, this one
     * is refused as well, or taken back.
     *
     * @return list<string> see Mark
     */
    public function needs(): array;

    /** @return array<string, mixed> all that StepKind::restore() needs; plain values that JSON can hold */
    public function toArray(): array;
}
