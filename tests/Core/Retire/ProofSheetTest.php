<?php

declare(strict_types=1);

use Ylema\Retire\Looked;
use Ylema\Retire\ProofSheet;
use Ylema\Retire\Traces;
use Ylema\Retire\Verdict;
use Ylema\Usage\Standing;

const NOW = 1_800_000_000;
const A_DAY = 86_400;

/** @param  array<string, mixed>  $but */
function looked(array $but = []): Looked
{
    return new Looked(
        ...[
            'now' => NOW,
            'read' => NOW - 60,
            'unread' => 0,
            'knowsCode' => true,
            'codeFiles' => 5,
            'tables' => 12,
            'files' => 3,
            'surveyed' => NOW - A_DAY,
            'logFrom' => NOW - 90 * A_DAY,
            'logUntil' => NOW - 3600,
            ...$but,
        ],
    );
}

/** @param  array<string, mixed>  $but */
function traces(array $but = []): Traces
{
    return new Traces(...['standing' => Standing::Idle, 'modified' => NOW - 900 * A_DAY, ...$but]);
}

it('is safe where all was looked at and nothing needs it', function (): void {
    $sheet = ProofSheet::of(traces(['robots' => 400]), looked());
    expect($sheet->verdict)
        ->toBe(Verdict::Safe)
        ->and($sheet->reason)
        ->toBeNull()
        ->and(array_column($sheet->toArray(), 'source'))
        ->toBe(['content', 'code', 'mentions', 'survey', 'log', 'age', 'copies']);
});

it('never takes what is not known for a yes', function (array $looked, string $source): void {
    $sheet = ProofSheet::of(traces(), looked($looked));
    expect($sheet->verdict)
        ->toBe(Verdict::Ask)
        ->and($sheet->reason?->source->value)
        ->toBe($source)
        ->and($sheet->reason?->says->value)
        ->toBe('not-known');
})->with([
    [['read' => null], 'content'],
    [['unread' => 1], 'content'],
    [['knowsCode' => false], 'code'],
    [['leftCode' => 1, 'whyCode' => 'theme: It is a link that leads out.'], 'code'],
    [['tables' => null], 'mentions'],
    [['left' => 2, 'why' => 'log.big: too long'], 'mentions'],
    [['surveyed' => null], 'survey'],
    [['surveyed' => NOW - 91 * A_DAY], 'survey'],
    [['logFrom' => null, 'logUntil' => null], 'log'],
    [['logFrom' => NOW - 27 * A_DAY], 'log'],
    [['logFrom' => NOW - 200 * A_DAY, 'logUntil' => NOW - 61 * A_DAY], 'log'],
]);

it('says what needs it, or may', function (array $traces, Verdict $verdict, string $says): void {
    $sheet = ProofSheet::of(traces($traces), looked());
    expect($sheet->verdict)->toBe($verdict)->and($sheet->reason?->sentence)->toContain($says);
})->with([
    [['standing' => Standing::Live, 'named' => 3], Verdict::Needed, '3 references name it'],
    [['standing' => Standing::Waiting, 'named' => 1], Verdict::Needed, '1 reference names it in drafts'],
    [['standing' => Standing::Fading, 'named' => 1], Verdict::Ask, 'only in what is expired'],
    [['coded' => 2, 'codedAt' => 'theme/a.php:3'], Verdict::Needed, 'theme/a.php:3 and 1 more place'],
    [['isCode' => true], Verdict::Needed, 'code consists of it'],
    [['mentions' => 1, 'mentionedAt' => '“Tides” (body)'], Verdict::Ask, '1 place names it in a way that is not read'],
    [
        ['mentions' => 3, 'mentionedAt' => 'notes.text, row 4', 'isNamedWhole' => true],
        Verdict::Ask,
        '3 places name it in a way that is not read: notes.text, row 4, for one.',
    ],
    [['meant' => 2], Verdict::Ask, '2 addresses without a file may mean it'],
    [['isMissing' => true], Verdict::Ask, 'Its own file is not there'],
    [['seen' => 1], Verdict::Needed, '1 public page'],
    [['visitors' => 2, 'lastPerson' => NOW - 9], Verdict::Ask, '2 visitors'],
    [
        ['otherSites' => 2, 'otherPage' => 'https://b.example/', 'lastPerson' => NOW - 9],
        Verdict::Ask,
        '2 times from other sites (https://b.example/)',
    ],
    [['mail' => 1, 'lastPerson' => NOW - 9], Verdict::Ask, '1 time from mail'],
    [['modified' => NOW - 3 * A_DAY], Verdict::Ask, '3 days ago'],
]);

it('lets the worst line decide, whatever stands before it', function (): void {
    $sheet = ProofSheet::of(traces(['standing' => Standing::Fading, 'named' => 1, 'seen' => 2]), looked());
    expect([$sheet->verdict, $sheet->reason?->source->value])->toBe([Verdict::Needed, 'survey']);
});

it('forgets who asked long ago, and a rendition that the site picks itself is no reason by itself', function (): void {
    expect(ProofSheet::of(traces(['visitors' => 9, 'lastPerson' => NOW - 366 * A_DAY]), looked())->verdict)
        ->toBe(Verdict::Safe)
        ->and(ProofSheet::of(traces(['isPickedById' => true]), looked())->verdict)
        ->toBe(Verdict::Safe)
        ->and(ProofSheet::of(traces(['isPickedById' => true]), looked(['surveyed' => null]))->verdict)
        ->toBe(Verdict::Ask);
});

it('says why something was not looked into, and against only where visitors meet the whole name', function (): void {
    $line = static fn (array $traces, array $looked = []): array => [
        ($found = ProofSheet::of(traces($traces), looked($looked))->lines[2])->says->value,
        $found->sentence,
    ];
    expect($line([], ['left' => 3, 'why' => 'a.bin: It is packed.']))
        ->toBe(['not-known', 'Not everything beside the field map could be searched (3 things): a.bin: It is packed.'])
        ->and($line(['mentions' => 1, 'mentionedAt' => 'x'])[0])->toBe('not-known')
        ->and($line(['mentions' => 1, 'mentionedAt' => 'x', 'isNamedWhole' => true])[0])->toBe('against')
        ->and($line([]))
        ->toBe(['for', 'Nothing else names it, in 12 tables and 3 files beside what is read.']);
});
