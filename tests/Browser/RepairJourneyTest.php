<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

it('mends all sure ones in one plan, sees it on the public page, and takes it back', function (): void {
    $content = $this->content();
    $bodies = fn (): string => $content
        ->query("select md5(string_agg(body, '|' order by id)) from entries")
        ->fetchColumn();
    $before = $bodies();
    $page = '/journal/from-the-hide-no-9';
    $this->forget($page);
    expect($this->publicPage($page))->toContain('www.korrin-observatory.example/bay/media');

    $this->signIn('maintainer');
    $this->visit('/korrin-bay/repairs');
    $this->see('the evidence leaves one answer');
    $this->button('Mend all sure ones')->click();
    $this->see('Former address (83)', 40);
    $this->see('sizes drawn again');
    expect($bodies())->toBe($before);
    $this->applyPlan();
    $change = $this->driver()->getCurrentURL();
    $this->css('[data-testid=verification]', 60);
    $this->forget($page);
    expect($this->publicPage($page))->not->toContain('www.korrin-observatory.example/bay/media');

    $this->visit('/korrin-bay/repairs');
    $this->see('None has one answer that is sure', 60);
    $this->driver()->get($change);
    $this->undoChange();
    expect($bodies())->toBe($before);
    $this->forget($page);
});

it('decides an open one by keys alone', function (): void {
    $this->signIn('maintainer');
    $this->visit('/korrin-bay/repairs/missing-file');
    $this->see('media/2013/founders.jpg');
    $choose = $this->driver()->findElements(
        WebDriverBy::xpath('//li[contains(., "founders.jpg")]//button[.="Choose any picture"]'),
    )[0];
    $this->driver()->executeScript('arguments[0].focus()', [$choose]);
    $choose->sendKeys(WebDriverKeys::ENTER);
    $field = $this->css('li input[type=search]');
    $field->sendKeys(WebDriverKeys::CONTROL.'a');
    $field->sendKeys('maren oake');
    $this->await(
        fn (): bool => str_contains($this->css('[aria-label="Items found"]')->getText(), 'Maren Oake'),
        'nothing was found',
    );
    $field->sendKeys(WebDriverKeys::ARROW_DOWN);
    $field->sendKeys(WebDriverKeys::ENTER);
    $this->see('1 decision taken');
    $this->button('Plan 1 reference')->click();
    $this->see('1 reference in 1 record.', 40);
    $this->see('maren-oake.jpg');
});

it('shows a viewer what is wrong, and nothing to press', function (): void {
    $this->signIn('viewer');
    $this->visit('/korrin-bay/repairs');
    $this->see('Former address');
    expect($this->driver()->findElements(WebDriverBy::xpath('//button[contains(., "Mend")]')))->toBe([]);
    $this->visit('/korrin-bay/repairs/missing-file');
    $this->see('founders.jpg');
    expect($this->driver()->findElements(WebDriverBy::xpath('//button[.="Choose any picture"]')))->toBe([]);
});

it('lets a finding stand with a reason, and takes that back', function (): void {
    $this->signIn('maintainer');
    $this->visit('/korrin-bay/repairs/missing-file');
    $this->see('media/2013/founders.jpg');
    $this->driver()
        ->findElement(WebDriverBy::xpath('//li[contains(., "founders.jpg")]//button[.="Let stand"]'))
        ->click();
    // The field has the focus already.
    $this->driver()->switchTo()->activeElement()->sendKeys('They asked for it.')->sendKeys(WebDriverKeys::ENTER);
    $this->await(fn (): bool => ! str_contains($this->text(), 'founders.jpg'), 'it is still listed');
    $this->visit('/korrin-bay/repairs');
    $this->see('They asked for it.');
    $this->button('Take back')->click();
    $this->await(fn (): bool => ! str_contains($this->text(), 'They asked for it.'), 'it was not taken back');
    $this->visit('/korrin-bay/repairs/missing-file');
    $this->see('media/2013/founders.jpg');
});
