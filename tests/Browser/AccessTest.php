<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/*
 * For everyone: axe-core on every view and state, in light and in dark; nothing wider than a narrow screen.
 */

function loaded(object $test, string $view): void
{
    $test->visit("/korrin-bay/$view");
    $test->css('main#work h1');
    $test->await(
        fn (): bool => $test->driver()->findElements(WebDriverBy::cssSelector('[aria-label=Loading]')) === [],
        "$view goes on loading",
    );
}

/** The rules of axe-core that colours decide; all others say the same of a page in light and in dark. */
const COLOURS = ['color-contrast', 'link-in-text-block'];

/**
 * @param  list<string>|null  $rules of axe-core; all of WCAG 2.2 A and AA where none are said
 * @return list<string> what axe-core finds against them
 */
function axeFaults(object $test, ?array $rules = null): array
{
    if ($test->driver()->executeScript('return window.axe === undefined')) {
        $axe = (string) file_get_contents(dirname(__DIR__, 2).'/node_modules/axe-core/axe.min.js');
        $test->driver()->executeScript($axe);
    }
    $only = $rules ?? ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
    // Asked whether it has ended: how long it may take is nobody's business but the machine's.
    $test->driver()->executeScript(
        'window.found = undefined; axe.run(document, { resultTypes: ["violations"], runOnly: { type: arguments[1], '
            .'values: arguments[0] } }).then((r) => { window.found = r.violations.map((v) => v.id + ": " + v.nodes'
            .'.slice(0, 3).map((n) => n.html.slice(0, 160)).join(" | ")); }, (e) => { window.found = [String(e)]; });',
        [$only, $rules === null ? 'tag' : 'rule'],
    );
    $found = null;
    $test->await(
        function () use ($test, &$found): bool {
            return ($found = $test->driver()->executeScript('return window.found ?? null')) !== null;
        },
        'axe-core does not end',
        60,
    );

    return $found;
}

/** In light as it is, and in dark what may differ there. */
function expectNoFaults(object $test, string $where): void
{
    foreach (['light' => null, 'dark' => COLOURS] as $scheme => $rules) {
        $test->tools()->execute('Emulation.setEmulatedMedia', [
            'features' => [['name' => 'prefers-color-scheme', 'value' => $scheme]],
        ]);
        expect(axeFaults($test, $rules))->toBe([], "$where in $scheme");
    }
}

/** @return list<string> */
function views(object $test): array
{
    $id = $test->itemId('media/people/maren-oake.jpg');
    $to = $test->itemId('media/people/isla-ferrant.jpg');

    return [
        'desk',
        'media',
        'media?as=sheet',
        "media/$id",
        "media/$id?as=list",
        "media/$id/report",
        "media/$id/swap",
        "media/$id/swap?to=$to",
        'places',
        'places/'.$test->recordId('journal/from-the-hide-no-3'),
        'places/'.$test->recordId('journal/from-the-hide-no-3').'/report',
        'find?q=oake',
        'find?q=nothing-has-this-name',
        'repairs',
        'repairs/former-address',
        'repairs/missing-file',
        'resting',
        'resting/copies',
        'resting/renditions',
        'resting/weight',
        'media/'.$test->itemId('media/archive/left-05.jpg').'?as=proof',
        'places/'.$test->recordId('journal/from-the-hide-no-3').'/leaves',
        'map',
        'map/versions',
        'changes',
        'media/999999999',
        'nowhere',
    ];
}

it('has no faults that axe-core finds, in light and in dark, and scrolls what is long inside its frame', function (
): void {
    $this->signIn('maintainer');
    foreach (views($this) as $view) {
        loaded($this, $view);
        [$height, $frame] = $this->driver()->executeScript(
            'const page = document.documentElement; return [page.scrollHeight, page.clientHeight]',
        );
        expect($height)->toBe($frame, $view);
        expectNoFaults($this, $view);
    }
});

it('has none in what opens over a view either, and gives the focus back', function (string $view, string $open): void {
    $this->signIn('maintainer');
    loaded($this, str_replace('{item}', (string) $this->itemId('media/people/maren-oake.jpg'), $view));
    $this->css($open);
    // Opened by a key, as by somebody without a mouse.
    $this->driver()->executeScript('document.querySelector(arguments[0]).focus()', [$open]);
    $this->driver()->switchTo()->activeElement()->sendKeys(WebDriverKeys::ENTER);
    $this->css('[role=dialog], [role=menu], [data-radix-popper-content-wrapper]');
    expectNoFaults($this, $open);
    $this->driver()->switchTo()->activeElement()->sendKeys(WebDriverKeys::ESCAPE);
    $this->await(
        fn (): bool => $this->driver()->executeScript('return document.activeElement.matches(arguments[0])', [$open]),
        'the focus did not come back to what opened it',
    );
})->with([
    'the excerpt' => ['media/{item}', '[data-testid=trail] button[data-node^=r]'],
    'the site' => ['desk', 'header button[aria-haspopup=dialog]'],
    'what the words mean' => ['media', 'main button[aria-label^="What the words mean"]'],
    'the account' => ['desk', 'header button[aria-haspopup=menu]'],
]);

it('prints reports whole, with all of their pictures and without the frame', function (): void {
    $this->signIn('viewer');
    loaded($this, 'media/'.$this->itemId('media/people/maren-oake.jpg'));
    $this->css('aside a[href$="/report"]')->click();
    $this->see('Where “Maren Oake” is used');
    $this->see('named nowhere');
    expect(count($this->driver()->findElements(WebDriverBy::cssSelector('main tbody tr'))))->toBe(25);
    $this->driver()->executeScript('window.print = () => { window.printed = true; };');
    $this->button('Print')->click();
    $isPrinted = fn (): bool => $this->driver()->executeScript('return window.printed === true');
    $this->await($isPrinted, 'nothing was printed');
    $this->tools()->execute('Emulation.setEmulatedMedia', ['media' => 'print']);
    expect($this->driver()->executeScript(<<<'JS'
        const main = document.querySelector('main');
        return {
            frame: document.querySelector('header').offsetHeight,
            cut: [...main.querySelectorAll('*')].some((e) => e.scrollHeight > e.clientHeight + 1
                && /auto|scroll|hidden/.test(getComputedStyle(e).overflowY) && e.clientHeight > 60),
            beyond: main.getBoundingClientRect().height > innerHeight,
            pictures: [...document.images].filter((p) => !p.complete || p.naturalWidth === 0).length,
        };
        JS))
        ->toEqual(['frame' => 0, 'cut' => false, 'beyond' => true, 'pictures' => 0]);
    $this->visit('/korrin-bay/places/'.$this->recordId('journal/from-the-hide-no-3').'/report');
    $this->see('What “From the hide, no. 3” shows');
    $this->see('Through');
});

/** @return list<string> what is wider than the screen, where nothing may be */
function tooWide(object $test): array
{
    return $test->driver()->executeScript(
        'const wide = (e) => e.scrollWidth > e.clientWidth + 1 && /auto|scroll/.test(getComputedStyle(e).overflowX);'
            .'return [document.documentElement.scrollWidth > innerWidth ? "the page" : "", ...[...document'
            .'.querySelectorAll("main, main *")].filter(wide).map((e) => e.tagName + "." + e.className)]'
            .'.filter(Boolean);',
    );
}

function narrow(object $test): void
{
    $test->tools()->execute('Emulation.setDeviceMetricsOverride', [
        'width' => 320,
        'height' => 256,
        'deviceScaleFactor' => 1,
        'mobile' => false,
    ]);
}

it('has no faults in plans and changes, which fit a narrow screen, too', function (): void {
    $this->signIn('maintainer');
    $from = $this->itemId('media/people/maren-oake.jpg');
    loaded($this, "media/$from/swap?to=".$this->itemId('media/people/lise-holm.jpg'));
    $this->button('Make the plan')->click();
    $this->see('25 references in 25 records, no file.', 30);
    $this->css('section[aria-label=Steps] button')->click();
    $look = function (string $view): void {
        expectNoFaults($this, $view);
        narrow($this);
        expect(tooWide($this))->toBe([], $view);
        $this->tools()->execute('Emulation.clearDeviceMetricsOverride', ['x' => 0]);
    };
    $look('a plan');
    $this->button('Apply')->click();
    $this->css('[data-testid=verification]', 40);
    $look('a change');
    $this->button('Undo')->click();
    $this->css('[role=alertdialog]');
    expect(axeFaults($this))->toBe([], 'the question before undo');
    $this->button('Undo it')->click();
    $this->changeIs('undone');
    loaded($this, 'changes');
    $look('the journal');
});

it('fits a narrow screen, and one that is magnified fourfold, with nothing to scroll sideways', function (): void {
    $this->signIn('maintainer');
    foreach (views($this) as $view) {
        narrow($this);
        loaded($this, $view);
        expect(tooWide($this))->toBe([], $view);
        // Nothing stands in the way of the way down: the page scrolls as a whole.
        expect($this->driver()->executeScript('return document.documentElement.scrollHeight'))->toBeGreaterThan(256);
    }
});

it('shows in the bars and words what it means also where colours are the reader’s own', function (): void {
    $this->signIn('viewer');
    $this->tools()->execute('Emulation.setEmulatedMedia', [
        'features' => [['name' => 'forced-colors', 'value' => 'active']],
    ]);
    loaded($this, 'media');
    $this->see('Korrin Bay logo');
    $colours = $this->driver()->executeScript(
        'return [...document.querySelectorAll("[role=img].keeps-colour span")].slice(0, 2)'
            .'.map((e) => getComputedStyle(e).backgroundColor)',
    );
    expect(array_unique($colours))->toHaveCount(2);
});
