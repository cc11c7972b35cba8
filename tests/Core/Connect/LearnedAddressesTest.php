<?php

declare(strict_types=1);

use Ylema\Addresses\SiteAddresses;
use Ylema\Connect\AddressFilling;
use Ylema\Connect\LearnedAddresses;
use Ylema\Connect\Links;

/*
 * How the addresses of rows are learned from addresses that a site links to, and made again from what was learned.
 */

const ROWS = [
    ['id' => '1', 'up' => null, 'slug' => 'about', 'part' => 'guide', 'day' => '2019-03-05 10:00:00', 'lang' => 'en'],
    ['id' => '2', 'up' => '1', 'slug' => 'team', 'part' => 'guide', 'day' => '2020-11-30', 'lang' => 'en'],
    ['id' => '3', 'up' => '2', 'slug' => 'maren', 'part' => 'news', 'day' => '2021-01-09', 'lang' => 'cy'],
];

/** @param  list<string>  $known */
function learned(array $known, ?string $slug = 'slug', ?string $parent = null): array
{
    return (new LearnedAddresses($known, $slug, 'id', ['part', 'lang'], ['day'], $parent))->of(ROWS);
}

it('learns what stands before a name', function (array $known, string $way): void {
    $learned = learned($known);
    expect(array_key_first($learned))
        ->toBe($way)
        ->and($learned[$way])
        ->toBe(count($known));
    $filling = new AddressFilling(ROWS, 'id', null, null);
    $made = array_map(static fn (array $row): ?string => $filling->of($way, $row, null), ROWS);
    expect(array_diff($known, $made))->toBe([]);
})->with([
    'always the same' => [['guild/about', 'guild/team', 'guild/maren'], 'guild/{slug}'],
    'a column' => [['guide/about.html', 'guide/team.html', 'news/maren.html'], '{part}/{slug}.html'],
    'a date' => [['2019/03/about/', '2020/11/team/', '2021/01/maren/'], '{day.year}/{day.month}/{slug}/'],
    'a language and a section' => [['en/guide/team', 'cy/news/maren'], '{lang}/{part}/{slug}'],
    'a number and a name' => [['news/1-about', 'news/2-team', 'news/3-maren'], 'news/{id}-{slug}'],
    'a name and a number' => [['about_1.php', 'team_2.php'], '{slug}_{id}.php'],
    'a number' => [['item/1', 'item/3'], 'item/{id}'],
    'a number in the query' => [['index.php?p=shop&id=1', 'index.php?p=shop&id=2'], 'index.php?p=shop&id={id}'],
]);

it('learns that pages stand below others', function (array $known, string $way): void {
    $learned = learned($known, parent: 'up');
    expect(array_key_first($learned))->toBe($way)->and($learned[$way])->toBe(3);
    $filling = new AddressFilling(ROWS, 'id', 'up', null);
    expect(array_map(static fn (array $row): ?string => $filling->of($way, $row, null), ROWS))->toBe($known);
})->with([
    'from the root' => [['about', 'about/team', 'about/team/maren'], '{up.address}/{slug}'],
    'below a word' => [['en/about', 'en/about/team', 'en/about/team/maren'], '{up.address|en}/{slug}'],
]);

it('does not take a page for one below another that stands elsewhere', function (): void {
    expect(array_key_first(learned(['about', 'team', 'maren'], parent: 'up')))->toBe('{slug}');
});

it('learns nothing where nothing is known, and makes no address of what is missing', function (): void {
    $filling = new AddressFilling(ROWS, 'id', 'up', 'lang');
    expect(learned([]))
        ->toBe([])
        ->and(learned(['elsewhere/entirely']))
        ->toBe([])
        ->and($filling->of('{nothing}/{slug}', ROWS[0], null))
        ->toBeNull()
        ->and($filling->of('{up.address}/{slug}', ['up' => '77', 'slug' => 'x'], null))
        ->toBeNull()
        ->and($filling->of('{lang}/{slug}', ROWS[0], 'en'))
        ->toBe('about');
});

it('does not go round in circles', function (): void {
    $rows = [['id' => '1', 'up' => '2', 'slug' => 'a'], ['id' => '2', 'up' => '1', 'slug' => 'b']];
    expect((new AddressFilling($rows, 'id', 'up', null))->of('{up.address}/{slug}', $rows[0], null))->toBeNull();
});

it('finds the pages that texts link to, and no files of media', function (): void {
    $links = new Links(new SiteAddresses('https://site.example/', ['https://old.example/']));
    $texts = [
        '<a href="/about/team?x=1#top">x</a> <A HREF=/plain>y</A> <a href="/media/a.jpg">z</a>',
        '{"html":"<a href=\"\/in-json\">x<\/a>"}',
        'Words [there](/markdown) and [elsewhere](https://other.example/page)',
        'https://old.example/before',
        '/bare/address',
        'no address at all',
        '<a href="mailto:a@site.example">mail</a><a href="#here">here</a>',
    ];
    expect($links->in($texts))
        ->toBe(['about/team?x=1', 'plain', 'in-json', 'markdown', 'before', 'bare/address']);
});
