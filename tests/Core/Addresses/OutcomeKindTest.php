<?php

declare(strict_types=1);

use Ylema\Addresses\Outcome;
use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\RenditionNames;

it('has words of its own for each cause', function (): void {
    $cases = OutcomeKind::cases();
    expect(array_unique(array_map(static fn (OutcomeKind $k): string => $k->title(), $cases)))
        ->toHaveCount(count($cases))
        ->and(array_unique(array_map(static fn (OutcomeKind $k): string => $k->cause(), $cases)))
        ->toHaveCount(count($cases));
});

it('says whether a visitor loses something', function (string $kind, bool $finding, bool $broken): void {
    expect(OutcomeKind::from($kind)->isFinding())
        ->toBe($finding)
        ->and(OutcomeKind::from($kind)->isBroken())
        ->toBe($broken);
})->with([
    ['missing-file', true, true],
    ['empty-file', true, true],
    ['missing-item', true, true],
    ['missing-record', true, true],
    ['missing-rendition', true, true],
    ['letter-case', true, true],
    ['unicode-form', true, true],
    ['encoding', true, true],
    ['same-bytes', true, true],
    ['changed-extension', true, true],
    ['moved', true, true],
    ['unreadable', true, true],
    ['former-address', true, true],
    ['insecure-scheme', true, false],
    ['foreign-host', true, false],
    ['pasted', true, false],
    ['dead-link', true, true],
    ['by-redirect', true, false],
    ['not-served', true, true],
    ['foreign-gone', true, true],
    ['changed-abroad', true, false],
    ['allowed-host', false, false],
    ['found', false, false],
    ['page', false, false],
    ['media-page', false, false],
    ['elsewhere', false, false],
]);

it('orders findings by what they cost visitors', function (): void {
    $order = array_map(static fn (OutcomeKind $k): string => $k->value, OutcomeKind::findings());
    expect($order[0])
        ->toBe('missing-file')
        ->and(end($order))
        ->toBe('pasted')
        ->and(array_slice($order, 0, count(OutcomeKind::broken())))
        ->toBe(array_map(static fn (OutcomeKind $k): string => $k->value, OutcomeKind::broken()));
});

it('makes a whole sentence of each outcome, with and without what it is about', function (
    string $kind,
    Outcome $outcome,
    string $sentence,
): void {
    expect($outcome->kind->value)->toBe($kind)->and($outcome->sentence())->toBe($sentence);
})->with([
    ['media-page', new Outcome(OutcomeKind::MediaPage), 'Leads to the page of a media item.'],
    ['media-page', new Outcome(OutcomeKind::MediaPage, item: '7'), 'Leads to the page of the media item 7.'],
    ['missing-item', new Outcome(OutcomeKind::MissingItem, asked: '7'), 'The media list has no item 7.'],
    ['missing-record', new Outcome(OutcomeKind::MissingRecord), 'Names no record of the site.'],
    [
        'empty-file',
        new Outcome(OutcomeKind::EmptyFile, asked: 'media/a.jpg'),
        'The file media/a.jpg is there but empty (0 bytes).',
    ],
]);

it('reads and makes names of renditions by each part of a pattern', function (
    string $pattern,
    string $path,
    array $originals,
): void {
    expect((new RenditionNames($pattern))->originalsOf($path))->toBe($originals);
})->with([
    ['{name}.w{width}.{ext}', 'media/a.w150.jpg', ['media/a.jpg']],
    ['{name}.w{width}.{ext}', 'media/a.wide.jpg', []],
    ['{name}-{word}.{ext}', 'media/a-thumb.jpg', ['media/a.jpg']],
    ['{name}-{word}.{ext}', 'media/a-2.jpg', []],
    ['{name}@{scale}x.{ext}', 'media/a@1.5x.jpg', ['media/a.jpg']],
    ['{name}-{width}x{height}.{ext}', 'media/a-4x3.jpg', ['media/a.jpg']],
    ['{name}.{ext}.webp', 'media/a.jpg.webp', ['media/a.jpg']],
    ['{folder}/thumbs/{name}.{ext}', 'media/2019/thumbs/a.jpg', ['media/2019/a.jpg']],
    ['{folder}/thumbs/{name}.{ext}', 'thumbs/a.jpg', ['a.jpg']],
    ['{folder}/thumbs/{name}.{ext}', 'media/thumbs/deep/a.jpg', []],
    ['{folder}/tn_{name}.{ext}', 'media/tn_a.jpg', ['media/a.jpg']],
    ['{folder}/{width}/{name}.{ext}', 'media/480/a.jpg', ['media/a.jpg']],
]);

it('knows no name by itself', function (): void {
    expect((new RenditionNames())->originalsOf('media/a-150x150.jpg'))
        ->toBe([])
        ->and((new RenditionNames())->renditionOf('media/a.jpg', 4, 3))
        ->toBeNull()
        ->and((new RenditionNames('{name}-{word}.{ext}', '{name}.w{width}.{ext}'))->renditionOf('media/a.b.jpg', 4, 3))
        ->toBe('media/a.b.w4.jpg');
});
