<?php

declare(strict_types=1);

use Ylema\Addresses\SiteAddresses;
use Ylema\Connect\FileLookup;
use Ylema\Connect\OtherAddresses;
use Ylema\Connect\Question;

/*
 * Addresses of a site that nobody told.
 */

/** @return array<string, string> address → what it most likely is */
function otherAddresses(string ...$texts): array
{
    $files = new FileLookup(['up/a.jpg', 'up/b.jpg', 'up/c d.jpg', 'logo.png']);
    $addresses = new SiteAddresses('https://www.now.example/', ['http://told.example/']);
    $questions = (new OtherAddresses($files, $addresses, $texts))->questions();

    return array_column(array_map(
        static fn (Question $q): array => [substr($q->id, strlen('address.')), (string) array_key_first($q->answers)],
        $questions,
    ), 1, 0);
}

it('finds them by the files that texts ask for there', function (array $texts, array $found): void {
    expect(otherAddresses(...$texts))->toBe($found);
})->with([
    'in markup' => [
        [
            '<img src="http://before.example/up/a.jpg"><img src="http://before.example/up/b.jpg">',
            'http://before.example/up/c%20d.jpg',
        ],
        ['http://before.example/' => 'former'],
    ],
    'in json, below a folder' => [
        ['["http:\/\/before.example\/site\/up\/a.jpg","http:\/\/before.example\/site\/up\/b.jpg"]',
            'http://before.example/site/logo.png'],
        ['http://before.example/site/' => 'former'],
    ],
    'over either scheme, with and without www' => [
        ['http://www.before.example/up/a.jpg https://before.example/up/b.jpg', 'https://www.before.example/logo.png'],
        ['http://www.before.example/' => 'former'],
    ],
    'by the settings, with one file' => [
        ['http://before.example', '<img src="http://before.example/up/a.jpg">'],
        ['http://before.example/' => 'former'],
    ],
    'as a host beside' => [
        ['https://img.now.example/up/a.jpg', 'https://img.now.example/up/b.jpg https://img.now.example/logo.png'],
        ['https://img.now.example/' => 'alias'],
    ],
    'not by one file of the same name' => [['https://partner.example/logo.png', 'https://partner.example/x.png'], []],
    'not by a sponsor\'s address' => [['https://partner.example/', 'https://partner.example/offers'], []],
    'not where most files are others' => [
        [
            'https://partner.example/up/a.jpg https://partner.example/up/b.jpg https://partner.example/logo.png',
            implode(' ', array_map(static fn (int $n): string => "https://partner.example/p/$n.jpg", range(1, 9))),
        ],
        [],
    ],
    'not what is known' => [
        ['http://told.example/up/a.jpg http://told.example/up/b.jpg http://now.example/logo.png'],
        [],
    ],
]);

it('says why', function (): void {
    $files = new FileLookup(['up/a.jpg']);
    $addresses = new SiteAddresses('https://now.example/');
    $texts = ['http://before.example/', 'http://before.example/up/a.jpg'];
    $question = (new OtherAddresses($files, $addresses, $texts))->questions()[0];
    expect($question->words)->toBe('Is http://before.example/ an address of this site? 1 file that its texts ask for '
        .'there lies in its folder, and its own settings name it.')
        ->and($question->samples)->toBe(['up/a.jpg']);
});
