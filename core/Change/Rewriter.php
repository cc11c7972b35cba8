<?php

declare(strict_types=1);

namespace Ylema\Change;

use Ylema\Reading\Around\Markup;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layer;
use Ylema\Reading\Layers\EncodedText;
use Ylema\Reading\Layers\HtmlAttribute;
use Ylema\Reading\Layers\SerializedString;
use Ylema\Reading\Layers\SrcsetCandidate;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reading;
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
    public function __construct(private FieldReader $reader = new FieldReader())
    {
    }

    /**
     * @param  list<array{Reference, string}>  $changes references of one reading of $text (or what stands beside them),
     *       each with its new value
     * @param  Reading|null  $reading the reading that they are of, which spares another one
     * @param  list<Reference>  $gone references of which nothing shall be left
     *
     * @throws CannotEncode when a place cannot say its new value
     * @throws EditConflict when a reference cannot be taken out, when references overlap, or the result does not read
     *         back as meant
     */
    public function edits(
        string $text,
        Notation $notation,
        Rules $rules,
        array $changes,
        ?Reading $reading = null,
        array $gone = [],
    ): Edits {
        $stretches = self::stretches($gone);
        // What goes as a whole needs no new value.
        $changes = array_values(
            array_filter($changes, static fn (array $change): bool => ! self::isWithin($change[0], $stretches)),
        );
        foreach ($changes as $i => [$reference, $value]) {
            if ($reference->names === Names::Address && preg_match('~[\x80-\xFF]~', $value) === 1) {
                $changes[$i][1] = self::inCharset(Charset::of($text, $notation, $rules->encoding), $value);
            }
        }
        foreach ($stretches as $stretch) {
            $changes[] = [$stretch, ''];
        }
        $edits = [];
        /**
         * @var array<int, array{SerializedString, int, list<SerializedString>}> $counted [layer, growth in bytes,
         *       enclosing]
         */
        $counted = [];
        foreach ($changes as [$reference, $value]) {
            if ($value === $reference->value) {
                continue;
            }
            $encoded = $value;
            $isDecoded = preg_match('~[\x80-\xFF]~', $value) !== 1;
            for ($i = count($reference->layers) - 1; $i >= 0; $i--) {
                $layer = $reference->layers[$i];
                $isDecoded = $isDecoded || $layer instanceof EncodedText;
                if ($layer instanceof SerializedString) {
                    // Where nothing else is around it, its bytes are counted as they will stand there.
                    if (! $isDecoded && self::areCounted(array_slice($reference->layers, 0, $i))) {
                        $encoded = self::inEncodingOf($text, $notation, $rules, $encoded);
                        $isDecoded = true;
                    }
                    $id = spl_object_id($layer);
                    $enclosing = array_values(
                        array_filter(
                            array_slice($reference->layers, 0, $i),
                            static fn ($outer): bool => $outer instanceof SerializedString,
                        ),
                    );
                    $counted[$id] ??= [$layer, 0, $enclosing];
                    $counted[$id][1] += strlen($encoded) - $reference->lengths[$i];
                }
                $encoded = $layer->encode($encoded);
            }
            $edits[] = new Edit(
                $reference->start,
                $reference->raw(),
                $isDecoded ? $encoded : self::inEncodingOf($text, $notation, $rules, $encoded),
                $reference,
            );
        }
        if ($edits === []) {
            return Edits::of([]);
        }
        $edits = Edits::of([...$edits, ...$this->lengths($text, $counted)]);
        $before = ($reading ?? $this->reader->read($text, $notation, $rules))->references;
        $before = array_values(
            array_filter($before, static fn (Reference $reference): bool => ! self::isWithin($reference, $stretches)),
        );
        $result = $edits->applyTo($text);
        $tags =
            $stretches === [] && $notation === Notation::Html && self::tokensAlike($text, $result, $rules)
                ? $this->tags($text, $changes)
                : null;
        if ($tags === null) {
            $this->readBack($result, $notation, $rules, $changes, $before);
        } else {
            $this->readTagsBack($text, $edits, $rules, $changes, $tags, $before);
        }

        return $edits;
    }

    /**
     * What must go, without what goes with something else anyway.
     *
     * @param  list<Reference>  $gone
     * @return list<Reference> in the order of their places
     *
     * @throws EditConflict
     */
    private static function stretches(array $gone): array
    {
        $all = [];
        foreach ($gone as $reference) {
            array_push($all, ...$reference->stretches() ?? throw EditConflict::staysIn($reference->value));
        }
        usort(
            $all,
            static fn (Reference $a, Reference $b): int => $a->start <=> $b->start ?: $b->length <=> $a->length,
        );
        $kept = [];
        foreach ($all as $stretch) {
            if (! self::isWithin($stretch, $kept)) {
                $kept[] = $stretch;
            }
        }

        return $kept;
    }

    /** @param  list<Reference>  $stretches */
    private static function isWithin(Reference $reference, array $stretches): bool
    {
        foreach ($stretches as $stretch) {
            if ($reference->start >= $stretch->start && $reference->end() <= $stretch->end()) {
                return true;
            }
        }

        return false;
    }

    /** An address is the same with its bytes in percent signs, which every encoding has (RFC 3987, 3.1). */
    private static function inCharset(Charset $charset, string $value): string
    {
        return implode('', array_map(
            static fn (string $one): string => strlen($one) === 1 || $charset->encode($one) !== null
                ? $one
                : rawurlencode($one),
            mb_str_split($value, 1, 'UTF-8'),
        ));
    }

    /** @param  list<Layer>  $layers */
    private static function areCounted(array $layers): bool
    {
        foreach ($layers as $layer) {
            if (! $layer instanceof SerializedString) {
                return false;
            }
        }

        return true;
    }

    /**
     * A text whose references are all ASCII was read without asking for its encoding; what is written there must be in
     * it.
     */
    private static function inEncodingOf(string $text, Notation $notation, Rules $rules, string $encoded): string
    {
        return Charset::of($text, $notation, $rules->encoding)->layer()->encode($encoded);
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
     * The tags that hold the changed places, where nothing but these tags can be read otherwise afterwards: each place
     * is an attribute of a tag that stands in the outermost text, and its new value is plain. A tokeniser that leaves
     * such a tag at the same byte, in the same state, reads all behind it as before (HTML Standard, 13.2.5), so that
     * only the tags need be read back.
     *
     * @param  list<array{Reference, string}>  $changes
     * @return array<int, int>|null offset of each tag → its length; null where the whole text must be read
     */
    private function tags(string $text, array $changes): ?array
    {
        $tags = [];
        foreach ($changes as [$reference, $value]) {
            $tag = preg_match('~^[\x21-\x7E]++$~D', $value) === 1 && self::isPlain($reference)
                ? $reference->tag()
                : null;
            if ($tag === null) {
                return null;
            }
            $tags[$tag[0]] = $tag[1];
        }
        ksort($tags);

        return $tags;
    }

    /** What editors write into text to place something may stand anywhere, in tags and around them. */
    private static function tokensAlike(string $before, string $after, Rules $rules): bool
    {
        $patterns = [
            ...array_column($rules->tokens, 'regex'),
            ...array_column($rules->tags, 'regex'),
            ...($rules->comments === [] ? [] : ['~<!--|-->~']),
        ];
        foreach ($patterns as $pattern) {
            if (preg_match_all($pattern, $before) !== preg_match_all($pattern, $after)) {
                return false;
            }
        }

        return true;
    }

    private static function isPlain(Reference $reference): bool
    {
        foreach ($reference->layers as $layer) {
            if (! $layer instanceof HtmlAttribute && ! $layer instanceof SrcsetCandidate) {
                return false;
            }
        }

        return $reference->names === Names::Address;
    }

    /**
     * @param  list<array{Reference, string}>  $changes
     * @param  array<int, int>  $tags
     * @param  list<Reference>  $references of the whole text
     */
    private function readTagsBack(
        string $text,
        Edits $edits,
        Rules $rules,
        array $changes,
        array $tags,
        array $references,
    ): void {
        foreach ($tags as $offset => $length) {
            $own = array_values(
                array_filter(
                    $edits->edits,
                    static fn (Edit $edit): bool => $edit->start >= $offset && $edit->end() <= $offset + $length,
                ),
            );
            $after = Edits::of(
                array_map(
                    static fn (Edit $edit): Edit => new Edit($edit->start - $offset, $edit->before, $edit->after),
                    $own,
                ),
            )->applyTo(substr($text, $offset, $length));
            // The tag must end where its text ends, or what follows would be read as part of it.
            if (! Markup::isTag($after)) {
                throw EditConflict::notReadBack($changes[0][1]);
            }
            $wanted = [];
            foreach ($changes as [$reference, $value]) {
                if ($reference->start >= $offset && $reference->end() <= $offset + $length) {
                    $wanted[$reference->start.':'.$reference->length.':'.$reference->value] = $value;
                }
            }
            $before = array_values(
                array_filter(
                    $references,
                    static fn (Reference $reference): bool => $reference->start >= $offset
                        && $reference->end() <= $offset + $length,
                ),
            );
            $this->compare(
                $before,
                $this->reader->read($after, Notation::Html, $rules)->references,
                $wanted,
                $changes[0][1],
            );
        }
    }

    /**
     * Every reference must still be there in its order, each with its value: the old one, or the new where it was
     * changed. A place may spell the new value its own way (a candidate list has no spaces).
     *
     * @param  list<array{Reference, string}>  $changes
     * @param  list<Reference>  $before
     */
    private function readBack(string $result, Notation $notation, Rules $rules, array $changes, array $before): void
    {
        $wanted = [];
        foreach ($changes as [$reference, $value]) {
            if ($reference->names === Names::Words || $reference->names === Names::Stretch) {
                continue;
            }
            $wanted[$reference->start.':'.$reference->length.':'.$reference->value] = $value;
        }
        $this->compare(
            $before,
            $this->reader->read($result, $notation, $rules)->references,
            $wanted,
            $changes[0][1] ?? '',
        );
    }

    /**
     * @param  list<Reference>  $before
     * @param  list<Reference>  $after
     * @param  array<string, string>  $wanted place and value of a changed reference → its new value
     */
    private function compare(array $before, array $after, array $wanted, string $first): void
    {
        foreach ($before as $i => $reference) {
            $value = $wanted[$reference->start.':'.$reference->length.':'.$reference->value] ?? null;
            $now = ($after[$i] ?? null)?->value;
            if ($now !== ($value ?? $reference->value) && ($value === null || $now !== strtr($value, [' ' => '%20']))) {
                throw EditConflict::notReadBack($value ?? $reference->value);
            }
        }
        if (count($after) !== count($before)) {
            throw EditConflict::notReadBack($first);
        }
    }
}
