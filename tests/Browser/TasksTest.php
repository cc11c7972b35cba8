<?php

declare(strict_types=1);

use Facebook\WebDriver\Remote\RemoteWebElement;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use Standin\Drawing\Motifs;
use Tests\Browser\Chromium;

/** What a maintainer comes with, done to its end; each decision is one press or one text. */
function option(object $test, string $words): RemoteWebElement
{
    return $test->await(
        fn (): ?RemoteWebElement => $test
            ->driver()
            ->findElements(WebDriverBy::xpath("//*[@role='option'][contains(., \"$words\")]"))[0] ?? null,
        "nothing to choose says \"$words\"",
    );
}

it(
    'leads from the address of a post to all that it shows, by keys alone, and says what is wrong there',
    function (): void {
        $this->signIn('viewer');
        $this->driver()->findElement(WebDriverBy::tagName('body'))->sendKeys('/');
        $this->driver()
            ->switchTo()
            ->activeElement()
            ->sendKeys('http://127.0.0.1:'.self::setting('SITE_PORT').'/journal/from-the-hide-no-3');
        option($this, 'From the hide, no. 3');
        $this->driver()
            ->switchTo()
            ->activeElement()
            ->sendKeys(WebDriverKeys::ARROW_DOWN)
            ->sendKeys(WebDriverKeys::ENTER);
        $this->see('What is wrong here, and why');
        $this->see("Points at the site's former address; it is media/people/maren-oake.w160.jpg now.");
        $this->see('Through');
        expect($this->driver()->getTitle())->toBe('From the hide, no. 3 · Ylema');
        $link = $this->driver()->findElement(WebDriverBy::cssSelector('aside a[target=_blank]'));
        expect($link->getAttribute('href'))->toBe(
            'http://127.0.0.1:'.self::setting('SITE_PORT').'/journal/from-the-hide-no-3',
        );
    },
);

it('never opens what was found for a text before', function (): void {
    $this->signIn('viewer');
    $this->driver()->findElement(WebDriverBy::tagName('body'))->sendKeys('/');
    $field = $this->driver()->switchTo()->activeElement();
    $field->sendKeys('maren oake');
    option($this, 'Maren Oake');
    $field->sendKeys(str_repeat(WebDriverKeys::BACKSPACE, 10).'tern'.WebDriverKeys::ENTER);
    $this->see('Found for “tern”');
    expect($this->driver()->getCurrentURL())->toContain('/find?q=tern');
});

it('switches old posts to the new logo and leaves two, and loses nothing on a reload', function (): void {
    $this->signIn('maintainer');
    $from = $this->itemId('media/people/maren-oake.jpg');
    $to = $this->itemId('media/people/isla-ferrant.jpg');
    $this->visit("/korrin-bay/media/$from/swap?to=$to");
    $this->see('25 references in 25 records');
    foreach (['From the hide, no. 9', 'From the hide, no. 15'] as $title) {
        $this->css("input[aria-label='post $title']")->click();
    }
    $this->see('23 references in 23 records will name Isla Ferrant');
    $this->driver()->navigate()->refresh();
    $this->see('23 references in 23 records will name Isla Ferrant');
    $this->button('Make the plan')->click();
    $this->see('23 references in 23 records, no file.', 30);
    $this->button('Change it')->click();
    $this->see('23 references in 23 records will name Isla Ferrant');
    $this->driver()->navigate()->back();
    $this->see('23 references in 23 records, no file.', 30);
    $this->applyPlan();
    $left = $this->content()
        ->query("select slug from entries where body like '%maren-oake%' and type = 'post' order by slug")
        ->fetchAll(PDO::FETCH_COLUMN);
    expect($left)->toBe(['journal/from-the-hide-no-15', 'journal/from-the-hide-no-9']);
    $this->undoChange();
});

it('keeps the box of a slot when a square picture comes, and says before what would become of it', function (): void {
    $this->signIn('maintainer');
    $file = sys_get_temp_dir().'/ylema-square.png';
    imagepng(Motifs::draw('portrait', 7, 1300, 1300, '', 1.0)->image, $file);
    $this->visit('/korrin-bay/media/'.$this->itemId('media/banners/quayside-chandlery.jpg').'/swap');
    $this->css('input[type=file]')->sendKeys($file);
    $this->see('The new picture has another shape');
    // Cropped to the old proportions is what is chosen first; really another shape says what happens.
    expect($this->text())->not->toContain('will look different');
    $this->driver()->findElement(WebDriverBy::xpath('//label[contains(., "Really another shape")]//input'))->click();
    $this->see('will look different');
    $this->see('Another shape: 1,200 × 240 pixels now, 1,300 × 1,300 after.');
    $this->driver()->findElement(WebDriverBy::xpath('//label[contains(., "Crop it to the old one")]//input'))->click();
    $this->button('Make the plan')->click();
    $this->see('1 reference in 1 record', 30);
    $this->see('1,300 × 260');
    $this->applyPlan();
    $served = 'http://127.0.0.1:'.self::setting('SITE_PORT').'/media/banners/ylema-square.png';
    expect(array_slice((array) getimagesize($served), 0, 2))->toBe([1300, 260]);
    $this->undoChange();
    unlink($file);
});

it('turns a photo upright and offers the words that it carries', function (): void {
    $this->signIn('maintainer');
    $file = sys_get_temp_dir().'/ylema-phone.jpg';
    imagejpeg(Motifs::draw('shore', 5, 900, 600, '', 1.0)->image, $file);
    $bytes = (string) file_get_contents($file);
    $segment = static fn (string $marker, string $content): string => "\xFF$marker"
        .pack('n', strlen($content) + 2)
        .$content;
    $word = static fn (int $set, string $text): string => "\x1C\x02".chr($set).pack('n', strlen($text)).$text;
    $iptc = $word(5, 'Ebb at the pier').$word(110, 'Hal Orrin');
    file_put_contents(
        $file,
        "\xFF\xD8"
            .$segment("\xE1", "Exif\0\0II\x2A\0\x08\0\0\0\x01\0\x12\x01\x03\0\x01\0\0\0\x06\0\0\0\0\0\0\0")
            .$segment("\xED", "Photoshop 3.0\x008BIM\x04\x04\0\0".pack('N', strlen($iptc)).$iptc)
            .substr($bytes, 2),
    );
    $this->visit('/korrin-bay/media/'.$this->itemId('media/people/tobin-vale.jpg').'/swap');
    $this->css('input[type=file]')->sendKeys($file);
    $this->see('600 × 900');
    $this->see('turned upright');
    $this->button('Use these words')->click();
    $this->await(
        fn (): bool => array_intersect(
            ['Ebb at the pier', 'Hal Orrin'],
            array_map(
                static fn (RemoteWebElement $input): string => (string) $input->getAttribute('value'),
                $this->driver()->findElements(WebDriverBy::cssSelector('section[aria-label=After] label input')),
            ),
        ) === ['Ebb at the pier', 'Hal Orrin'],
        'the words were not taken',
    );
    unlink($file);
});

it('lets somebody sign in again on top of a bench, and loses nothing of it', function (): void {
    $this->signIn('maintainer');
    $from = $this->itemId('media/people/maren-oake.jpg');
    $this->visit("/korrin-bay/media/$from/swap?to=".$this->itemId('media/people/lise-holm.jpg'));
    $this->see('25 references in 25 records');
    $this->css("input[aria-label='page People']")->click();
    // An answer on its way brings the session back, and pictures are drawn for a while: until it stays away.
    $index = self::installation()->index();
    $gone = 0;
    $this->await(
        function () use ($index, &$gone): bool {
            $gone = $index->exec('delete from sessions') === 0 ? $gone + 1 : 0;

            return $gone > 8 && $this->driver()->executeScript(
                'return [...document.images].every((picture) => picture.complete)',
            );
        },
        'the session does not end',
        60,
    );
    $this->button('Make the plan')->click();
    $this->see('Your session has ended.');
    $this->css('[role=dialog] input[name=email]')->sendKeys('maintainer@korrinbay.example');
    $this->css('[role=dialog] input[name=password]')->sendKeys('tidewater-demo');
    $this->css('[role=dialog] button[type=submit]')->click();
    $this->await(
        fn (): bool => $this->driver()->findElements(WebDriverBy::cssSelector('[role=dialog]')) === [],
        'the dialog stays',
    );
    $this->see('24 references in 24 records will name Lise Holm');
    $this->button('Make the plan')->click();
    $this->see('24 references in 24 records, no file.', 30);
});

it('has a way forward for what somebody else edited before undo', function (): void {
    $this->signIn('maintainer');
    $content = $this->content();
    $giveBack = $this->keepEntries('journal/from-the-hide-no-9', 'journal/from-the-hide-no-15');
    $from = $this->itemId('media/people/maren-oake.jpg');
    $this->visit("/korrin-bay/media/$from/swap?to=".$this->itemId('media/people/isla-ferrant.jpg'));
    $this->see('25 references in 25 records');
    $this->button('Make the plan')->click();
    $this->see('25 references in 25 records, no file.', 30);
    $this->applyPlan();
    $content->exec(
        "update entries set body = body || ' A later word.' where slug in ('journal/from-the-hide-no-9', "
            ."'journal/from-the-hide-no-15')",
    );
    $this->button('Undo')->click();
    $this->button('Undo it')->click();
    $this->see('2 steps are not undone', 40);
    $this->button('Plan to put the rest back')->click();
    $this->see('2 references in 2 records, no file.', 30);
    $this->applyPlan();
    expect(
        (int) $content
            ->query("select count(*) from entries where body like '%isla-ferrant%' and body like '% A later word.'")
            ->fetchColumn(),
    )->toBe(0);
    $giveBack();
});

it('tells whoever comes second that it was applied, and by whom', function (): void {
    $this->signIn('maintainer');
    $from = $this->itemId('media/people/maren-oake.jpg');
    $this->visit("/korrin-bay/media/$from/swap?to=".$this->itemId('media/people/lise-holm.jpg'));
    $this->button('Make the plan')->click();
    $this->see('25 references in 25 records, no file.', 30);
    $plan = $this->driver()->getCurrentURL();

    // Somebody else, in a browser of their own, applies the plan that is open here.
    $other = Chromium::start(self::installation()->driver(), ['--window-size=1280,900']);
    try {
        $other->get(self::setting('APP_URL'));
        $field = fn (string $css): RemoteWebElement => $this->await(
            fn (): ?RemoteWebElement => $other->findElements(WebDriverBy::cssSelector($css))[0] ?? null,
            "the other browser has no $css",
        );
        $field('input[name=email]')->sendKeys('owner@korrinbay.example');
        $field('input[name=password]')->sendKeys('tidewater-demo'.WebDriverKeys::ENTER);
        $field('main#work h1');
        $other->get($plan);
        $apply = "//button[normalize-space(.)='Apply' and not(@disabled)]";
        $this->await(
            fn (): ?RemoteWebElement => $other->findElements(WebDriverBy::xpath($apply))[0] ?? null,
            'the other browser cannot apply',
        )->click();
        $field('[data-testid=change-state]');
    } finally {
        $other->quit();
    }
    $this->see('Applied by ', 20);
    expect($this->driver()->findElements(WebDriverBy::xpath("//button[normalize-space(.)='Apply']")))->toBe([]);
    $this->button('To its change')->click();
    $this->undoChange();
});

it('shows the trail as a list that keys and ears can follow', function (): void {
    $this->signIn('viewer');
    $this->visit('/korrin-bay/media/'.$this->itemId('media/banners/quayside-chandlery.jpg').'?as=list');
    $this->see('Placed in');
    $row = $this->css('tbody tr')->getText();
    expect($row)
        ->toContain('Quayside Chandlery')
        ->toContain('Masthead partners')
        ->toContain('masthead-strip')
        ->toContain('public pages');
});
