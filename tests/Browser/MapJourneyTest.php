<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

it('tries a map while it is written, takes it, and takes the one of before back', function (): void {
    $keys = fn (string $keys) => $this->driver()->switchTo()->activeElement()->sendKeys($keys);
    $atTheEnd = function (string $words) use ($keys): void {
        $this->css('.cm-content')->click();
        $keys(WebDriverKeys::CONTROL.WebDriverKeys::END.WebDriverKeys::NULL);
        // On a line of its own, without the indentation that the editor gives it.
        $keys("\n");
        $keys(WebDriverKeys::SHIFT.WebDriverKeys::HOME.WebDriverKeys::NULL);
        $keys($words);
    };
    $this->signIn('owner');
    $this->see('korrinbay.example');
    $isFocused = fn (): bool => $this->driver()->executeScript(
        "const site = document.querySelector('header button[aria-haspopup=dialog]'); site.focus();"
            .'return document.activeElement === site',
    );
    $this->await($isFocused, 'the name of the site takes no focus');
    $keys(WebDriverKeys::ENTER);
    $this->button('How it is read: the field map')->click();
    $this->see('64 pages', 30);
    $this->see('Serves media/');
    expect(axeFaults($this))->toBe([]);

    // A word is offered, and taken by a key; what is wrong is marked at its line and said below.
    $atTheEnd('redir');
    $this->css('.cm-tooltip-autocomplete');
    // The editor takes no keys for what it offers in the first moment, so that nobody chooses what they never saw.
    usleep(200_000);
    $keys(WebDriverKeys::ENTER);
    $this->see('redirects:');
    $this->see('Duplicate key');
    expect($this->driver()->findElements(WebDriverBy::cssSelector('.cm-lintRange-error')))->not->toBe([]);
    $this->button('Back to what holds')->click();
    $this->see('64 pages', 30);

    $atTheEnd('# a note of ours');
    $this->see('changed, not taken');
    $this->css('input[aria-label^="Why"]')->sendKeys('to remember');
    $this->button('Take this map')->click();
    $this->see('It holds from the next reading on');
    $this->button('Versions')->click();
    $this->see('to remember');
    $this->driver()->findElement(WebDriverBy::partialLinkText('as it was before'))->click();
    $this->see('# a note of ours', 30);
    expect(axeFaults($this))->toBe([]);
    $this->button('Put it into the editor')->click();
    $this->see('changed, not taken', 30);
    $this->button('Take this map')->click();
    $this->see('It holds from the next reading on');
    $this->visit('/korrin-bay/map/unread');
    $this->see('Everything could be read');
    $this->visit('/korrin-bay/map/coverage');
    $this->see('No column or file was found that a line could be added for', 60);
});
