<?php

declare(strict_types=1);

use Ylema\Addresses\SiteAddresses;
use Ylema\Connect\FileLookup;
use Ylema\Connect\OwnAddresses;

/*
 * Addresses that only the site's own code understands, learned from texts by the files that there are.
 */

function ownAddresses(string ...$texts): OwnAddresses
{
    $files = new FileLookup([
        'uploads/2019/a.jpg', 'uploads/2019/b c.jpg', 'uploads/2020/d.jpg', 'uploads/2020/e.png', 'pics/f.jpg',
    ]);

    return new OwnAddresses($files, new SiteAddresses('https://x.example/', ['https://old.example/']), $texts);
}

it('learns schemes by what some folder holds', function (): void {
    $own = ownAddresses(
        'vault://2019/a.jpg', 'vault:/2019/b c.jpg', '<img src="vault://2020/d.jpg">', 'mailto:a@b.jpg',
        'note: 2019/a.jpg, note:x.jpg', 'http://elsewhere.example/2019/a.jpg',
    );
    expect($own->schemes())
        ->toBe(['vault' => 'uploads/'])
        ->and($own->pathOf('vault://2019/b c.jpg'))
        ->toBe('uploads/2019/b c.jpg')
        ->and($own->pathOf('/uploads/2019/a.jpg'))
        ->toBeNull();
});

it('takes no word with a colon for a scheme by chance', function (): void {
    expect(ownAddresses('note:a.jpg', 'other:nothing.jpg')->schemes())->toBe([]);
});

it('learns scripts that show a file', function (array $texts, array $scripts): void {
    expect(ownAddresses(...$texts)->scripts())->toBe($scripts);
})->with([
    'a path in a query' => [
        [
            '<img src="/thumb.php?src=2019/a.jpg&amp;w=300">',
            '<img src="/thumb.php?w=3&src=2020/d.jpg"> <img src="https://x.example/thumb.php?src=2020%2Fe.png">',
        ],
        ['thumb.php?src={path}' => 'uploads/'],
    ],
    'a whole path in a query' => [
        array_map(
            static fn (string $path): string => "<img src='/i?u=/$path'>",
            ['uploads/2019/a.jpg', 'pics/f.jpg', 'uploads/2020/d.jpg'],
        ),
        ['i?u={path}' => ''],
    ],
    'a size before the path' => [
        ['<img src="/cache/300x200/uploads/2019/a.jpg">', '/cache/90x0/uploads/2020/d.jpg /cache/w50/pics/f.jpg'],
        ['cache/*/{path}' => ''],
    ],
    'a path that moved, by its year' => [
        ['/old/2019/a.jpg /old/2020/d.jpg /old/2020/e.png'],
        [],
    ],
    'another host' => [
        ['https://cdn.example/t.php?src=2019/a.jpg https://cdn.example/t.php?src=2020/d.jpg '
            .'https://cdn.example/t.php?src=2020/e.png'],
        [],
    ],
    'what is not there' => [['/t.php?src=x.jpg /t.php?src=y.jpg /t.php?src=z.jpg'], []],
]);
