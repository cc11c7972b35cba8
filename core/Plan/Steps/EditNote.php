<?php

declare(strict_types=1);

namespace Ylema\Plan\Steps;

/** What a person sees of an edit beside its bytes. */
final readonly class EditNote
{
    /**
     * @param  string|null  $role of the reference that it changes; null for a stated length that is mended
     * @param  int|null  $line from 1
     * @param  string  $lead the text before it, valid UTF-8
     * @param  string  $tail the text behind it, valid UTF-8
     */
    public function __construct(public ?string $role, public ?int $line, public string $lead, public string $tail)
    {
    }
}
