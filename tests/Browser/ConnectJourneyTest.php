<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverSelect;
use Standin\Mill\Mill;
use Tests\App\Loopback;

it(
    'connects a site that nobody described: said, tried, proposed, answered, read, swapped, verified, undone',
    function (): void {
        $folder = getenv('YLEMA_VAR').'/mill';
        $dsn = str_replace('dbname=sources', 'dbname=mill', (string) getenv('MARIA_DSN'));
        $content = new PDO("$dsn;charset=utf8mb4", 'sources', (string) getenv('MARIA_PASSWORD'));
        $mill = new Mill();
        $mill->write($content);
        $mill->draw($folder);
        $server = new Loopback(dirname(__DIR__, 2).'/standin/public/mill.php', [
            'MILL_DSN' => $dsn,
            'MILL_USER' => 'sources',
            'MILL_PASSWORD' => (string) getenv('MARIA_PASSWORD'),
            'MILL_FOLDER' => $folder,
        ]);
        $sum = static fn (): string => (string) $content
            ->query("select md5(group_concat(md5(concat(coalesce(teaser, ''), body)) order by id)) from hm_node_text")
            ->fetchColumn();
        $before = $sum();
        $say = function (string $name, string $words): void {
            $input = $this->css("input[name=$name]");
            $input->clear();
            $input->sendKeys($words);
        };
        preg_match('~port=(\d+)~', $dsn, $port);
        try {
            $this->signIn('owner');
            $this->visit('/sites');
            $this->see('Korrin Bay Tidewater Observatory');
            $this->driver()->findElement(WebDriverBy::xpath('//a[contains(., "Connect a site")]'))->click();
            foreach (
                [
                    'name' => 'Hollin Mill',
                    'address' => 'https://hollinmill.example/',
                    'reach_at' => $server->origin(),
                    'port' => $port[1],
                    'database' => 'mill',
                    'user' => 'sources',
                    'password' => 'not this one',
                    'files' => $folder,
                ] as $name => $words
            ) {
                $say($name, $words);
            }
            $this->button('Try the connection')->click();
            $this->see('Check user, password and database name');
            $say('password', (string) getenv('MARIA_PASSWORD'));
            $this->button('Try again as said here')->click();
            $this->see('It lets "sources" in.');
            $this->button('Propose how to read it')->click();
            $this->see('kinds of record will be read', 60);
            $this->see('12 of 12 sampled values hold markup, 12 with files that exist');
            $this->see('{lang}/{node.section}/{slug}');
            expect(axeFaults($this))->toBe([]);

            // What is asked is answered, and proposed anew.
            $question = $this->driver()->findElement(
                WebDriverBy::xpath('//label[contains(., "stands in hm_menu")]//select'),
            );
            (new WebDriverSelect($question))->selectByValue('nowhere');
            $this->button('Propose again with these answers')->click();
            $this->await(
                fn (): bool => (string) $this->installation()
                    ->index()
                    ->query('select answers from drafts')
                    ->fetchColumn() === '{"hm_menu.where": "nowhere"}'
                    && (string) $this->installation()->index()->query('select state from drafts')->fetchColumn() ===
                        'proposed',
                'the answer did not reach the proposal',
                60,
            );
            $this->await(
                fn (): bool => $this->button('Connect it and read it for the first time')->isEnabled(),
                'the site cannot be connected',
                30,
            );
            $this->button('Connect it and read it for the first time')->click();
            $this->see('The site in numbers', 30);
            $this->see('Hollin Mill');
            $this->await(
                fn (): bool => $this->installation()
                    ->index()
                    ->query("select read_at is not null from sites where slug = 'hollin-mill'")
                    ->fetchColumn() === true,
                'the site was not read',
                60,
            );

            // Only read, until its owner switches writing on.
            $this->visit('/hollin-mill/desk');
            $this->await(
                fn () => $this->driver()->findElements(
                    WebDriverBy::xpath('//header//button[contains(., "hollinmill.example")]'),
                )[0] ?? null,
                'there is no menu of the site',
            )->click();
            $this->await(
                fn () => $this->driver()->findElements(
                    WebDriverBy::xpath('//label[contains(., "Let plans be carried out")]//input[not(@checked)]'),
                )[0] ?? null,
                'there is no switch',
            )->click();
            $this->await(
                fn (): bool => $this->installation()
                    ->index()
                    ->query("select writes from sites where slug = 'hollin-mill'")
                    ->fetchColumn() === true,
                'writing was not switched on',
            );

            $item = (int) $this->installation()
                ->index()
                ->query(
                    'select i.id from media_items i join sites s on s.id = i.site_id '
                        ."where s.slug = 'hollin-mill' and i.path = 'files/2014/2014-8.jpg'",
                )
                ->fetchColumn();
            $this->visit("/hollin-mill/media/$item");
            $this->see('public pages');
            $this->button('Swap this file')->click();
            $this->chooseItem('portrait-6', 'Plate 50');
            $this->button('Make the plan')->click();
            $this->see('Nothing of this is written yet.', 30);
            expect($sum())->toBe($before);
            $this->applyPlan();
            $this->css('[data-testid=verification]', 60);
            expect($sum())
                ->not->toBe($before)
                ->and((string) file_get_contents($server->origin().'/visit/day-1'))
                ->toContain('people/portrait-6.jpg')
                ->not->toContain('2014-8.jpg');
            $this->undoChange();
            expect($sum())->toBe($before);
        } finally {
            $server->end();
            $this->installation()->index()->exec("delete from sites where slug = 'hollin-mill'");
            $this->installation()->index()->exec('delete from drafts');
        }
    },
);

it('shows a viewer the sites, and nothing to connect', function (): void {
    $this->signIn('viewer');
    $this->visit('/sites');
    $this->see('Korrin Bay Tidewater Observatory');
    expect($this->text())->not->toContain('Connect a site');
    expect(axeFaults($this))->toBe([]);
    $this->visit('/sites/connect');
    $this->see('An owner connects sites');
});
