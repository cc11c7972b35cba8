<?php

declare(strict_types=1);

use Facebook\WebDriver\Remote\RemoteWebElement;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use Standin\Drawing\Motifs;

/*
 * What a maintainer comes with, done by keys alone from the first to the last: the mouse never moves.
 */

/** Keys for whatever has the focus. */
function press(object $test, string ...$keys): void
{
    foreach ($keys as $key) {
        $test->driver()->switchTo()->activeElement()->sendKeys($key);
    }
}

/** Goes on with Tab until what has the focus says these words, in its text or its name. */
function tabTo(object $test, string $words): RemoteWebElement
{
    $test->await(
        fn (): bool => $test->driver()->executeScript(
            'return [...document.querySelectorAll("a[href], button:not(:disabled), input:not(:disabled), [tabindex]")]'
                .'.some((e) => (e.ariaLabel ?? "").includes(arguments[0]) || e.textContent.includes(arguments[0]))',
            [$words],
        ),
        "nothing that takes keys says \"$words\"",
        30,
    );
    // The page itself stops where the words are: asked after each key, three hundred of them take minutes.
    $test->driver()->executeScript(<<<'JS'
        const [words] = arguments;
        const says = (e) => [e.ariaLabel ?? '', e.textContent, ...[...(e.labels ?? [])].map((l) => l.textContent)];
        const arrives = (event) => {
            window.arrived ||= says(event.target).join(' ').includes(words);
        };
        const stays = (event) => {
            if (window.arrived && event.key === 'Tab') {
                event.preventDefault();
                event.stopImmediatePropagation();
            }
        };
        window.arrived = false;
        window.arriving?.abort();
        window.arriving = new AbortController();
        window.addEventListener('focusin', arrives, { capture: true, signal: window.arriving.signal });
        window.addEventListener('keydown', stays, { capture: true, signal: window.arriving.signal });
        JS, [$words]);
    for ($i = 0; $i < 300; $i += 15) {
        press($test, str_repeat(WebDriverKeys::TAB, 15));
        if ($test->driver()->executeScript('return window.arrived && (window.arriving.abort(), true)')) {
            return $test->driver()->switchTo()->activeElement();
        }
    }
    $test::fail("Tab never comes to \"$words\".");
}

function choose(object $test, string $words): void
{
    tabTo($test, $words);
    press($test, WebDriverKeys::ENTER);
}

/** From anywhere: the find field, the words, the first thing found of that title. */
function findAndOpen(object $test, string $words, string $title): void
{
    $test->driver()->findElement(WebDriverBy::tagName('body'))->sendKeys('/');
    press($test, $words);
    $test->await(
        fn (): bool => str_contains(
            ($test->driver()->findElements(WebDriverBy::cssSelector('[role=option]'))[0] ?? null)?->getText() ?? '',
            $title,
        ),
        "\"$title\" is not what is found first",
    );
    press($test, WebDriverKeys::ARROW_DOWN, WebDriverKeys::ENTER);
    $test->await(
        fn (): bool => str_contains($test->driver()->getTitle(), $title),
        "\"$title\" did not open",
    );
}

function pick(object $test, string $words, string $title): void
{
    tabTo($test, 'Choose another item of the site');
    press($test, $words);
    // What stood there before, for the words before, is not chosen from.
    $test->await(
        fn (): bool => str_contains($test->css('section[aria-label=After]')->getText(), "found:\n$title"),
        "\"$title\" is not what is found first",
    );
    press($test, WebDriverKeys::ARROW_DOWN, WebDriverKeys::ENTER);
}

/** Takes the open change back; who did it by keys is then where its state is told. */
function undoByKeys(object $test): void
{
    choose($test, 'Undo');
    choose($test, 'Undo it');
    $test->changeIs('undone');
    expect($test->driver()->switchTo()->activeElement()->getAttribute('data-testid'))->toBe('change-state');
}

it('replaces a portrait everywhere, opens a public page, and puts it back', function (): void {
    $this->signIn('maintainer');
    findAndOpen($this, 'maren oake', 'Maren Oake');
    choose($this, 'Swap this file');
    pick($this, 'isla ferrant', 'Isla Ferrant');
    $this->see('25 references in 25 records will name Isla Ferrant');
    choose($this, 'Make the plan');
    $this->see('25 references in 25 records, no file.', 30);
    choose($this, 'Apply');
    $this->changeIs('applied');
    $this->css('[data-testid=verification]', 40);
    $address = tabTo($this, 'opens the public page')->getAttribute('href');
    expect($address)
        ->toStartWith('http://127.0.0.1:'.self::setting('SITE_PORT').'/')
        ->and($this->publicPage((string) parse_url((string) $address, PHP_URL_PATH)))
        ->toContain('<html');
    undoByKeys($this);
});

it('switches old posts and leaves two as they are', function (): void {
    $this->signIn('maintainer');
    findAndOpen($this, 'maren oake', 'Maren Oake');
    choose($this, 'Swap this file');
    pick($this, 'lise holm', 'Lise Holm');
    foreach (['post From the hide, no. 9', 'post From the hide, no. 15'] as $post) {
        tabTo($this, $post);
        press($this, ' ');
    }
    $this->see('23 references in 23 records will name Lise Holm');
    choose($this, 'Make the plan');
    $this->see('23 references in 23 records, no file.', 30);
    choose($this, 'Apply');
    $this->changeIs('applied');
    undoByKeys($this);
});

it('gives a banner another picture and keeps the box of its slot', function (): void {
    $this->signIn('maintainer');
    $file = sys_get_temp_dir().'/ylema-keys-square.png';
    imagepng(Motifs::draw('portrait', 11, 1300, 1300, '', 1.0)->image, $file);
    findAndOpen($this, 'quayside chandlery', 'Quayside Chandlery');
    choose($this, 'Swap this file');
    tabTo($this, 'Upload a file');
    // The system's own dialog takes the path; the focus stays where it was.
    $this->css('input[type=file]')->sendKeys($file);
    $this->see('The new picture has another shape');
    expect($this->driver()->switchTo()->activeElement()->getText())->toBe('Upload a file');
    choose($this, 'Make the plan');
    $this->see('1,300 × 260', 40);
    choose($this, 'Apply');
    $this->changeIs('applied');
    undoByKeys($this);
    unlink($file);
});

it('comes from the address of a post to its featured picture, and gives it another', function (): void {
    $this->signIn('maintainer');
    $content = $this->content();
    $post = $content
        ->query(
            "select slug, title, featured_id from entries where type = 'post' and featured_id is not null and state = "
                ."'published' order by id limit 1",
        )
        ->fetch(PDO::FETCH_ASSOC);
    $old = self::installation()
        ->index()
        ->query("select title from media_items where source_id = '{$post['featured_id']}'")
        ->fetchColumn();
    findAndOpen($this, 'https://korrinbay.example/'.$post['slug'], $post['title']);
    choose($this, $old);
    choose($this, 'Swap this file');
    pick($this, 'tern spit after the storm', 'Tern Spit after the storm');
    choose($this, 'Make the plan');
    choose($this, 'Apply');
    $this->changeIs('applied');
    expect($content->query("select featured_id from entries where slug = '{$post['slug']}'")->fetchColumn())->not->toBe(
        $post['featured_id'],
    );
    undoByKeys($this);
    expect($content->query("select featured_id from entries where slug = '{$post['slug']}'")->fetchColumn())->toBe(
        $post['featured_id'],
    );
});

it('gives a style sheet another background, and looks at the sheet as a visitor', function (): void {
    $this->signIn('maintainer');
    findAndOpen($this, 'paper-1', 'Paper 1');
    choose($this, 'Swap this file');
    pick($this, 'paper-4', 'Paper 4');
    choose($this, 'Make the plan');
    $this->see('background in a style', 30);
    choose($this, 'Apply');
    $this->changeIs('applied');
    $this->await(
        fn (): bool => preg_match(
            '~\d+ of \d+ (pages?|files?)~',
            $this->css('[data-testid=verification]')->getText(),
        ) === 1,
        'nothing was looked at',
        40,
    );
    undoByKeys($this);
});

it('takes a phone photo that lies on its side, with its words, and says that it is large', function (): void {
    $this->signIn('maintainer');
    $file = sys_get_temp_dir().'/ylema-keys-phone.jpg';
    imagejpeg(imagescale(Motifs::draw('shore', 5, 1200, 800, '', 1.0)->image, 6000, 4000), $file, 60);
    $segment = static fn (string $marker, string $content): string => "\xFF$marker"
        .pack('n', strlen($content) + 2)
        .$content;
    $word = static fn (int $set, string $text): string => "\x1C\x02".chr($set).pack('n', strlen($text)).$text;
    $iptc = $word(5, 'Low water').$word(110, 'Hal Orrin');
    file_put_contents(
        $file,
        "\xFF\xD8"
            .$segment("\xE1", "Exif\0\0II\x2A\0\x08\0\0\0\x01\0\x12\x01\x03\0\x01\0\0\0\x06\0\0\0\0\0\0\0")
            .$segment("\xED", "Photoshop 3.0\x008BIM\x04\x04\0\0".pack('N', strlen($iptc)).$iptc)
            .substr((string) file_get_contents($file), 2),
    );
    findAndOpen($this, 'tobin vale', 'Tobin Vale');
    choose($this, 'Swap this file');
    tabTo($this, 'Upload a file');
    $this->css('input[type=file]')->sendKeys($file);
    $this->see('4,000 × 6,000', 60);
    $this->see('turned upright');
    choose($this, 'Use these words');
    choose($this, 'Make the plan');
    $this->see('Far too many pixels', 60);
    $this->see('Low water');
    unlink($file);
});

it('has a way forward for what somebody else edited before undo', function (): void {
    $this->signIn('maintainer');
    $content = $this->content();
    $giveBack = $this->keepEntries('journal/from-the-hide-no-9', 'journal/from-the-hide-no-15');
    findAndOpen($this, 'maren oake', 'Maren Oake');
    choose($this, 'Swap this file');
    pick($this, 'isla ferrant', 'Isla Ferrant');
    choose($this, 'Make the plan');
    choose($this, 'Apply');
    $this->changeIs('applied');
    $content->exec(
        "update entries set body = body || ' A later word.' where slug in ('journal/from-the-hide-no-9', "
            ."'journal/from-the-hide-no-15')",
    );
    choose($this, 'Undo');
    choose($this, 'Undo it');
    $this->see('2 steps are not undone', 40);
    choose($this, 'Plan to put the rest back');
    $this->see('2 references in 2 records, no file.', 30);
    choose($this, 'Apply');
    $this->changeIs('applied');
    $giveBack();
});
