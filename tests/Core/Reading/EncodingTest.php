<?php

declare(strict_types=1);

use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\Encoding\CodePoint;
use Ylema\Reading\Encoding\LegacyDecoder;
use Ylema\Reading\Encoding\Windows1252;
use Ylema\Reading\Layers\HtmlAttribute;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Notation;
use Ylema\Reading\Slice;

it('notes where offsets part while it decodes', function (): void {
    $decoding = new Decoding('a&amp;b&lt;c', 10);
    $decoding->replace(1, 5, '&');
    $decoding->replace(7, 4, '<');
    [$text, $breaks] = $decoding->done();
    expect($text)->toBe('a&b<c');
    foreach ([0 => 10, 1 => 11, 2 => 16, 3 => 17, 4 => 21, 5 => 22] as $decoded => $source) {
        expect($breaks?->source($decoded, 10))->toBe($source, "byte $decoded");
    }
});

it('has nothing to note where nothing is decoded', function (): void {
    expect((new Decoding('abc', 3))->done())->toBe(['abc', null]);
});

it('finds its way through hundreds of thousands of escapes', function (): void {
    $raw = str_repeat('ab\\n', 200_000);
    $decoding = new Decoding($raw, 0);
    for ($i = 0; $i < 200_000; $i++) {
        $decoding->replace($i * 4 + 2, 2, "\n");
    }
    [$text, $breaks] = $decoding->done();
    expect(strlen($text))->toBe(600_000);
    foreach ([0, 1, 2, 3, 4, 299_999, 300_000, 599_998, 600_000] as $at) {
        expect($breaks?->source($at, 0))->toBe(intdiv($at, 3) * 4 + ($at % 3));
    }
});

it('follows a byte out through several layers', function (): void {
    // An attribute in a string of json: "<a href=\"x&amp;y\">"
    $json = '["<a href=\"x&amp;y\">"]';
    $outer = new Decoding('<a href=\"x&amp;y\">', 2);
    $outer->replace(8, 2, '"');
    $outer->replace(17, 2, '"');
    [$html, $breaks] = $outer->done();
    $string = Slice::whole($json)->inner($html, 2, $breaks, new Plain(Notation::Json));
    $inner = new Decoding('x&amp;y', 9);
    $inner->replace(1, 5, '&');
    [$value, $breaks] = $inner->done();
    $attribute = $string->inner($value, 9, $breaks, new HtmlAttribute('"'));
    expect($attribute->text)
        ->toBe('x&y')
        ->and(substr($json, $attribute->outer(0), $attribute->outer(3) - $attribute->outer(0)))
        ->toBe('x&amp;y')
        ->and(substr($json, $attribute->outer(2), 1))
        ->toBe('y');
});

it('knows windows-1252 byte by byte', function (): void {
    for ($byte = 0; $byte < 256; $byte++) {
        $point = Windows1252::point($byte);
        // The five bytes that have no character there are left to the control characters of the same number.
        if (! in_array($byte, [0x81, 0x8D, 0x8F, 0x90, 0x9D], true)) {
            expect(mb_convert_encoding(chr($byte), 'UTF-8', 'Windows-1252'))->toBe(mb_chr($point, 'UTF-8'));
        }
    }
});

it('makes a character of a code point', function (int $point, string $character): void {
    expect(CodePoint::character($point))->toBe($character);
})->with([
    'a letter' => [0x41, 'A'],
    'the digit zero' => [0x30, '0'],
    'NUL' => [0, "\0"],
    'beyond ASCII' => [0xFC, 'ü'],
    'beyond the first plane' => [0x1F600, '😀'],
    'the last one' => [0x10FFFF, "\u{10FFFF}"],
    'one too many' => [0x110000, "\u{FFFD}"],
    'half a pair' => [0xD83D, "\u{FFFD}"],
    'none' => [-1, "\u{FFFD}"],
]);

it('puts two surrogates together', function (int $high, int $low, string $character): void {
    expect(CodePoint::ofSurrogates($high, $low))->toBe($character);
})->with([[0xD83D, 0xDE00, '😀'], [0xD800, 0xDC00, "\u{10000}"], [0xDBFF, 0xDFFF, "\u{10FFFF}"]]);

it('tells text that is not UTF-8', function (string $text, bool $needed): void {
    expect(LegacyDecoder::isNeeded($text))->toBe($needed);
})->with([
    'ASCII' => ['abc', false],
    'nothing' => ['', false],
    'UTF-8' => ['ü😀', false],
    'a byte of its own' => ["a\xE9b", true],
    'a character cut in two' => [substr('ü', 0, 1), true],
    'a slash in two bytes' => ["\xC0\xAF", true],
    'half a pair in three bytes' => ["\xED\xA0\x80", true],
]);

it('decodes what is broken and nothing else, and each character leads back to its bytes', function (
    string $text, string $decoded,
): void {
    $slice = LegacyDecoder::decode(Slice::whole($text), $text, 0, Charset::utf8());
    expect($slice?->text)->toBe($decoded)->and(LegacyDecoder::text($text, null))->toBe($decoded);
    $read = '';
    $at = 0;
    foreach (mb_str_split($decoded) as $character) {
        $from = (int) $slice?->outer($at);
        $at += strlen($character);
        $read .= substr($text, $from, (int) $slice?->outer($at) - $from);
    }
    expect($read)->toBe($text);
})->with([
    // The examples of Unicode 15, 3.9, and of the Encoding Standard.
    'a byte' => ["caf\xE9", "caf\u{FFFD}"],
    'a byte beside UTF-8' => ["\xE9 é \xE9", "\u{FFFD} é \u{FFFD}"],
    'a sequence cut off' => ["\xE6\xB0x", "\u{FFFD}x"],
    'a long sequence cut off' => ["\xF0\x9F\x98x", "\u{FFFD}x"],
    'a slash in two bytes' => ["\xC0\xAF", "\u{FFFD}\u{FFFD}"],
    'half a pair' => ["\xED\xA0\x80", "\u{FFFD}\u{FFFD}\u{FFFD}"],
    'beyond the last character' => ["\xF4\x90\x80\x80", "\u{FFFD}\u{FFFD}\u{FFFD}\u{FFFD}"],
    'several' => [
        "\x61\xF1\x80\x80\xE1\x80\xC2\x62\x80\x63\x80\xBF\x64",
        "a\u{FFFD}\u{FFFD}\u{FFFD}b\u{FFFD}c\u{FFFD}\u{FFFD}d",
    ],
    'ASCII' => ['abc', 'abc'],
]);
