<?php

declare(strict_types=1);

use Tests\Core\Connect\MadeSamples;
use Ylema\Connect\AddressTrial;
use Ylema\Connect\ColumnProfile;
use Ylema\Connect\ColumnType;
use Ylema\Connect\Pages;
use Ylema\Connect\PageWay;
use Ylema\Connect\TableProfile;

/*
 * At which address the rows of a table are met, by what the public site shows.
 */

/**
 * @param  list<array<string, string>>  $rows
 * @param  array<string, string>  $site address → what is shown there
 * @param  list<string>  $known
 */
function wayOf(array $rows, array $site, array $known = []): ?PageWay
{
    $columns = [];
    foreach (array_keys($rows[0]) as $name) {
        $type = $name === 'id' ? ColumnType::Number : ColumnType::Text;
        $columns[$name] = new ColumnProfile($name, $type, array_column($rows, $name));
    }
    $table = new TableProfile('pages', count($rows), $columns, [['id']]);
    $trial = new class($site) implements AddressTrial
    {
        public function __construct(private readonly array $site)
        {
        }

        public function shows(string $address, string $title): bool
        {
            return str_contains($this->site[$address] ?? '', $title);
        }

        public function known(): array
        {
            return [];
        }
    };

    return (new Pages(['pages' => $table], [], '', new MadeSamples($rows), $trial, $known))->of($table);
}

$rows = [
    ['id' => '1', 'slug' => 'home', 'title' => 'Welcome'],
    ['id' => '2', 'slug' => 'about', 'title' => 'About the bay'],
    ['id' => '3', 'slug' => 'visit', 'title' => 'Visit us'],
    ['id' => '4', 'slug' => 'boats', 'title' => 'Our boats'],
];

it('knows the row that the site shows at its root', function (array $site, array $spell) use ($rows): void {
    $way = wayOf($rows, ['about' => 'About the bay', 'visit' => 'Visit us', 'boats' => 'Our boats', ...$site]);
    expect($way?->address)->toBe('{slug}')->and($way?->spell)->toBe($spell);
})->with([
    'shown there' => [['' => 'Welcome'], ['slug' => ['home' => '']]],
    'another thing is' => [['' => 'News', 'home' => 'Welcome'], []],
]);

it('takes no address that shows every title, as where they stand in a menu', function () use ($rows): void {
    $menu = 'Welcome About the bay Visit us Our boats';
    $site = array_fill_keys(['about', 'visit', 'boats', 'home', 'none-of-these', ''], $menu);
    expect(wayOf($rows, [...$site, 'page/about' => 'About the bay', 'page/visit' => 'Visit us',
        'page/boats' => 'Our boats', 'page/home' => 'Welcome'])?->address)->toBe('page/{slug}');
});

it('takes names with their ending in the column, where links have it', function (): void {
    $files = [
        ['id' => '1', 'file' => 'about.php', 'title' => 'About'],
        ['id' => '2', 'file' => 'fair.php', 'title' => 'Fair'],
        ['id' => '3', 'file' => 'ovens.php', 'title' => 'Ovens'],
    ];
    $site = ['about.php' => 'About', 'fair.php' => 'Fair', 'ovens.php' => 'Ovens'];
    expect(wayOf($files, $site, array_keys($site))?->address)->toBe('{file}');
});
