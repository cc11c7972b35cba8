<?php

declare(strict_types=1);

namespace Ylema\Reading;

use Ylema\Reading\Around\Document;
use Ylema\Reading\Around\Surroundings;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\Layers\OwnScheme;
use Ylema\Reading\Layers\SerializedString;
use Ylema\Reading\Layers\ThroughScript;

/**
 * Gathers references while readers walk a field, and turns offsets of inner layers into bytes of the outermost text.
 *
 * @internal
 */
final class Collector
{
    /** What a maintainer reads of one field; whoever breaks a text on purpose breaks it a thousand times. */
    private const MOST_PROBLEMS = 25;

    /** Bytes of an address that is no text. */
    private const LONGEST = 65_536;

    /** @var list<Reference> in the order in which they were found; html adds its commonest ones without a call */
    public array $references = [];

    /** @var list<Problem> */
    private array $problems = [];

    private ?string $base = null;

    private int $baseAt = 0;

    public readonly Document $document;

    /** What the nearest enclosing markup gives to the layers inside it. */
    private Surroundings $surroundings;

    private int $anchor = 0;

    private int $conditions = 0;

    /** How many documents inside of the document are open. */
    private int $documents = 0;

    private ?Slice $lastSlice = null;

    private ?Layer $lastLayer = null;

    /** @var list<Layer> */
    private array $lastLayers = [];

    /** @param  Charset|null  $charset in which the text is to be decoded; null where it is UTF-8, and none is broken */
    public function __construct(string $outermost, public readonly ?Charset $charset = null)
    {
        $this->document = new Document($outermost, $charset);
        $this->surroundings = $this->document;
    }

    /** @param  int  $anchor see Surroundings::context() */
    public function surround(Surroundings $surroundings, int $anchor): void
    {
        $this->surroundings = $surroundings;
        $this->anchor = $anchor;
    }

    /** @return array{Surroundings, int} for surround() to put back */
    public function surroundings(): array
    {
        return [$this->surroundings, $this->anchor];
    }

    /**
     * Until the matching leaveCondition(), nothing found is fetched by a browser by itself: it stands in a script or
     * the like.
     */
    public function enterCondition(): void
    {
        $this->conditions++;
    }

    public function isConditional(): bool
    {
        return $this->conditions > 0;
    }

    public function leaveCondition(): void
    {
        $this->conditions--;
    }

    /** Until the matching leaveDocument(), a base element is none of the page's. */
    public function enterDocument(): void
    {
        $this->documents++;
    }

    public function leaveDocument(): void
    {
        $this->documents--;
    }

    /**
     * The first base element with an href counts, and nothing does where that is one of data or script (HTML Standard,
     * 4.2.3 "set the frozen base URL").
     */
    public function base(string $href, int $at): void
    {
        if ($this->documents === 0 && $this->base === null) {
            $this->baseAt = $at;
            $this->base = preg_match('~^[\x00-\x20]*(?:javascript|data):~i', $href) === 1 ? '' : $href;
        }
    }

    /**
     * @param  int  $start the token's first byte in the slice
     * @param  string  $value what a browser sees; where neither the slice nor the layer decoded anything, the token
     *       itself
     * @param  Layer|null  $layer the innermost layer, where the slice does not have it already
     */
    public function add(
        Slice $slice,
        int $start,
        int $length,
        string $value,
        Names $names,
        string $role,
        Fetch $fetch,
        ?Layer $layer = null,
        ?string $target = null,
        ?string $descriptor = null,
        ?Surroundings $surroundings = null,
    ): void {
        $layers = $layer === null ? $slice->layers : $this->layers($slice, $layer);
        if ($this->charset !== null && ! $slice->decoded) {
            if ($this->isNoText($slice, $start, $value)) {
                return;
            }
            [$value, $layers] = $this->decoded($this->charset, $value, $layers);
        }
        $from = $slice->outer($start);
        $to = $slice->base === null ? $slice->outer($start + $length) : $from + $length;
        $this->references[] = new Reference(
            $from,
            $to - $from,
            $value,
            $role,
            $this->conditions > 0 && $fetch === Fetch::Always ? Fetch::OnCondition : $fetch,
            $layers,
            $surroundings ?? $this->surroundings,
            $this->anchor,
            $slice->path,
            $descriptor,
            $names,
            $target,
            $slice->counted ? $slice->lengthsOf($start, $start + $length) : [],
        );
    }

    /**
     * The same for the commonest case, an address that stands in its slice as it is; the shortest way there is.
     *
     * @param  list<Layer>  $layers outermost first, with those that the slice does not have
     */
    public function token(
        Slice $slice,
        int $start,
        string $value,
        string $role,
        Fetch $fetch,
        array $layers,
        Surroundings $surroundings,
        int $anchor,
        ?string $descriptor = null,
    ): void {
        $length = strlen($value);
        $lengths = $slice->counted ? $slice->lengthsOf($start, $start + $length) : [];
        if ($this->charset !== null && ! $slice->decoded) {
            if ($this->isNoText($slice, $start, $value)) {
                return;
            }
            [$value, $layers] = $this->decoded($this->charset, $value, $layers);
        }
        if ($slice->base === null) {
            $from = $slice->outer($start);
            $length = $slice->outer($start + $length) - $from;
        } else {
            $from = $slice->base + $start;
        }
        if ($this->conditions > 0 && $fetch === Fetch::Always) {
            $fetch = Fetch::OnCondition;
        }
        $this->references[] = new Reference(
            $from,
            $length,
            $value,
            $role,
            $fetch,
            $layers,
            $surroundings,
            $anchor,
            $slice->path,
            $descriptor,
            lengths: $lengths,
        );
    }

    /** Whether what should be an address is as long as a file, and not of ASCII. */
    private function isNoText(Slice $slice, int $start, string $value): bool
    {
        $isNone = strlen($value) > self::LONGEST && preg_match('~[\x80-\xFF]~', $value) === 1;
        if ($isNone) {
            $this->problem($slice->outer($start), 'These bytes are no text, and no address; they were not read.');
        }

        return $isNone;
    }

    /**
     * A value that stands in text which was walked in its own bytes.
     *
     * @param  list<Layer>  $layers
     * @return array{string, list<Layer>}
     */
    private function decoded(Charset $charset, string $value, array $layers): array
    {
        if (preg_match('~[\x80-\xFF]~', $value) !== 1) {
            return [$value, $layers];
        }
        // Strings of serialized text count the bytes as they are.
        $counted = 0;
        while (($layers[$counted] ?? null) instanceof SerializedString) {
            $counted++;
        }
        array_splice($layers, $counted, 0, [$charset->layer()]);

        return [$charset->text($value), $layers];
    }

    /**
     * References of one slice share one list of layers.
     *
     * @return list<Layer>
     */
    private function layers(Slice $slice, Layer $layer): array
    {
        if ($this->lastSlice !== $slice || $this->lastLayer !== $layer) {
            $this->lastSlice = $slice;
            $this->lastLayer = $layer;
            $this->lastLayers = [...$slice->layers, $layer];
        }

        return $this->lastLayers;
    }

    /**
     * Whatever reader met them, addresses in schemes of the site's own, and of scripts that show a file, are known by
     * the file.
     *
     * @param  array<string, string>  $schemes
     * @param  array<string, string>  $scripts
     */
    public function translate(array $schemes, array $scripts): void
    {
        foreach ($this->references as $i => $reference) {
            if ($reference->names !== Names::Address) {
                continue;
            }
            $scheme = OwnScheme::of($reference->value, $schemes);
            if ($scheme !== null) {
                $reference = $reference->through($scheme, $scheme->decode($reference->value));
            }
            $script = ThroughScript::of($reference->value, $scripts);
            $this->references[$i] = $script === null ? $reference : $reference->through($script, $script->decode());
        }
    }

    public function problem(int $outerOffset, string $message): void
    {
        $count = count($this->problems);
        $outerOffset = min($outerOffset, strlen($this->document->text));
        if ($count === self::MOST_PROBLEMS) {
            $message = 'There is more from here on that could not be read.';
        }
        if ($count <= self::MOST_PROBLEMS) {
            $this->problems[] = new Problem($outerOffset, $this->document->place($outerOffset)[0], $message);
        }
    }

    /** For the end of a loop over a pattern: whether it ended because PCRE gave up, which is then reported. */
    public function gaveUp(Slice $slice, int $at): bool
    {
        if (preg_last_error() === PREG_NO_ERROR) {
            return false;
        }
        $this->problem(
            $slice->outer($at),
            'One token here is too long or too tangled to read ('
                .preg_last_error_msg()
                .'); what follows was not read.',
        );

        return true;
    }

    /**
     * Where a reader stands, for restore(), should it be cut off.
     *
     * @return array{int, int, Surroundings, int}
     */
    public function mark(): array
    {
        return [$this->conditions, $this->documents, $this->surroundings, $this->anchor];
    }

    /** @param  array{int, int, Surroundings, int}  $mark */
    public function restore(array $mark): void
    {
        [$this->conditions, $this->documents, $this->surroundings, $this->anchor] = $mark;
    }

    public function reading(): Reading
    {
        $charset = $this->charset === null || $this->charset->isUtf8() ? null : $this->charset;
        if ($charset !== null) {
            $this->encodeQueries($charset);
        }
        $references = $this->references;
        // By the numbers alone: every object that a loop passes is one that the garbage collector goes through later.
        $last = -1;
        foreach (array_column($references, 'start') as $start) {
            if ($start <= $last) {
                $references = self::ordered($references);
                break;
            }
            $last = $start;
        }

        $base = $this->base === '' ? null : $this->base;

        return new Reading($references, $this->problems, $base, $this->baseAt, $charset);
    }

    /** A browser sends a query in the bytes of the page's encoding (URL Standard, 4.4 "query state"). */
    private function encodeQueries(Charset $charset): void
    {
        foreach ($this->references as $i => $reference) {
            $at = $reference->names === Names::Address ? strpos($reference->value, '?') : false;
            if ($at === false || preg_match('~[\x80-\xFF]~', $reference->value, $m, 0, $at) !== 1) {
                continue;
            }
            $query = substr($reference->value, $at, strcspn($reference->value, '#', $at));
            $sent = implode('', array_map(
                static fn (string $one): string => strlen($one) === 1
                    ? $one
                    : rawurlencode($charset->encode($one) ?? '&#'.mb_ord($one, 'UTF-8').';'),
                mb_str_split($query, 1, 'UTF-8'),
            ));
            $value = substr_replace($reference->value, $sent, $at, strlen($query));
            $this->references[$i] = $reference->upTo($reference->length, $value);
        }
    }

    /**
     * Markup inside of a token is met twice, as part of its page and as what the token holds; it is one place, and
     * counts as what the page found first.
     *
     * @param  list<Reference>  $references
     * @return list<Reference>
     */
    private static function ordered(array $references): array
    {
        usort(
            $references,
            static fn (Reference $a, Reference $b): int => $a->start <=> $b->start ?: $a->length <=> $b->length,
        );
        $ordered = [];
        $last = null;
        foreach ($references as $reference) {
            if ($reference->start !== $last?->start || $reference->length !== $last->length) {
                $ordered[] = $last = $reference;
            }
        }

        return $ordered;
    }
}
