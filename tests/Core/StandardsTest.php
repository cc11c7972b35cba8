<?php

declare(strict_types=1);

use Ylema\Addresses\Url;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/*
 * The standards' own examples. tests/Core/fixtures/make.mjs says where they come from and makes them again.
 */

/** @return Generator<string, list<mixed>> name → what follows it in a fixture's row */
function fixture(string $name): Generator
{
    foreach (
        json_decode((string) file_get_contents(__DIR__."/fixtures/$name.json"), true, flags: JSON_THROW_ON_ERROR) as $i => $row
    ) {
        yield $i.' '.array_shift($row) => $row;
    }
}

/** @return list<Reference> */
function readAs(Notation $notation, string $text): array
{
    return (new FieldReader())->read($text, $notation, new Rules())->references;
}

it('finds the addresses that the tokens of CSS Syntax hold', function (): void {
    foreach (fixture('css') as $name => [$css, $addresses]) {
        expect(array_column(readAs(Notation::Css, $css), 'value'))->toBe($addresses, $name);
    }
});

it('parses candidate lists as the conformance tests for srcset want', function (): void {
    foreach (fixture('srcset') as $name => [$list, $first]) {
        expect(readAs(Notation::Srcset, $list)[0]->value ?? '')->toBe($first, $name);
    }
});

it('resolves addresses as the reference implementation of the URL Standard does', function (): void {
    $rows = json_decode((string) file_get_contents(__DIR__.'/fixtures/urls.json'), true, flags: JSON_THROW_ON_ERROR);
    foreach ($rows as [$input, $base, $href]) {
        $url = Url::parse($input, Url::parse($base));
        expect($url === null ? null : (string) $url)->toBe($href, json_encode([$input, $base], JSON_THROW_ON_ERROR));
    }
    expect(count($rows))->toBeGreaterThan(500);
});

it('finds the addresses that CommonMark\'s examples lead to', function (): void {
    // As html has them: percent-encoded where a destination may not stand as it is.
    $spelt = static fn (string $address): string => preg_replace_callback(
        '~[^!#-;=?-Z_a-z\~%]~',
        static fn (array $m): string => rawurlencode($m[0]),
        html_entity_decode($address, ENT_QUOTES | ENT_HTML5),
    ) ?? '';
    foreach (fixture('markdown') as $name => [$markdown, $addresses]) {
        // An autolink of another scheme names no file, so it is not read (6.5).
        $wanted = array_filter(
            $addresses,
            static fn (string $a): bool => preg_match('~^(?!https?:)[a-z][a-z0-9+.-]*:~i', $a) !== 1
                || ! str_contains($markdown, '<'.preg_replace('~^mailto:~', '', $a).'>'),
        );
        $found = $definitions = [];
        foreach (readAs(Notation::Markdown, $markdown) as $reference) {
            // A definition names a file whether anything refers to it or not, so unused ones are read, too (4.7); so
            // does an element of the site's own, which its script may show.
            preg_match('~^reference definition$|^[a-z]+-[a-z-]+\[~', $reference->role) === 1
                ? ($definitions[] = $spelt($reference->value))
                : ($found[] = $spelt($reference->value));
        }
        $wanted = array_map($spelt, $wanted);
        expect(array_values(array_diff($wanted, $found, $definitions)))
            ->toBe([], "$name: missed")
            ->and(array_values(array_diff($found, $wanted)))
            ->toBe([], "$name: taken for a reference");
    }
});
