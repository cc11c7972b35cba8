<?php

declare(strict_types=1);

namespace App\Sites\Packed;

/** A text that was unpacked, and knows how it was packed. */
interface PackedText
{
    public function text(): string;

    /** Another text as this one was packed. */
    public function pack(string $text): string;
}
