<?php

declare(strict_types=1);

namespace Ylema\Change;

use Ylema\Reading\CannotEncode;
use Ylema\Reading\Encoding\LegacyDecoder;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\LegacyText;
use Ylema\Reading\Layers\SerializedString;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/**
 * Turns "this reference shall say that" into edits of the field's bytes.
 *
 * Each layer, from the innermost out, encodes only its own token; stated lengths are mended in every
 * enclosing level. The result is read back before it is given out: what a browser would see is then
 * known, not hoped.
 */
final readonly class Rewriter
{
    public function __construct(private FieldReader $reader = new FieldReader)
    {
    }

    /**
     * @param  list<array{Reference, string}>  $changes references of one reading of $text, each with its new value
     *
     * @throws CannotEncode when a place cannot say its new value
     * @throws EditConflict when references overlap, or the result does not read back as meant
     */
    public function edits(string $text, Notation $notation, Rules $rules, array $changes): Edits
    {
        $edits = [];
        /** @var array<int, array{SerializedString, int, list<SerializedString>}> $counted [layer, growth in bytes, enclosing] */
        $counted = [];
        foreach ($changes as [$reference, $value]) {
            if ($value === $reference->value) {
                continue;
            }
            $encoded = $value;
            $isDecoded = preg_match('~[\x80-\xFF]~', $value) !== 1;
            for ($i = count($reference->layers) - 1; $i >= 0; $i--) {
                $layer = $reference->layers[$i];
                $isDecoded = $isDecoded || $layer instanceof LegacyText;
                if ($layer instanceof SerializedString) {
                    // Its bytes are counted as they will stand there.
                    [$encoded, $isDecoded] = [$isDecoded ? $encoded : self::inEncodingOf($text, $encoded), true];
                    $id = spl_object_id($layer);
                    $enclosing = array_values(array_filter(
                        array_slice($reference->layers, 0, $i),
                        static fn ($outer): bool => $outer instanceof SerializedString,
                    ));
                    $counted[$id] ??= [$layer, 0, $enclosing];
                    $counted[$id][1] += strlen($encoded) - $reference->lengths[$i];
                }
                $encoded = $layer->encode($encoded);
            }
            $edits[] = new Edit($reference->start, $reference->raw(), $isDecoded ? $encoded : self::inEncodingOf($text, $encoded));
        }
        $edits = Edits::of([...$edits, ...$this->lengths($text, $counted)]);
        $this->readBack($text, $edits->applyTo($text), $notation, $rules, $changes);

        return $edits;
    }

    /** A text whose references are all ASCII was read without asking for its encoding; what is written there must be in it. */
    private static function inEncodingOf(string $text, string $encoded): string
    {
        return LegacyDecoder::layer($text)?->encode($encoded) ?? $encoded;
    }

    /**
     * @param  array<int, array{SerializedString, int, list<SerializedString>}>  $counted
     * @return list<Edit>
     */
    private function lengths(string $text, array $counted): array
    {
        // Innermost first: a length that gains a digit makes every string around it longer.
        uasort($counted, static fn (array $a, array $b): int => count($b[2]) <=> count($a[2]));
        $edits = [];
        foreach (array_keys($counted) as $id) {
            [$layer, $growth, $enclosing] = $counted[$id];
            if ($growth === 0) {
                continue;
            }
            $before = substr($text, $layer->digitsStart, $layer->digitsLength);
            $after = (string) ($layer->bytes + $growth);
            $edits[] = new Edit($layer->digitsStart, $before, $after);
            foreach ($enclosing as $outer) {
                $id = spl_object_id($outer);
                $counted[$id] ??= [$outer, 0, []];
                $counted[$id][1] += strlen($after) - strlen($before);
            }
        }

        return $edits;
    }

    /**
     * Every reference must still be there in its order, each with its value: the old one, or the new where it was changed.
     * A place may spell the new value its own way (a candidate list has no spaces).
     *
     * @param  list<array{Reference, string}>  $changes
     */
    private function readBack(string $text, string $result, Notation $notation, Rules $rules, array $changes): void
    {
        $wanted = [];
        foreach ($changes as [$reference, $value]) {
            $wanted[$reference->start.':'.$reference->length.':'.$reference->value] = $value;
        }
        $after = $this->reader->read($result, $notation, $rules)->references;
        $before = $this->reader->read($text, $notation, $rules)->references;
        foreach ($before as $i => $reference) {
            $value = $wanted[$reference->start.':'.$reference->length.':'.$reference->value] ?? null;
            $now = ($after[$i] ?? null)?->value;
            if ($now !== ($value ?? $reference->value) && ($value === null || $now !== strtr($value, [' ' => '%20']))) {
                throw EditConflict::notReadBack($value ?? $reference->value);
            }
        }
        if (count($after) !== count($before)) {
            throw EditConflict::notReadBack($changes[0][1] ?? '');
        }
    }
}
