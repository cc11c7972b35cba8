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
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** A field (or a value inside one) that is nothing but references: an address, ids or keys, one or a list. */
final readonly class WholeFieldReader implements Reader
{
    private const ADDRESS = '~^[^\x00-\x20][^\n\r]*$~D';

    /** Ids that are words: a UUID (RFC 9562) ends where it ends, others at what separates them. */
    private const WORDS = '~(?<![\w-])[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}(?![\w-])'
        .'|[^\s,;|{}\[\]"/][^\s,;|{}\[\]"]*~i';

    public function __construct(private Notation $notation = Notation::Url)
    {
    }

    public function as(Notation $notation): self
    {
        return new self($notation);
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        if ($rules->typed !== [] && $this->notation === Notation::RecordKey) {
            $this->typed($slice, $found, $rules);

            return;
        }
        if ($this->notation === Notation::RecordKey && $rules->target === null) {
            // Another column says of what kind it is the key, and in this row it says none that is read.
            return;
        }
        [$pattern, $names, $layer] = match ($this->notation) {
            // Leading and trailing C0 controls and spaces are not part of an address (URL Standard, 4.4).
            Notation::Url => [
                '~[^\x00-\x20](?:[^\x00\n\r]*[^\x00-\x20])?~', Names::Address,
                new Plain(Notation::Url, self::ADDRESS),
            ],
            Notation::MediaId => $rules->idsAreWords
                ? [self::WORDS, Names::MediaItem, new Plain(Notation::MediaId, '~^[^\s,;|{}\[\]"]+$~D')]
                : ['~[1-9]\d*~', Names::MediaItem, new Plain(Notation::MediaId, '~^[1-9]\d*$~D')],
            // Around the keys of an array, PostgreSQL writes braces, and quotes where it must.
            default => [
                '~[^\s,;|{}\[\]"]+~', Names::Record, new Plain(Notation::RecordKey, '~^[^\s,;|{}\[\]"]+$~D'),
            ],
        };
        preg_match_all($pattern, $slice->text, $matches, PREG_OFFSET_CAPTURE);
        PatternGaveUp::check();
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

    /** Keys that say themselves of what they are: `programme/12`, `picture/7`. */
    private function typed(Slice $slice, Collector $found, Rules $rules): void
    {
        foreach ($rules->typed as $before => $target) {
            // One number or word alone, so that neither is taken for the end of a longer one.
            $pattern = '~(?<![^\s,;|{}"])'.preg_quote((string) $before, '~').'(?<key>[^\s,;|{}"]+)~';
            preg_match_all($pattern, $slice->text, $matches, PREG_SET_ORDER | PREG_OFFSET_CAPTURE);
            PatternGaveUp::check();
            $names = $target === null ? Names::MediaItem : Names::Record;
            $layer = new Plain($target === null ? Notation::MediaId : Notation::RecordKey, '~^[^\s,;|{}"]+$~D');
            foreach ($matches as $match) {
                [$key, $offset] = $match['key'];
                $found->add(
                    $slice, $offset, strlen($key), $key, $names, $rules->role ?? $this->notation->value,
                    Fetch::BySite, $layer, $target,
                );
            }
        }
    }
}
