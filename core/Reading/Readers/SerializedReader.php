<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\BareNumber;
use Ylema\Reading\Layers\SerializedString;
use Ylema\Reading\Notation;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * Text made by php's serialize(). It is never unserialized: that would build objects out of content.
 *
 * Every string states its length in bytes. A string whose length does not fit is reported and
 * nothing after it is read, for no guess about where it ends is safe to write back.
 */
final readonly class SerializedReader implements Reader
{
    private const MAX_DEPTH = 512;

    private StructuredValues $values;

    public function __construct()
    {
        $this->values = new StructuredValues;
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        if (trim($text) === '') {
            return;
        }
        $length = strlen($text);
        $number = new BareNumber(Notation::PhpSerialized);
        /** @var array<int, array{string, int, bool}> $open [path, values still to come × 2, next is a key] */
        $open = [];
        /** @var array<int, array<string, true>> $names of what is open, those that are addresses */
        $names = [];
        $path = $slice->path ?? '';
        $key = null;
        $at = 0;
        while (true) {
            while ($open !== [] && end($open)[1] === 0) {
                if (($text[$at] ?? '') !== '}') {
                    $found->problem(
                        $slice->outer(min($at, $length)),
                        'The serialized data does not end its array where it said it would; what follows was not read.',
                    );

                    return;
                }
                $at++;
                $path = array_pop($open)[0] ?? '';
            }
            if ($at >= $length || ($open === [] && $at > 0)) {
                break;
            }
            $last = count($open) - 1;
            $isKey = $last >= 0 && $open[$last][2];
            if (preg_match('~(?:([sS]):(\d{1,10}):"|i:([+-]?\d+);|([bdrR]):[^;]{1,40};|N;|a:(\d{1,10}):\{|O:(\d{1,10}):"[^"]{0,255}":(\d{1,10}):\{|E:\d{1,10}:"[^"]*";|C:\d{1,10}:"[^"]{0,255}":(\d{1,10}):\{)~A', $text, $m, PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL, $at) !== 1) {
                PatternGaveUp::check();
                $found->problem($slice->outer($at), 'The serialized data is damaged here; what follows was not read.');

                return;
            }
            $tokenStart = $at;
            $at += strlen((string) $m[0][0]);
            $value = null;
            if (isset($m[2][0])) {
                $bytes = (int) $m[2][0];
                if (substr($text, $at + $bytes, 2) !== '";') {
                    $found->problem(
                        $slice->outer($tokenStart),
                        "The serialized data states a length of $bytes bytes that does not fit its text; what follows "
                            .'was not read.',
                    );

                    return;
                }
                $value = substr($text, $at, $bytes);
                $isAddress = $isKey && $value !== '' && $rules->looksLikeAddress($value);
                if ($value !== '' && (! $isKey || $isAddress)) {
                    $layer = new SerializedString($slice->outer($m[2][1]), strlen($m[2][0]), $bytes);
                    $inner = $slice->inner($value, $at, null, $layer, $isKey ? $path : self::join($path, $key));
                    $isKey
                        ? $this->values->key($inner, $names[$last], $found, $rules, $others)
                        : $this->values->read($inner, $found, $rules, $others);
                }
                $at += $bytes + 2;
            } elseif (isset($m[8][0])) {
                $at += (int) $m[8][0];
                if (($text[$at] ?? '') !== '}') {
                    $found->problem(
                        $slice->outer($tokenStart),
                        "The serialized data states a length of {$m[8][0]} bytes that does not fit its object; what "
                            .'follows was not read.',
                    );

                    return;
                }
                $at++;
                $found->problem(
                    $slice->outer($tokenStart),
                    'An object wrote itself in its own way here (its text begins with "C:"); what it holds was '
                        .'not read.',
                );
            } elseif (isset($m[3][0])) {
                $value = $m[3][0];
                if (! $isKey) {
                    $this->values->number(
                        $slice->inner($value, $m[3][1], null, $number, self::join($path, $key)), $found, $rules,
                        $others,
                    );
                }
            }
            if ($last >= 0) {
                $open[$last][1]--;
                $open[$last][2] = ! $isKey;
            }
            if ($isKey) {
                $key = $value;

                continue;
            }
            $members = $m[5][0] ?? $m[7][0] ?? null;
            if ($members !== null) {
                if ($last + 1 >= self::MAX_DEPTH) {
                    $found->problem(
                        $slice->outer($tokenStart),
                        'The serialized data is nested deeper than '.self::MAX_DEPTH.' levels; the rest was not read.',
                    );

                    return;
                }
                $open[] = [$path, 2 * (int) $members, true];
                $names[$last + 1] = [];
                $path = self::join($path, $key);
            }
            $key = null;
        }
        if ($open !== [] || $at < $length) {
            $found->problem(
                $slice->outer(min($at, $length)),
                'The serialized data is cut off or followed by something else; that part was not read.',
            );
        }
    }

    /** Whole-number keys are written as list positions; a property's visibility prefix is not part of its name. */
    private static function join(string $path, ?string $key): string
    {
        if ($key === null) {
            return $path;
        }
        if (preg_match('~^\d+$~D', $key) === 1) {
            return $path.'['.$key.']';
        }
        $name = str_starts_with($key, "\0") ? substr($key, (int) strrpos($key, "\0") + 1) : $key;

        return $path === '' ? $name : $path.'.'.$name;
    }
}
