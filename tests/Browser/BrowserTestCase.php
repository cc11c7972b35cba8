<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Facebook\WebDriver\Exception\NoSuchElementException;
use Facebook\WebDriver\Exception\StaleElementReferenceException;
use Facebook\WebDriver\Remote\RemoteWebDriver;
use Facebook\WebDriver\Remote\RemoteWebElement;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverDimension;
use PDO;
use PHPUnit\Framework\TestCase;
use RuntimeException;

/** Drives the real interface in headless Chromium, on the servers that bin/test started. */
abstract class BrowserTestCase extends TestCase
{
    private const ASKED_A_SECOND = 7;

    protected static ?RemoteWebDriver $driver = null;

    private static ?Installation $installation = null;

    public static function setUpBeforeClass(): void
    {
        parent::setUpBeforeClass();
        self::$installation = Installation::in((string) getenv('YLEMA_VAR'));
    }

    public static function installation(): Installation
    {
        return self::$installation ?? throw new RuntimeException('Run the tests with bin/test.');
    }

    public static function setting(string $name): string
    {
        return self::installation()->setting($name);
    }

    public function driver(): RemoteWebDriver
    {
        if (self::$driver === null) {
            self::$driver = Chromium::start(self::installation()->driver(), ['--window-size=1280,900']);
            self::$driver->manage()->window()->setSize(new WebDriverDimension(1280, 900));
        }

        return self::$driver;
    }

    public static function tearDownAfterClass(): void
    {
        self::$driver?->quit();
        self::$driver = null;
        parent::tearDownAfterClass();
    }

    public function visit(string $path): void
    {
        $this->driver()->get(self::setting('APP_URL').$path);
    }

    /** As a browser that was never used: nobody signed in, nothing kept, nothing emulated. */
    public function signOutBrowser(): void
    {
        $this->await(function (): bool {
            // Elsewhere first, which ends what the page still asks for. An answer that was here already may bring its
            // session back all the same: then it is asked again.
            $this->driver()->get('about:blank');
            $this->tools()->execute('Network.clearBrowserCookies');
            $this->tools()->execute('Storage.clearDataForOrigin', [
                'origin' => self::setting('APP_URL'),
                'storageTypes' => 'local_storage,session_storage,indexeddb,cache_storage,service_workers',
            ]);
            $this->tools()->execute('Emulation.setEmulatedMedia', ['media' => '', 'features' => []]);
            $this->tools()->execute('Emulation.clearDeviceMetricsOverride', ['x' => 0]);
            $this->tools()->execute('Network.emulateNetworkConditions', [
                'offline' => false, 'latency' => 0, 'downloadThroughput' => -1, 'uploadThroughput' => -1,
            ]);
            $this->visit('/');
            $this->css('input[name=email], main#work');

            return $this->driver()->findElements(WebDriverBy::cssSelector('input[name=email]')) !== [];
        }, 'nobody can sign in', 5);
    }

    /** The browser's own tools, for what no visitor can do: a slow line, say. */
    public function tools(): ChromeDevToolsDriver
    {
        return new ChromeDevToolsDriver($this->driver());
    }

    public function signIn(string $role): void
    {
        $this->signOutBrowser();
        $this->css('input[name=email]')->sendKeys("$role@korrinbay.example");
        $this->css('input[name=password]')->sendKeys('tidewater-demo');
        $this->css('button[type=submit]')->click();
        $this->see('What needs you');
    }

    public function css(string $selector, int $seconds = 15): RemoteWebElement
    {
        return $this->await(
            fn (): ?RemoteWebElement => $this->driver()->findElements(WebDriverBy::cssSelector($selector))[0] ?? null,
            "no element fits $selector",
            $seconds,
        );
    }

    public function button(string $words): RemoteWebElement
    {
        return $this->await(
            fn (): ?RemoteWebElement => $this->driver()->findElements(
                WebDriverBy::xpath("//*[self::button or self::a][normalize-space(.)=\"$words\" and not(@disabled)]"),
            )[0] ?? null,
            "no button says \"$words\"",
        );
    }

    public function see(string $words, int $seconds = 20): void
    {
        $this->await(fn (): bool => str_contains($this->text(), $words), "the page does not say \"$words\"", $seconds);
        $this->addToAssertionCount(1);
    }

    public function text(): string
    {
        return $this->driver()->findElement(WebDriverBy::tagName('body'))->getText();
    }

    /**
     * @template T
     *
     * @param  callable(): T  $question asked until it answers something
     * @param  int  $seconds of asking where nothing else runs: it is asked as often on a busy machine, where each
     *       answer takes as much longer as what is waited for
     * @return T
     */
    public function await(callable $question, string $else, int $seconds = 15): mixed
    {
        for ($left = $seconds * self::ASKED_A_SECOND; $left > 0; $left--) {
            try {
                $answer = $question();
                if ($answer) {
                    return $answer;
                }
            } catch (StaleElementReferenceException|NoSuchElementException) {
                // The page drew itself anew between finding and asking, or is on its way to the next one.
            }
            usleep(120_000);
        }
        self::fail("However often it was asked, $else. The page says:\n".mb_substr($this->text(), 0, 1500));
    }

    public function content(): PDO
    {
        return new PDO(self::setting('CONTENT_DSN'), self::setting('CONTENT_USER'), self::setting('CONTENT_PASSWORD'), [
            PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION,
        ]);
    }

    /**
     * What these records hold now, to be given back when the test has done with them.
     *
     * @return callable(): void
     */
    public function keepEntries(string ...$slugs): callable
    {
        $content = $this->content();
        $bodies = $content
            ->query(
                'select slug, body from entries where slug in ('
                    .implode(', ', array_map($content->quote(...), $slugs))
                    .')',
            )
            ->fetchAll(PDO::FETCH_KEY_PAIR);
        self::assertCount(count($slugs), $bodies);

        return function () use ($content, $bodies): void {
            $statement = $content->prepare('update entries set body = ? where slug = ?');
            foreach ($bodies as $slug => $body) {
                $statement->execute([$body, $slug]);
            }
            $this->readAgain();
        };
    }

    /** Has the site read again, so that the next test finds on the map what the content holds. */
    public function readAgain(): void
    {
        $latest = fn (string $what): string => (string) self::installation()
            ->index()
            ->query("select $what from readings order by id desc limit 1")
            ->fetchColumn();
        $before = $latest('id');
        $this->visit('/korrin-bay/desk');
        $this->css('button[aria-label="Read again"]:not(:disabled)')->click();
        $this->await(
            fn (): bool => $latest('id') !== $before && $latest('state') === 'done',
            'the site was not read again',
            60,
        );
    }

    /** A page of the public site, as a visitor gets it. */
    public function publicPage(string $path): string
    {
        return (string) file_get_contents('http://127.0.0.1:'.self::setting('SITE_PORT').$path);
    }

    /** Has the page cache of the public site forget a page. */
    public function forget(string $path): void
    {
        file_get_contents(
            self::installation()->site().$path,
            context: stream_context_create(['http' => ['method' => 'PURGE', 'ignore_errors' => true]]),
        );
    }

    /** Chooses another item on the bench, by a word to look for and its title. */
    public function chooseItem(string $word, string $title): void
    {
        $this->css('input[placeholder="or choose another item"]')->sendKeys($word);
        $this->await(
            fn (): ?RemoteWebElement => $this->driver()->findElements(
                WebDriverBy::xpath(
                    "//*[@aria-label=\"Items found\"]/*[@role=\"option\"][contains(., \"$title\")]",
                ),
            )[0] ?? null,
            "no item \"$title\" was found",
        )->click();
    }

    public function applyPlan(): void
    {
        $this->button('Apply')->click();
        $this->changeIs('applied');
    }

    public function undoChange(): void
    {
        $this->button('Undo')->click();
        $this->button('Undo it')->click();
        $this->changeIs('undone');
    }

    public function changeIs(string $state): void
    {
        $this->await(
            fn (): bool => str_starts_with($this->css('[data-testid=change-state]')->getText(), $state),
            "the change is not $state",
            60,
        );
    }

    public function recordId(string $address): int
    {
        $index = self::installation()->index();

        return (int) $index->query('select id from records where address = '.$index->quote($address))->fetchColumn();
    }

    public function itemId(string $path): int
    {
        $statement = self::installation()->index()->prepare('select id from media_items where path = ?');
        $statement->execute([$path]);

        return (int) $statement->fetchColumn();
    }
}
