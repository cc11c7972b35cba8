<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

it(
    'goes the whole way: find a picture, see its places, swap it, see it on the public page, undo it',
    function (): void {
        $content = $this->content();
        $before = $content->query('select md5(string_agg(body, \'|\' order by id)) from entries')->fetchColumn();
        $page = '/journal/from-the-hide-no-45';
        // A visitor was here before, so the page cache holds the page; not one from the middle of another test.
        $this->forget($page);
        expect($this->publicPage($page))
            ->toContain('maren-oake')
            ->and($this->publicPage($page))
            ->toContain('maren-oake');

        $this->signIn('maintainer');

        // Find it: the slash key leads to the find field from anywhere.
        $this->driver()->findElement(WebDriverBy::tagName('body'))->sendKeys('/');
        $this->driver()->switchTo()->activeElement()->sendKeys('maren oake');
        $this->await(
            fn (): bool => str_contains($this->css('[role=listbox][aria-label=Found]')->getText(), 'maren-oake.jpg'),
            'nothing was found',
        );
        $this->driver()
            ->switchTo()
            ->activeElement()
            ->sendKeys(WebDriverKeys::ARROW_DOWN)
            ->sendKeys(WebDriverKeys::ENTER);

        // Its trail shows the planted places.
        $this->see('25 references');
        $this->see('24 public pages');
        $trail = $this->css('[data-testid=trail]')->getText();
        expect($trail)->toContain('24 posts')->toContain('People')->toContain('/people');

        // The excerpt shows the raw text with the bytes marked.
        $this->css('[data-node=b1-post]')->click();
        $this->await(
            fn () => $this->driver()->findElements(
                WebDriverBy::xpath('//*[@data-node][.//text()[.="From the hide, no. 9"]]'),
            )[0] ?? null,
            'the bundle of posts did not open',
        )->click();
        $this->await(
            fn (): bool => $this->css('[data-testid=excerpt] mark')->getText()
                === 'https://www.korrin-observatory.example/bay/media/people/maren-oake.w160.jpg',
            'the excerpt does not mark the reference',
        );
        $this->see("Points at the site's former address");
        $this->driver()->switchTo()->activeElement()->sendKeys(WebDriverKeys::ESCAPE);

        // The bench: choose another portrait, make the plan.
        $this->await(
            fn (): bool => $this->driver()->findElements(WebDriverBy::cssSelector('[role=dialog]')) === [],
            'the excerpt did not close',
        );
        $this->button('Swap this file')->click();
        $this->chooseItem('isla ferrant', 'Isla Ferrant');
        $this->see('25 references in 25 records will name Isla Ferrant');
        $this->button('Make the plan')->click();
        $this->see('25 references in 25 records, no file.');
        $this->see('Nothing of this is written yet.');
        expect($content->query('select md5(string_agg(body, \'|\' order by id)) from entries')->fetchColumn())->toBe(
            $before,
        );

        // Apply, and see which pages a cache still keeps.
        $this->css('input[placeholder^="Why?"]')->sendKeys('A new portrait');
        $this->applyPlan();
        $this->see('stale', 30);
        $this->see('From the hide, no. 45');
        expect($this->publicPage($page))->toContain('maren-oake');

        // Purge, and the public page serves the new picture.
        $this->button('Purge and look again')->click();
        $this->await(
            fn (): bool => ! str_contains($this->css('[data-testid=verification]')->getText(), 'stale'),
            'pages stay stale after the purge',
            30,
        );
        expect($this->publicPage($page))->toContain('isla-ferrant')->not->toContain('maren-oake');

        // Undo, and the bytes equal the start.
        $this->undoChange();
        expect($content->query('select md5(string_agg(body, \'|\' order by id)) from entries')->fetchColumn())->toBe(
            $before,
        );
        $this->see('On the public pages', 30);
    },
);

it('shows a banner through its set, slot and part on every page', function (): void {
    $this->signIn('viewer');
    $this->visit('/korrin-bay/media/'.$this->itemId('media/banners/quayside-chandlery.jpg'));
    $this->see('passed on by');
    $trail = $this->css('[data-testid=trail]')->getText();
    expect($trail)
        ->toContain('Quayside Chandlery')
        ->toContain('Masthead partners')
        ->toContain('masthead-strip')
        ->toContain('header')
        ->toContain('public pages');
    // Who only looks is not offered what the server would refuse.
    expect($this->text())->not->toContain('Swap this file')->not->toContain('Read again');
});

it('refuses a bad upload with a sentence on the bench', function (): void {
    $this->signIn('maintainer');
    $this->visit('/korrin-bay/media/'.$this->itemId('media/people/maren-oake.jpg').'/swap');
    $file = sys_get_temp_dir().'/ylema-not-a-picture.jpg';
    file_put_contents($file, 'only words');
    $this->css('input[type=file]')->sendKeys($file);
    $this->see('is not a picture, document, film or sound that can be used here');
    unlink($file);
});

it('puts an uploaded picture behind the same address', function (): void {
    $this->signIn('maintainer');
    $port = self::setting('SITE_PORT');
    $address = "http://127.0.0.1:$port/media/people/tobin-vale.w150.jpg";
    $before = md5((string) file_get_contents($address));
    $file = sys_get_temp_dir().'/ylema-new-face.png';
    imagepng(\Standin\Drawing\Motifs::draw('portrait', 99, 600, 600, '', 1.0)->image, $file);
    $this->visit('/korrin-bay/media/'.$this->itemId('media/people/tobin-vale.jpg').'/swap');
    $this->await(
        fn () => $this->driver()->findElements(WebDriverBy::xpath('//label[contains(., "Same address")]//input'))[0]
            ?? null,
        'the bench offers no same address',
    )->click();
    $this->css('input[type=file]')->sendKeys($file);
    $this->see('ylema-new-face.png');
    $this->button('Make the plan')->click();
    $this->see('New bytes for 4 files behind the same addresses');
    $this->button('Apply')->click();
    $this->await(
        fn (): bool => str_contains($this->text(), 'Asked for 4 files: 4 serve the right bytes'),
        'the files were not looked at',
        30,
    );
    expect(md5((string) file_get_contents($address)))->not->toBe($before);
    $this->undoChange();
    expect(md5((string) file_get_contents($address)))->toBe($before);
    unlink($file);
});

it('keeps what is chosen while a file is on its way, and brings nobody back who left meanwhile', function (): void {
    $this->signIn('maintainer');
    $file = sys_get_temp_dir().'/ylema-slow-face.png';
    imagepng(\Standin\Drawing\Motifs::draw('portrait', 98, 600, 600, '', 1.0)->image, $file);
    $onTheWay = fn (int $milliseconds) => $this->tools()->execute('Network.emulateNetworkConditions', [
        'offline' => false, 'latency' => $milliseconds, 'downloadThroughput' => -1, 'uploadThroughput' => -1,
    ]);
    $this->visit('/korrin-bay/media/'.$this->itemId('media/people/tobin-vale.jpg').'/swap');
    $this->css('input[type=file]');
    $onTheWay(1500);
    $this->css('input[type=file]')->sendKeys($file);
    $this->see('Sending…');
    $this->driver()->findElement(WebDriverBy::xpath('//label[contains(., "Same address")]//input'))->click();
    $this->see('ylema-slow-face.png');
    $this->see('4 files get new bytes');

    $onTheWay(0);
    $this->driver()->navigate()->refresh();
    $this->see('ylema-slow-face.png');
    $onTheWay(1500);
    $this->css('input[type=file]')->sendKeys($file);
    $this->see('Sending…');
    $this->button('Leave')->click();
    $this->see('Swap this file');
    // Once the answer is there, nothing is to be seen of it, which is the point.
    $isAnswered = fn (): bool => $this->driver()->executeScript(
        'return performance.getEntriesByType("resource").some((entry) => entry.name.includes("/uploads"))',
    );
    $this->await($isAnswered, 'the upload is not answered', 30);
    $this->driver()->executeAsyncScript('requestAnimationFrame(() => requestAnimationFrame(arguments[0]))');
    expect($this->driver()->getCurrentURL())->not->toContain('upload');
    $onTheWay(0);
    unlink($file);
});

it('reads the site again with progress, and shows every stage with true counts', function (): void {
    $this->signIn('owner');
    $this->css('button[aria-label="Read again"]')->click();
    $this->see('just now', 60);
    foreach (
        [
            'media' => 'All media',
            'places' => 'page parts',
            'repairs' => 'Former address',
            'resting' => 'Gone to archive',
            'changes' => 'Changes',
            'desk' => 'What needs you',
        ] as $stage => $words
    ) {
        $this->visit("/korrin-bay/$stage");
        $this->see($words);
    }
});
