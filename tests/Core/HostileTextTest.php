<?php

declare(strict_types=1);

use Tests\Core\Generators\Repetition;
use Tests\Core\Growth;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

it('reads hostile text in time that grows with its length', function (Closure $text, Notation $notation): void {
    $read = static function (int $length) use ($notation, $text): Closure {
        $hostile = $text($length);

        return static fn () => (new FieldReader())->read($hostile, $notation, new Rules());
    };
    // Four times the length may cost four times the time; what grows with the square costs sixteen times as much.
    expect(Growth::ratio($read, 200_000, 800_000, 12.0))->toBeLessThan(12.0);
})->with([
    'only <' => [fn (int $n): string => str_repeat('<', $n), Notation::Html],
    'unclosed quotes' => [fn (int $n): string => str_repeat('<img src="', intdiv($n, 10)), Notation::Html],
    'unclosed comments' => [fn (int $n): string => str_repeat('<!-- ', intdiv($n, 5)), Notation::Html],
    'unclosed scripts' => [fn (int $n): string => str_repeat('<script>', intdiv($n, 8)), Notation::Html],
    'many figures without end' => [fn (int $n): string => str_repeat('<figure><h2>', intdiv($n, 12)), Notation::Html],
    'many attributes' => [fn (int $n): string => '<img '.str_repeat('a=b ', intdiv($n, 4)).'>', Notation::Html],
    'unclosed css' => [fn (int $n): string => str_repeat('url(', intdiv($n, 4)), Notation::Css],
    'comment starts in css' => [fn (int $n): string => 'url(x)'.str_repeat('/*', intdiv($n, 2)), Notation::Css],
    'backslashes' => [fn (int $n): string => '"'.str_repeat('\\', $n), Notation::Json],
    'drawings in drawings' => [fn (int $n): string => str_repeat('<svg><title>', intdiv($n, 12)), Notation::Html],
    'sections in drawings' => [fn (int $n): string => str_repeat('<svg><![CDATA[', intdiv($n, 14)), Notation::Html],
    'sections behind a tag in what leads back to html' => [
        fn (int $n): string => '<svg><desc><b>'.str_repeat('<![CDATA[x]]>', intdiv($n, 13)),
        Notation::Html,
    ],
    'sections in what leads back to html' => [
        fn (int $n): string => '<math><mtext>'.str_repeat('<![CDATA[<b>]]>', intdiv($n, 15)),
        Notation::Html,
    ],
    'scripts in comments in scripts' => [
        fn (int $n): string => str_repeat('<script><!--<script>', intdiv($n, 20)),
        Notation::Html,
    ],
    'bytes of an older encoding' => [
        fn (int $n): string => str_repeat("<img src=\xE9>", intdiv($n, 11)),
        Notation::Html,
    ],
    'sets in sets' => [fn (int $n): string => str_repeat('image-set(', intdiv($n, 10)), Notation::Css],
    'half a code point' => [fn (int $n): string => str_repeat('"\u00', intdiv($n, 5)), Notation::Json],
    'brackets that nothing opened' => [fn (int $n): string => str_repeat('](x)', intdiv($n, 4)), Notation::Markdown],
    'links' => [fn (int $n): string => str_repeat('[](x)', intdiv($n, 5)), Notation::Markdown],
    'backticks' => [fn (int $n): string => str_repeat("`a``b```c````d\n", intdiv($n, 15)), Notation::Markdown],
    'bare ampersands' => [fn (int $n): string => str_repeat('&', $n), Notation::Xml],
    'strings without end' => [fn (int $n): string => str_repeat('"\\', intdiv($n, 2)), Notation::JavaScript],
    'classes without end' => [fn (int $n): string => str_repeat('=/[', intdiv($n, 3)), Notation::JavaScript],
    'substitutions without end' => [fn (int $n): string => str_repeat('`${', intdiv($n, 3)), Notation::JavaScript],
    'nested serialized arrays' => [
        fn (int $n): string => str_repeat('a:1:{i:0;', intdiv($n, 9)),
        Notation::PhpSerialized,
    ],
]);

it('takes no more than its length for whatever is repeated', function (int $from): void {
    $slow = [];
    for ($seed = $from; $seed < $from + 40; $seed++) {
        [$notation, $beginning, $unit] = (new Repetition($seed))->draw();
        $read = static function (int $length) use ($notation, $beginning, $unit): Closure {
            $text = Repetition::text($beginning, $unit, $length);

            return static fn () => (new FieldReader())->read($text, $notation, new Rules(mediaFolders: ['/media/']));
        };
        // What grows with the square costs sixty-four times as much for eight times the length.
        if (Growth::ratio($read, 10_000, 80_000, 24.0) >= 24.0) {
            $slow[] = "$seed: {$notation->value} ".json_encode([$beginning, $unit], JSON_INVALID_UTF8_SUBSTITUTE);
        }
    }
    expect($slow)->toBe([]);
})->with([0, 100_000]);
