<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverBy;

it('goes the whole way: idle, proof sheet, rest, called back by the log, restored as it was', function (): void {
    $var = (string) getenv('YLEMA_VAR');
    $file = "$var/site/media/archive/left-09.jpg";
    $state = static function () use ($file): array {
        clearstatcache();

        return is_file($file) ? [hash_file('sha256', $file), fileperms($file), filemtime($file)] : [];
    };
    $row = fn (): array => $this->content()
        ->query("select * from media where path = 'media/archive/left-09.jpg'")
        ->fetchAll(PDO::FETCH_ASSOC);
    [$before, $rowBefore] = [$state(), $row()];
    $applied = function (): void {
        $this->applyPlan();
        $this->css('[data-testid=verification]', 60);
    };

    $this->signIn('maintainer');
    $this->visit('/korrin-bay/resting');
    $this->see('Code on disk 5 files read');
    $survey = $this->driver()->findElements(WebDriverBy::xpath('//button[contains(., "Survey now")]'));
    if ($survey !== []) {
        $survey[0]->click();
    }
    $this->await(
        fn (): bool => str_contains($this->text(), 'all pages'),
        'the site was not surveyed',
        120,
    );
    $item = $this->itemId('media/archive/left-09.jpg');
    $this->visit("/korrin-bay/media/$item");
    $this->see('Nothing refers to this item.');
    $this->see('safe to rest');
    $this->see('None of 5 files of the site’s code names it.');
    $this->button('Lay to rest')->click();
    $this->see('1 item, 4 files', 40);
    $this->see('"not found"');
    expect($state())->toBe($before);
    $applied();
    expect($state())->toBe([])->and($row())->toBe([]);

    // Whoever asks for it gets nothing, and the log says so.
    $answer = get_headers($this->installation()->site().'/media/archive/left-09.jpg');
    expect($answer[0] ?? '')->toContain('404');
    file_put_contents(
        "$var/logs/access.log",
        '192.0.2.77 - - ['.gmdate('d/M/Y:H:i:s', time() + 2)
            .' +0000] "GET /media/archive/left-09.jpg HTTP/1.1" 404 153 '
            .'"https://tidewatchers.example/links/old.html" "Mozilla/5.0 (X11; Linux x86_64)"'."\n",
        FILE_APPEND,
    );
    $this->visit('/korrin-bay/resting/logs');
    $this->button('Read the watched folder now')->click();
    $this->see('1 request for files of the site');

    $this->visit('/korrin-bay/desk');
    $this->see('called back');
    $this->visit('/korrin-bay/resting');
    $this->see('sent by https://tidewatchers.example/links/old.html');
    $this->css('button[aria-label="Restore Left over 9"]')->click();
    $this->see('left-09.jpg comes back', 40);
    $applied();
    expect($state())->toBe($before)->and($row())->toBe($rowBefore);
});

it('shows a viewer what rests and what may, and nothing to press', function (): void {
    $this->signIn('viewer');
    $this->visit('/korrin-bay/resting');
    $this->see('Gone to archive');
    expect($this->driver()->findElements(WebDriverBy::xpath('//button[contains(., "to rest")]')))->toBe([]);
    foreach (['renditions' => '480 wide', 'weight' => 'Heaviest pages', 'copies' => 'look-alikes'] as $page => $says) {
        $this->visit("/korrin-bay/resting/$page");
        $this->see($says);
        expect($this->driver()->findElements(WebDriverBy::xpath('//main//button[contains(., "Rest ")]')))->toBe([]);
    }
});
