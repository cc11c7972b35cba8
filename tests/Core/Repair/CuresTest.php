<?php

declare(strict_types=1);

use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\RenditionNames;
use Ylema\Plan\Finding;
use Ylema\Repair\Cures;

/** @param  list<string>  $candidates */
function cureOf(OutcomeKind $kind, string $asked, ?string $path = null, array $candidates = []): array
{
    $cures = new Cures(new RenditionNames('{name}.w{width}.{ext}', '{name}-{word}.{ext}'));
    $cure = $cures->of(new Finding($kind, $asked, $path, $candidates));

    return [$cure->isSure, $cure->path, $cure->isDrawn, $cure->candidates];
}

it('is sure where the evidence leaves one answer', function (
    OutcomeKind $kind,
    string $asked,
    string $path,
    array $candidates,
): void {
    expect(cureOf($kind, $asked, $path, $candidates))->toBe([true, $path, false, [$path]]);
})->with([
    'a former address' => [OutcomeKind::FormerAddress, 'media/a.jpg', 'media/a.jpg', []],
    'plain http' => [OutcomeKind::InsecureScheme, 'media/a.jpg', 'media/a.jpg', []],
    'another case' => [OutcomeKind::LetterCase, 'media/A.JPG', 'media/a.jpg', ['media/a.jpg']],
    'other characters' => [OutcomeKind::UnicodeForm, "media/u\u{308}.jpg", 'media/ü.jpg', ['media/ü.jpg']],
    'another encoding' => [OutcomeKind::Encoding, 'media/a%20b.jpg', 'media/a b.jpg', ['media/a b.jpg']],
    'another extension' => [OutcomeKind::ChangedExtension, 'media/a.jpeg', 'media/a.jpg', ['media/a.jpg']],
    'the same bytes' => [OutcomeKind::SameBytes, 'media/a.jpg', 'media/b.jpg', ['media/b.jpg']],
    'a telling name elsewhere' => [
        OutcomeKind::Moved,
        'media/old/lantern-point-4.jpg',
        'media/2014/lantern-point-4.jpg',
        ['media/2014/lantern-point-4.jpg'],
    ],
]);

it('is sure of the same bytes under the same name, among several', function (): void {
    expect(cureOf(OutcomeKind::SameBytes, 'x/a.jpg', 'y/A.jpg', ['y/A.jpg', 'y/b.jpg']))->toBe([
        true,
        'y/A.jpg',
        false,
        ['y/A.jpg'],
    ]);
});

it('leaves open what has several answers, or none', function (
    OutcomeKind $kind,
    string $asked,
    ?string $path,
    array $candidates,
): void {
    expect(cureOf($kind, $asked, $path, $candidates))->toBe([false, null, false, $candidates]);
})->with([
    'two cases' => [OutcomeKind::LetterCase, 'A.jpg', 'a.jpg', ['a.jpg', 'a.JPG']],
    'two extensions' => [OutcomeKind::ChangedExtension, 'a.jpeg', 'a.jpg', ['a.jpg', 'a.png']],
    'the same bytes twice, under the same name' => [
        OutcomeKind::SameBytes,
        'x/a.jpg',
        'y/a.jpg',
        ['y/a.jpg', 'z/a.jpg'],
    ],
    'the same bytes twice, under other names' => [OutcomeKind::SameBytes, 'x/a.jpg', 'y/b.jpg', ['y/b.jpg', 'z/c.jpg']],
    'a name of a camera' => [OutcomeKind::Moved, 'old/DSC_0042.jpg', 'new/DSC_0042.jpg', ['new/DSC_0042.jpg']],
    'a name of any site' => [
        OutcomeKind::Moved,
        'old/header-image-2.jpg',
        'new/header-image-2.jpg',
        ['new/header-image-2.jpg'],
    ],
    'a short name' => [OutcomeKind::Moved, 'old/boat.jpg', 'new/boat.jpg', ['new/boat.jpg']],
    'a missing file' => [OutcomeKind::MissingFile, 'a.jpg', null, ['x/a.jpg', 'y/a.jpg']],
    'a missing item' => [OutcomeKind::MissingItem, '12', null, []],
    'a foreign host' => [OutcomeKind::ForeignHost, 'https://x.example/a.jpg', null, []],
    'an empty file' => [OutcomeKind::EmptyFile, 'a.jpg', 'a.jpg', []],
]);

it('draws a missing size again where its name says the size', function (
    string $asked,
    string $original,
    bool $isDrawn,
): void {
    expect(cureOf(OutcomeKind::MissingRendition, $asked, $original, [$original]))->toBe(
        $isDrawn ? [true, $original, true, [$original]] : [false, null, false, [$original]],
    );
})->with([
    ['a.w320.jpg', 'a.jpg', true],
    ['a.w320.webp', 'a.webp', true],
    ['a-small.jpg', 'a.jpg', false],
    ['a.w320.svg', 'a.svg', false],
    ['a.w320.pdf', 'a.pdf', false],
]);
