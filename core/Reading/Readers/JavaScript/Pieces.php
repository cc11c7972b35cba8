<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\JavaScript;

use Ylema\Reading\Breaks;
use Ylema\Reading\Collector;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\JavaScriptString;
use Ylema\Reading\Layers\PutTogether;
use Ylema\Reading\Notation;
use Ylema\Reading\Readers\StructuredValues;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * Reads what a script's strings say, one by one or put together.
 *
 * @internal
 */
final readonly class Pieces
{
    /**
     * What a letter, a digit or a line break stands for behind a backslash (12.9.4, SingleEscapeCharacter and
     * LineContinuation).
     */
    private const ESCAPES = [
        'n' => "\n", 't' => "\t", 'r' => "\r", 'b' => "\x08", 'f' => "\f", 'v' => "\x0B", '0' => "\0", "\n" => '',
        "\r\n" => '', "\r" => '',
    ];

    private bool $slashes;

    public function __construct(
        private Slice $slice,
        private Collector $found,
        private Rules $rules,
        private FieldReader $others,
    ) {
        $this->slashes = str_contains($slice->text, '\/');
    }

    /** A string that nothing is put before or behind. */
    public function one(string $raw, int $start, string $quote): void
    {
        if (strlen($raw) < 4 || strpbrk($raw, '/<\\({[') === false) {
            return;
        }
        $decoding = new Decoding($raw, $start);
        self::unescape($decoding, $raw, 0);
        $this->read(...$decoding->done(), start: $start, layer: new JavaScriptString($quote, $this->slashes));
    }

    public function joined(Joined $joined): void
    {
        if ($joined->isBroken) {
            return;
        }
        $isRead = $this->together($joined->pieces, $joined->endsOpen());
        if (! $isRead && count($runs = $joined->runs()) > 1) {
            foreach ($runs as [$pieces, $isOpen]) {
                $this->together($pieces, $isOpen);
            }
        }
    }

    /**
     * @param  list<array{string, int, string, bool}>  $pieces see Joined
     * @param  bool  $isOpen whether something unknown is behind them
     * @return bool whether they say something
     */
    private function together(array $pieces, bool $isOpen): bool
    {
        $start = $pieces[0][1] ?? 0;
        $end = $start;
        $quotes = $seams = [];
        foreach ($pieces as $i => [$raw, $at, $quote, $afterHole]) {
            if ($i > 0 && ! $afterHole) {
                $seams[] = [$this->slice->outer($end), $quote === $pieces[$i - 1][2]];
            }
            $quotes[$quote] = $quote;
            $end = $at + strlen($raw);
        }
        // One byte more, the quote, for what is unknown behind.
        $whole = substr($this->slice->text, $start, $end + ($isOpen ? 1 : 0) - $start);
        $decoding = new Decoding($whole, $start);
        $behind = 0;
        foreach ($pieces as $i => [$raw, $at, , $afterHole]) {
            if ($i > 0) {
                $decoding->replace($behind, $at - $start - $behind, $afterHole ? Joined::HOLE : '');
            }
            self::unescape($decoding, $raw, $at - $start);
            $behind = $at - $start + strlen($raw);
        }
        if ($isOpen) {
            $decoding->replace($behind, strlen($whole) - $behind, Joined::HOLE);
        }
        $from = count($this->found->references);
        [$value, $breaks] = $decoding->done();
        $layer = new JavaScriptString(implode('', $quotes), $this->slashes);
        $isRead = $this->read($value, $breaks, $start, $layer);
        $this->settle($from, $seams);

        return $isRead;
    }

    private function read(string $value, ?Breaks $breaks, int $start, JavaScriptString $layer): bool
    {
        $notation = StructuredValues::guess($value, $this->rules);
        if ($notation === null || $notation === Notation::Text) {
            return false;
        }
        $isAddress = in_array($notation, [Notation::Url, Notation::Addresses, Notation::Srcset], true);
        $this->others->into(
            $this->slice->inner($value, $start, $breaks, $layer), $notation, $this->found,
            $isAddress ? $this->rules->with(role: 'script', target: null) : $this->rules,
        );

        return true;
    }

    /**
     * What was found in a text with unknown parts: an address that is whole stays, be it with an unknown query; one in
     * a media folder that is not is a problem; of all others nothing is known.
     *
     * @param  list<array{int, bool}>  $seams where strings meet, in the outermost text, and whether in the same quotes
     */
    private function settle(int $from, array $seams): void
    {
        $references = array_splice($this->found->references, $from);
        $next = 0;
        foreach ($references as $reference) {
            // Both rise, but for a reference that is met twice.
            $next = $next > 0 && $seams[$next - 1][0] > $reference->start ? 0 : $next;
            while (isset($seams[$next]) && $seams[$next][0] <= $reference->start) {
                $next++;
            }
            $settled = $this->settled($reference, $seams[$next] ?? null);
            if ($settled !== null) {
                $this->found->references[] = $settled;
            }
        }
    }

    /** @param  array{int, bool}|null  $seam the next behind its beginning */
    private function settled(Reference $reference, ?array $seam): ?Reference
    {
        $known = strstr($reference->value, Joined::HOLE, true);
        $settled = $known === false ? $reference : $this->whole($reference, $known);
        if ($settled === null || $seam === null || $seam[0] >= $settled->end()) {
            return $settled;
        }

        return $this->across($settled, $seam[0], $seam[1]);
    }

    /** A query that is put behind a whole address stays where it is. */
    private function across(Reference $reference, int $seam, bool $isAlike): Reference
    {
        $before = substr($reference->raw(), 0, $seam - $reference->start);
        if (self::isWhole($before) && str_starts_with($reference->value, $before) && $reference->lengths === []) {
            return $reference->upTo(strlen($before), $before);
        }

        return $isAlike ? $reference : $reference->through(new PutTogether, $reference->value);
    }

    private function whole(Reference $reference, string $known): ?Reference
    {
        $path = substr($known, 0, strcspn($known, '?#'));
        $isWhole = ($path !== $known && $path !== '') || self::isWhole($path);
        // Only where it stands there as it is are its bytes known.
        if ($isWhole && $reference->lengths === [] && str_starts_with($reference->raw(), $path)) {
            return $reference->upTo(strlen($path), $path);
        }
        foreach ($this->rules->mediaFolders as $folder) {
            if (preg_match('~^(?:(?:https?:)?//[^/]++)?'.preg_quote($folder, '~').'~i', $known) === 1) {
                $this->found->problem(
                    $reference->start,
                    'A script puts together an address in a media folder here; which files it means cannot be read.',
                );
                break;
            }
        }

        return null;
    }

    private static function isWhole(string $address): bool
    {
        return preg_match('~\.[a-z0-9]{2,5}$~Di', $address) === 1;
    }

    /** @param  int  $offset where the raw text begins in what is decoded */
    private static function unescape(Decoding $decoding, string $raw, int $offset): void
    {
        for ($at = strpos($raw, '\\'); $at !== false; $at = strpos($raw, '\\', $at)) {
            preg_match(
                '~\\\\(?:u(d[89ab][0-9a-f]{2})\\\\u(d[c-f][0-9a-f]{2})|u([0-9a-f]{4})|u\{([0-9a-f]{1,6})\}'
                    .'|x([0-9a-f]{2})|(\r\n|.)|)~isAS',
                $raw, $m, PREG_UNMATCHED_AS_NULL, $at,
            );
            $length = strlen($m[0] ?? '\\');
            $hex = $m[3] ?? $m[4] ?? $m[5] ?? null;
            $decoding->replace($offset + $at, $length, match (true) {
                isset($m[1], $m[2]) => CodePoint::ofSurrogates((int) hexdec($m[1]), (int) hexdec($m[2])),
                $hex !== null => CodePoint::character((int) hexdec($hex)),
                default => self::ESCAPES[(string) ($m[6] ?? '')] ?? (string) ($m[6] ?? ''),
            });
            $at += $length;
        }
    }
}
