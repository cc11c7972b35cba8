<?php

declare(strict_types=1);

use Ylema\Connect\ColumnProfile;
use Ylema\Connect\ColumnType;
use Ylema\Connect\Hints;
use Ylema\Connect\TableProfile;
use Ylema\Connect\Titles;

/*
 * What a row is called, whatever the column with its title is.
 */

/** @param  array<string, list<string>>  $columns name → values */
function titleOf(array $columns): ?string
{
    return Titles::of(new TableProfile('rows', 3, array_combine(array_keys($columns), array_map(
        static fn (string $name, array $values): ColumnProfile => new ColumnProfile($name, ColumnType::Text, $values),
        array_keys($columns),
        $columns,
    ))));
}

it('knows it by a name, or by what titles look like', function (array $columns, ?string $title): void {
    expect(titleOf($columns))->toBe($title);
})->with([
    'by its name' => [['x' => ['The sea', 'The pier'], 'titulo' => ['a', 'b']], 'titulo'],
    'by its looks' => [
        ['slug' => ['the-sea', 'the-pier'], 'stand' => ['out', 'out'], 'rubrik' => ['The sea', 'The pier at night']],
        'rubrik',
    ],
    'not a text' => [['body' => ["The sea\nand more", '<p>The pier</p>']], null],
    'not files' => [['upload' => ['The sea.jpg', 'The pier.jpg']], null],
    'not addresses of people' => [['post' => ['anna@x.example', 'bo@x.example']], null],
    'not links' => [['to' => ['https://x.example/a', '/b/c']], null],
    'not one word for many' => [['stand' => ['Published now', 'Published now', 'Published now']], null],
    'not codes' => [['nr' => ['a-1', 'b-2']], null],
]);

it('knows what the names of tables begin with', function (array $tables, string $prefix): void {
    expect(Hints::prefix($tables))->toBe($prefix);
})->with([
    'a word' => [['ab_pages', 'ab_posts', 'ab_media'], 'ab_'],
    'a word in mixed letters' => [['hkPages', 'hkPosts', 'hkMedia'], 'hk_'],
    'a word of most' => [['ab_pages', 'ab_posts', 'ab_media', 'cache'], 'ab_'],
    'letters' => [['cmspages', 'cmsposts', 'cmsmedia', 'cmsuser', 'cache'], 'cms'],
    'letters that few share by chance' => [['contents', 'concerts', 'config', 'comments'], ''],
    'nothing' => [['pages', 'posts', 'media', 'events'], ''],
]);
