<?php

declare(strict_types=1);

use Ylema\Connect\FileLookup;
use Ylema\Connect\Hints;

/*
 * What names of tables, columns and files are taken to say.
 */

it('takes two names for one thing in languages with other plurals', function (
    string $one,
    string $other,
    bool $is,
): void {
    expect(Hints::alike($one, $other))->toBe($is)->and(Hints::alike($other, $one))->toBe($is);
})->with([
    ['seite', 'seiten', true],
    ['galerie', 'galerien', true],
    ['bild', 'bilder', true],
    ['pagina', 'pagine', true],
    ['imagen', 'imagenes', true],
    ['strona', 'strony', true],
    ['sida', 'sidor', true],
    ['fil', 'filer', true],
    ['persoon', 'personen', true],
    ['ord', 'order', false],
    ['medium', 'medien', true],
    ['page', 'pager', true],
    ['page', 'pane', false],
    ['set', 'sets', false],
    ['banner', 'bandana', false],
    ['post', 'poster', true],
    ['media', 'medium', false],
]);

it('sees what a column is for in words put together, and in one for each language', function (
    string $hint,
    string $name,
    bool $says,
): void {
    expect(Hints::say($hint, $name))->toBe($says);
})->with([
    [Hints::MEDIA, 'kopfbild', true],
    [Hints::MEDIA, 'headerImage', true],
    [Hints::MEDIA, 'main_photo_2', true],
    [Hints::MEDIA, 'topic', false],
    [Hints::MEDIA, 'catalogo', false],
    [Hints::TITLE, 'title_cy', true],
    [Hints::TITLE, 'headDe', true],
    [Hints::SLUG, 'slug_fr', true],
    [Hints::TITLE, 'untitled_no', false],
]);

it('finds how the site keeps smaller pictures that it made', function (array $paths, array $marks): void {
    expect((new FileLookup($paths))->marksOfMade())->toBe($marks);
})->with([
    'a folder beside them' => [
        ['m/a.jpg', 'm/b.jpg', 'm/c.jpg', 'm/thumbs/a.jpg', 'm/thumbs/b.jpg', 'm/thumbs/c.jpg'], ['thumbs/'],
    ],
    'names that begin so' => [
        ['m/a.jpg', 'm/b.jpg', 'm/c.jpg', 'm/tn_a.jpg', 'm/tn_b.jpg', 'm/tn_c.jpg'], ['tn_'],
    ],
    'too few' => [['m/a.jpg', 'm/b.jpg', 'm/thumbs/a.jpg', 'm/thumbs/b.jpg'], []],
    'mostly others' => [
        [
            'm/a.jpg', 'm/b.jpg', 'm/c.jpg', 'm/x/a.jpg', 'm/x/b.jpg', 'm/x/c.jpg', 'm/x/d.jpg', 'm/x/e.jpg',
            'm/x/f.jpg', 'm/x/g.jpg',
        ],
        [],
    ],
]);

it('counts the files that a text of any language names', function (string $text, int $count): void {
    expect((new FileLookup(['images/a b.jpg', 'images/top.png', 'css/x.css', 'files/sheet.pdf']))->namedIn($text))
        ->toBe($count);
})->with([
    ['<img src="<?= $base ?>images/top.png">', 1],
    ['url(../images/top.png) and asset(\'images/a%20b.jpg\')', 2],
    ['"https:\/\/site.example\/images\/top.png"', 1],
    ['require "images/none.png"; sheet.pdf, sheet.pdf', 1],
    ['x.css only', 0],
]);
