<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverKeys;
use Facebook\WebDriver\WebDriverSelect;

it('invites somebody, who chooses a password, comes in, and is sent away again', function (): void {
    $this->signIn('owner');
    $this->visit('/sites/people');
    $this->see('Mats Ebbing');
    expect(axeFaults($this))->toBe([]);
    $this->button('Invite somebody')->click();
    // By keys alone from here: the field has the focus.
    $keys = fn (string ...$keys) => $this->driver()->switchTo()->activeElement()->sendKeys(implode('', $keys));
    $this->css('input[name=email]');
    $keys('ida.brandt@korrinbay.example', WebDriverKeys::TAB);
    $keys('Ida Brandt', WebDriverKeys::TAB);
    $keys(WebDriverKeys::ARROW_DOWN, WebDriverKeys::ENTER);
    $this->see('Pass this link on');
    expect(axeFaults($this))->toBe([]);
    $link = (string) $this->css('input[aria-label="The link"]')->getAttribute('value');

    $this->signOutBrowser();
    $this->driver()->get($link);
    $this->css('input[name=password]')->sendKeys('a long new password');
    expect(axeFaults($this))->toBe([]);
    $this->css('button[type=submit]')->click();
    $this->see('What needs you');
    expect($this->driver()->getCurrentURL())->not->toContain('token');
    $this->driver()->get($link);
    $this->see('This link does not open');
    $this->see('was used already');

    $this->signIn('owner');
    $this->visit('/sites/people');
    $this->see('Ida Brandt');
    $role = new WebDriverSelect($this->css('select[aria-label="Role of Ida Brandt"]'));
    expect($role->getFirstSelectedOption()->getText())->toBe('maintainer');
    $role->selectByVisibleText('viewer');
    $this->css('button[aria-label="More for Ida Brandt"]')->sendKeys(WebDriverKeys::ENTER);
    $this->css('[role=menu]');
    expect(axeFaults($this))->toBe([]);
    $this->driver()->executeScript(
        "[...document.querySelectorAll('[role=menuitem]')].find((e) => e.textContent === 'End the access').click()",
    );
    $this->see('access ended');
    $this->signOutBrowser();
    $this->css('input[name=email]')->sendKeys('ida.brandt@korrinbay.example');
    $this->css('input[name=password]')->sendKeys('a long new password');
    $this->css('button[type=submit]')->click();
    $this->see('No account has this address and password');
});
