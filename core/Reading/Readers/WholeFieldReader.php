<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\PathBelow;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** A field (or a value inside one) that is nothing but references: an address, ids or keys, one or a list. */
final readonly class WholeFieldReader implements Reader
{
    private const ADDRESS = '~^[^\x00-\x20][^\n\r]*$~D';

    public function __construct(private Notation $notation = Notation::Url)
    {
    }

    public function as(Notation $notation): self
    {
        return new self($notation);
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        [$pattern, $names, $layer] = match ($this->notation) {
            // Leading and trailing C0 controls and spaces are not part of an address (URL Standard, 4.4).
            Notation::Url => [
                '~[^\x00-\x20](?:[^\x00\n\r]*[^\x00-\x20])?~', Names::Address,
                new Plain(Notation::Url, self::ADDRESS),
            ],
            Notation::MediaId => $rules->idsAreWords
                ? ['~[^\s,;|{}"]+~', Names::MediaItem, new Plain(Notation::MediaId, '~^[^\s,;|{}"]+$~D')]
                : ['~[1-9]\d*~', Names::MediaItem, new Plain(Notation::MediaId, '~^[1-9]\d*$~D')],
            // Around the keys of an array, PostgreSQL writes braces, and quotes where it must.
            default => ['~[^\s,;{}"]+~', Names::Record, new Plain(Notation::RecordKey, '~^[^\s,;{}"]+$~D')],
        };
        if (preg_match_all($pattern, $slice->text, $matches, PREG_OFFSET_CAPTURE) === false) {
            return;
        }
        foreach ($matches[0] as [$text, $offset]) {
            $below = $rules->below === null || $names !== Names::Address
                ? null
                : PathBelow::of($text, $rules->below, self::ADDRESS);
            $value = $below?->decode($text) ?? $text;
            $fetch = $names === Names::Address ? $rules->fetch ?? Fetch::OnCondition : Fetch::BySite;
            $found->add(
                $slice, $offset, strlen($text), $value, $names, $rules->role ?? $this->notation->value, $fetch,
                $below ?? $layer, $rules->target,
            );
        }
    }
}
