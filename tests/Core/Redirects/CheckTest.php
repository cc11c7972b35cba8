<?php

declare(strict_types=1);

use Ylema\Redirects\Check;
use Ylema\Redirects\Entry;
use Ylema\Redirects\Verdict;

it('judges a redirect by what is answered', function (
    array $steps,
    Verdict $verdict,
    string $words,
    int $status = 301,
    ?string $problem = null,
): void {
    $check = Check::judge(new Entry('old', '/new', $status), $steps, 'https://a.example/new', $problem);
    expect($check->verdict)->toBe($verdict)->and($check->words)->toContain($words);
})->with([
    'right' => [[['https://a.example/old', 301], ['https://a.example/new', 200]], Verdict::Right, ''],
    'right, with a slash' => [[['https://a.example/old', 301], ['https://a.example/new/', 200]], Verdict::Right, ''],
    'not there' => [[['https://a.example/old', 404]], Verdict::Missing, 'does not know this redirect'],
    'a page is there' => [[['https://a.example/old', 200]], Verdict::Missing, 'page of its own'],
    'elsewhere' => [[['https://a.example/old', 301], ['https://a.example/x', 200]], Verdict::Wrong, 'leads to https'],
    'twice' => [
        [['https://a.example/old', 301], ['https://a.example/new', 302], ['https://a.example/z', 200]],
        Verdict::Chain,
        'Say that one',
    ],
    'in a circle' => [
        [['https://a.example/old', 301], ['https://a.example/new', 301], ['https://a.example/old', 301]],
        Verdict::Loop,
        'round in a circle',
    ],
    'to nothing' => [[['https://a.example/old', 301], ['https://a.example/new', 404]], Verdict::Dead, 'answers 404'],
    'gone as said' => [[['https://a.example/old', 410]], Verdict::Right, '', 410],
    'nearly gone' => [[['https://a.example/old', 404]], Verdict::Right, 'nearly the same', 410],
    'not gone' => [[['https://a.example/old', 200]], Verdict::Missing, 'nothing is there', 410],
    'no answer' => [[], Verdict::Unknown, 'It does not answer.', 301, 'It does not answer.'],
    'no answer behind it' => [
        [['https://a.example/old', 301], ['https://a.example/new', 200]],
        Verdict::Unknown,
        'It does not answer.',
        301,
        'It does not answer.',
    ],
]);
