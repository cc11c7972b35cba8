<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** The plan that is shown, applied and taken back; between, something is looked at. */
function applyAndUndo(object $test, callable $look): void
{
    $test->applyPlan();
    $look();
    $test->undoChange();
}

it('asks the public site what visitors get, and leads to what does not load', function (): void {
    $this->signIn('maintainer');
    $this->visit('/korrin-bay/repairs');
    $this->see('What do visitors get?');
    $this->button('Survey the public site')->click();
    $this->see('pictures and other files load on', 120);
    $this->driver()->findElement(WebDriverBy::partialLinkText('do not load'))->click();
    $this->see('It answers 410.');
    $this->driver()->findElement(WebDriverBy::linkText('Shown, not in the map'))->click();
    $this->see('media/archive/unsorted-14.jpg');
    // A link that nobody asked for before is known to be dead now.
    $this->visit('/korrin-bay/repairs/dead-link');
    $this->see('/journal/the-great-storm');
});

it('decides open ones by digits alone', function (): void {
    $this->signIn('maintainer');
    $this->visit('/korrin-bay/repairs/dead-link');
    $this->see('/journal/harbour-letter');
    $this->button('Decide one by one')->click();
    $this->see('1 of');
    $this->await(fn (): bool => str_contains($this->text(), 'The letter'), 'no excerpt is shown');
    $keys = $this->driver()->switchTo()->activeElement();
    $keys->sendKeys('1');
    $this->see('2 of');
    $keys->sendKeys(WebDriverKeys::ARROW_LEFT);
    $this->see('1 of');
    $keys->sendKeys(WebDriverKeys::ARROW_RIGHT);
    $keys->sendKeys('0');
    $this->see('2 decisions taken');
    $this->button('Plan 2 references')->click();
    $this->see('2 references in 2 records.', 40);
    $this->see('1 place is taken out of its text');
});

it('sends visitors on by a plan, which the site does at once', function (): void {
    $this->signIn('maintainer');
    $this->visit('/korrin-bay/repairs/redirects');
    $this->see('The site keeps them in its table');
    $fields = $this->driver()->findElements(WebDriverBy::cssSelector('form input.path'));
    $fields[0]->sendKeys('/old/tides');
    $fields[1]->sendKeys('/tides');
    $this->button('Plan it')->click();
    $this->see('1 address whose visitors are sent on.', 40);
    applyAndUndo($this, function (): void {
        $this->forget('/old/tides');
        expect($this->publicPage('/old/tides'))->toContain('The tides');
    });
});

it('renames a file, and every place follows', function (): void {
    $this->signIn('maintainer');
    $this->visit('/korrin-bay/repairs/move?from=media/people/isla-ferrant.jpg');
    $this->see('Where it goes');
    $to = $this->driver()->switchTo()->activeElement();
    $to->sendKeys(WebDriverKeys::CONTROL.'a');
    $to->sendKeys('media/people/isla.jpg');
    $this->button('Plan the move')->click();
    $this->see('files moved', 40);
    $this->see('old addresses kept as redirects');
    applyAndUndo($this, function (): void {
        $this->forget('/people');
        expect($this->publicPage('/people'))
            ->toContain('/media/people/isla.')
            ->not->toContain('isla-ferrant.');
    });
    $this->forget('/people');
});

it('fetches pictures of another host, and plans to bring them home', function (): void {
    $this->signIn('maintainer');
    $this->visit('/korrin-bay/repairs/hosts');
    $this->see('pics.shorelog.example');
    $this->driver()->findElement(WebDriverBy::xpath('//button[contains(., "Fetch")]'))->click();
    $this->await(
        fn (): bool => preg_match('~Bring \d+ home~', $this->text()) === 1
            && ! str_contains($this->text(), 'Fetching from'),
        'nothing was fetched',
        90,
    );
    $this->see('cannot be had');
    $this->driver()->findElement(WebDriverBy::xpath('//button[contains(., "home")]'))->click();
    $this->see('new items', 60);
});
