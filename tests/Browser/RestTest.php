<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;

/** Processor seconds of the page's own process so far (Chrome DevTools Protocol, Performance.getMetrics). */
function pageSeconds(object $test): float
{
    $metrics = $test->tools()->execute('Performance.getMetrics')['metrics'];

    return array_column($metrics, 'value', 'name')['TaskDuration'];
}

it('takes no processor time with any view once it is loaded', function (): void {
    $this->signIn('maintainer');
    // In processor time: by the clock, a page is at work as long as something else has the processor.
    $this->tools()->execute('Performance.enable', ['timeDomain' => 'threadTicks']);
    $id = $this->itemId('media/people/maren-oake.jpg');
    $item = "media/$id";
    $views = ['desk', 'media', 'media?as=sheet', $item, "$item/swap", 'places', 'repairs', 'resting', 'changes'];
    foreach ($views as $view) {
        $this->visit("/korrin-bay/$view");
        $this->css('#work');
        $this->await(
            fn (): bool => $this->driver()->findElements(WebDriverBy::cssSelector('[aria-label=Loading]')) === [],
            "$view goes on loading",
        );
        // Pictures in view come once; what comes after that is rest.
        $this->await(
            fn (): bool => $this->driver()->executeScript(
                'return [...document.images].every((p) => p.complete || p.getBoundingClientRect().top > innerHeight)',
            ),
            "$view waits for pictures",
            60,
        );
        // An answer may still be on its way when the pictures are there; a page that never rests fails each time.
        $share = 1.0;
        for ($try = 0; $try < 4 && $share >= 0.03; $try++) {
            $before = pageSeconds($this);
            sleep(3);
            $share = (pageSeconds($this) - $before) / 3;
        }
        expect($share)->toBeLessThan(0.03, $view);
    }
});

it('answers keys in the ledger at once', function (): void {
    $this->signIn('maintainer');
    $this->visit('/korrin-bay/media');
    $this->see('Tab icon');
    $this->tools()->execute('Performance.enable', ['timeDomain' => 'threadTicks']);
    $before = pageSeconds($this);
    $this->driver()->findElement(WebDriverBy::tagName('body'))->sendKeys('/');
    $this->driver()->switchTo()->activeElement()->sendKeys('tide table')->sendKeys(WebDriverKeys::ARROW_DOWN);
    expect(pageSeconds($this) - $before)->toBeLessThan(2.0);
});

it('opens a plan of 10,000 steps at once, and shows it page by page', function (): void {
    $index = self::installation()->index();
    $site = (int) $index->query("select id from sites where slug = 'korrin-bay'")->fetchColumn();
    $plan = (int) $index
        ->query(
            'insert into plans (site_id, kind, state, title, sentence, request, counts, made, created_at, '
                ."updated_at) values ($site, 'swap', 'dropped', 'A very large plan', '10,000 references.', '{}', "
                ."'{\"left-out\": 1, \"proposed\": 9999, \"pages\": 0}', 10000, now(), now()) returning id",
        )
        ->fetchColumn();
    $index->exec(
        <<<SQL
        insert into plan_steps (plan_id, position, kind, title, record_kind, record_key, detail, state, message)
        select $plan, n, 'edit-record', 'Page ' || n, 'post', n::text,
            jsonb_build_object('record', 'post', 'key', n::text, 'title', 'Page ' || n, 'before', 'x', 'after', 'y',
                'fields', jsonb_build_object('body', jsonb_build_array(jsonb_build_array(10, '/media/a.jpg',
                    '/media/b.jpg', 'img[src]', 1, '<img src="', '">'))), 'promises', '[]'::jsonb),
            case when n = 7777 then 'left-out' else 'proposed' end, case when n = 7777 then 'Somebody was there.' end
        from generate_series(0, 9999) as n
        SQL
        ,
    );
    try {
        $this->signIn('viewer');
        $this->tools()->execute('Performance.enable', ['timeDomain' => 'threadTicks']);
        $this->visit("/korrin-bay/plans/$plan");
        $this->see('10,000 steps');
        expect(pageSeconds($this))
            ->toBeLessThan(3.0)
            ->and($this->text())
            ->toContain('Somebody was there.')
            ->and($this->text())
            ->toContain('Show more (50 of 10,000)');
        expect((int) $this->driver()->executeScript('return document.querySelectorAll("*").length'))->toBeLessThan(
            3000,
        );
        $this->button('Show more (50 of 10,000)')->click();
        $this->see('Show more (100 of 10,000)');
    } finally {
        $index->exec("delete from plans where id = $plan");
    }
});

it('swaps a document, sees it on the public page, and undoes it', function (): void {
    $this->signIn('maintainer');
    $file = sys_get_temp_dir().'/tide-table-2026.pdf';
    file_put_contents($file, Standin\Drawing\Papers::pdf('Tide table 2026', 4));
    expect($this->publicPage('/tides/tables'))->toContain('tide-table-2024.pdf');
    $this->visit('/korrin-bay/media/'.$this->itemId('media/documents/tide-table-2024.pdf'));
    $this->see('1 reference');
    $this->button('Swap this file')->click();
    $this->css('input[type=file]')->sendKeys($file);
    $this->see('tide-table-2026.pdf');
    $this->button('Make the plan')->click();
    $this->see('1 reference in 1 record, 1 new file.', 30);
    $this->button('Apply')->click();
    $isSeen = fn (): bool => str_contains($this->text(), 'Asked for 1 file: 1 serves');
    $this->await($isSeen, 'the file was not looked at', 40);
    $this->driver()->findElements(WebDriverBy::xpath('//button[contains(.,"Purge")]'))[0]?->click();
    $this->await(
        fn (): bool => str_contains($this->publicPage('/tides/tables'), 'tide-table-2026.pdf'),
        'the public page does not lead to the new document',
        30,
    );
    expect(
        substr((string) file_get_contents(self::installation()->site().'/media/documents/tide-table-2026.pdf'), 0, 5),
    )->toBe('%PDF-');
    $this->undoChange();
    expect(get_headers(self::installation()->site().'/media/documents/tide-table-2026.pdf')[0])->toContain('404');
    unlink($file);
});
