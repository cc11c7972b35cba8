<?php

declare(strict_types=1);

use Tests\Core\Plan\KnownFacts;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Outline;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\Redirect;
use Ylema\Redirects\Entry;
use Ylema\Redirects\RedirectPlanner;
use Ylema\Redirects\RedirectRequest;

/** @return array{list<object>, Outline} */
function redirected(RedirectRequest $request, KnownFacts $facts = new KnownFacts()): array
{
    $plan = RedirectPlanner::of((new RedirectPlanner($request))->request())->plan($facts);
    $steps = iterator_to_array($plan, false);

    return [$steps, $plan->getReturn()];
}

it('puts what is not there, in the place of what is, and drops what shall go', function (): void {
    $facts = new KnownFacts(redirects: [
        'same' => new Redirect('same', '/there', 301),
        'other' => new Redirect('other', '/before', 302),
        'gone' => new Redirect('gone', '/x', 301),
    ]);
    [$steps, $outline] = redirected(
        new RedirectRequest(
            [new Entry('same', '/there'), new Entry('other', '/now'), new Entry('new', '/now')],
            ['gone', 'never'],
        ),
        $facts,
    );
    expect($steps)
        ->toEqual([
            new DropRedirect('gone', '/x', 301),
            new DropRedirect('other', '/before', 302),
            new Redirect('other', '/now', 301),
            new Redirect('new', '/now', 301),
        ])
        ->and($outline->sentence)
        ->toBe('2 addresses whose visitors are sent on, 1 redirect taken back.');
});

it('refuses what would lead back to itself', function (array $put, array $there): void {
    redirected(new RedirectRequest($put), new KnownFacts(redirects: $there));
})->with([
    'at once' => [[new Entry('a', '/a')], []],
    'over another' => [[new Entry('a', '/b'), new Entry('b', '/a')], []],
    'over one that is there' => [[new Entry('a', 'https://korrinbay.example/b')], ['b' => new Redirect('b', '/a', 301)]],
])->throws(CannotPlan::class, 'lead back to itself');

it('says which of the addresses have a page', function (): void {
    [, $outline] = redirected(new RedirectRequest([new Entry('a', '/b')]), new KnownFacts(livePages: ['a' => true]));
    expect($outline->notes[0])->toContain('that of pages that are there');
});

it('has nothing to do where all is so already', function (): void {
    redirected(
        new RedirectRequest([new Entry('a', '/b')], ['c']),
        new KnownFacts(redirects: ['a' => new Redirect('a', '/b', 301)]),
    );
})->throws(CannotPlan::class, 'nothing to do');
