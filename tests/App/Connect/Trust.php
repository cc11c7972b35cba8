<?php

declare(strict_types=1);

namespace Tests\App\Connect;

/**
 * A trust of lighthouses on PostgreSQL: names in mixed letters, words of all languages in one value of json, files that
 * are called by their hash and met at an address with their number, views, lists of paths, classes for
 * kinds, events with days of their own, trees of blocks.
 */
final class Trust extends ForeignSite
{
    private const TABLES = <<<'SQL'
    create type "PageState" as enum ('draft', 'public', 'withdrawn');
    create table "MediaFile" ("id" int primary key, "sha" char(40) not null, "fileName" text not null, "mime" text,
        "meta" jsonb not null default '{}', "createdAt" timestamptz not null default now());
    create table "Page" ("id" int primary key, "path" text not null unique, "title" jsonb not null,
        "tree" jsonb not null, "heroId" int references "MediaFile", "state" "PageState" not null,
        "updatedAt" timestamptz);
    create table "Story" ("id" int primary key, "slug" jsonb not null, "title" jsonb not null,
        "bodyMd" text not null, "pictures" text[], "publishedAt" timestamptz, "deletedAt" timestamptz);
    create table "Event" ("id" int primary key, "slug" text not null unique, "name" text not null, "poster" text,
        "startsAt" timestamptz not null, "endsAt" timestamptz not null, "words" text);
    create table "Tag" ("id" int primary key, "label" text, "badgeFileId" int);
    create table "_PageToTag" ("A" int not null, "B" int not null, primary key ("A", "B"));
    create table "Note" ("id" int primary key, "subjectType" text not null, "subjectId" int not null, "html" text);
    create table "Advert" ("id" int primary key, "label" text, "imageFileId" int, "href" text, "isOn" boolean);
    create table "Zone" ("name" text primary key, "config" jsonb not null);
    create table "SiteConfig" ("id" int primary key, "data" jsonb not null);
    create table "Person" ("id" int primary key, "fullName" text, "photo" jsonb, "pageId" int references "Page");
    create table "PageHistory" ("id" int primary key, "pageId" int not null, "tree" jsonb, "at" timestamptz);
    create table "LinkForward" ("id" int primary key, "fromPath" text, "toPath" text, "httpCode" int);
    create table "DownloadCount" ("id" int primary key, "file" text, "times" int);
    create view "PublicMedia" as select "id", "fileName", "mime" from "MediaFile";
    SQL;

    /** @var array<int, string> */
    private array $paths = [];

    private function at(int $n, string $size = ''): string
    {
        return "/files/$n/".($size === '' ? '' : "$size/")."light-$n.jpg";
    }

    protected function write(): void
    {
        $this->pdo->exec('drop schema if exists cms cascade; drop schema public cascade; create schema public');
        $this->pdo->exec(self::TABLES);
        foreach (range(1, 70) as $n) {
            $sha = sha1("bytes $n");
            $this->paths[$n] = $this->file('blobs/'.substr($sha, 0, 2)."/$sha");
            $meta = (string) json_encode(['alt' => ['en' => "Light $n", 'cy' => "Golau $n"], 'w' => 800]);
            $this->add('"MediaFile"', [$n, $sha, "light-$n.jpg", 'image/jpeg', $meta, '2019-01-01']);
        }
        foreach (range(1, 25) as $n) {
            $this->page($n);
        }
        foreach (range(1, 20) as $n) {
            $this->story($n);
        }
        foreach (range(1, 8) as $n) {
            $this->event($n);
        }
        $this->carriers();
        $this->add('"LinkForward"', [1, '/old/lamp', '/lights/place-1', 301]);
        $this->idle = [$this->paths[69], $this->paths[70]];
    }

    private function page(int $n): void
    {
        [$a, $b, $c] = [1 + $n % 25, 1 + ($n * 7) % 25, 1 + ($n * 11) % 25];
        $tree = ['type' => 'doc', 'children' => [
            ['type' => 'heading', 'text' => "Place $n"],
            ['type' => 'picture', 'attrs' => ['fileId' => $a, 'width' => 400]],
            ['type' => 'columns', 'children' => [
                ['type' => 'html', 'html' => '<p><img src="'.$this->at($b, '400x300').'" alt=""> '
                    .'<a href="/lights/place-'.(1 + $n % 25).'">x</a></p>'],
                ['type' => 'gallery', 'attrs' => ['fileIds' => [$b, $c, 26 + $n % 4]]],
            ]],
        ]];
        $path = $n <= 5 ? "lights/place-$n" : 'lights/place-'.(1 + $n % 5)."/place-$n";
        $hero = $n % 2 === 0 ? null : $c;
        $this->add('"Page"', [
            $n,
            $path,
            (string) json_encode(['en' => "Place $n", 'cy' => "Lle $n"]),
            (string) json_encode($tree),
            $hero,
            $n % 9 === 0 ? 'draft' : ($n === 11 ? 'withdrawn' : 'public'),
            '2021-01-01',
        ]);
        $this->uses('Page', $n, 'tree', ...array_map(
            fn (int $i): string => $this->paths[$i],
            [$a, $b, $b, $c, 26 + $n % 4],
        ));
        $this->uses('Page', $n, 'heroId', ...$hero === null ? [] : [$this->paths[$hero]]);
        if ($n % 4 === 0) {
            $old = ['type' => 'doc', 'children' => [['type' => 'picture', 'attrs' => ['fileId' => 30 + $n % 3]]]];
            $this->add('"PageHistory"', [$n, $n, (string) json_encode($old), '2018-01-01']);
            $this->uses('PageHistory', $n, 'tree', $this->paths[30 + $n % 3]);
        }
    }

    private function story(int $n): void
    {
        [$a, $b] = [33 + $n % 6, 39 + $n % 4];
        $body = 'Words ![lamp]('.$this->at($a).")\n\nSee [place](/lights/place-1) and [sheet](/files/$b/light-$b.jpg), "
            .'[more](/stories/story-'.(1 + $n % 20).'), [mwy](/cy/straeon/stori-'.(1 + $n % 20).').';
        $own = [
            $this->file("static/stories/$n-a.jpg"), $this->file("static/stories/$n-b.jpg"),
        ];
        $pictures = $n % 3 === 0 ? '{'.implode(',', array_map(static fn (string $p): string => "/$p", $own)).'}' : null;
        $this->add('"Story"', [
            $n,
            (string) json_encode(['en' => "story-$n", 'cy' => "stori-$n"]),
            (string) json_encode(['en' => "Story $n", 'cy' => "Stori $n"]),
            $body,
            $pictures,
            $n % 7 === 0 ? null : '2019-05-01',
            $n === 13 ? '2022-01-01' : null,
        ]);
        $this->uses('Story', $n, 'bodyMd', $this->paths[$a], $this->paths[$b]);
        $this->uses('Story', $n, 'pictures', ...$pictures === null ? [] : $own);
    }

    private function event(int $n): void
    {
        $poster = $this->file("static/posters/event-$n.png");
        $words = 'Come! <img src="'.$this->at(43 + $n % 4).'"> <a href="/events/evening-'.(1 + $n % 8).'">next</a>';
        $this->add('"Event"', [
            $n, "evening-$n", "Evening $n", "posters/event-$n.png", "2020-0$n-01 19:00", "2020-0$n-01 22:00", $words,
        ]);
        $this->uses('Event', $n, 'poster', $poster);
        $this->uses('Event', $n, 'words', $this->paths[43 + $n % 4]);
        $note = '<p>Note <img src="'.$this->at(47 + $n % 3).'"></p>';
        $this->add('"Note"', [
            $n, $n % 2 === 0 ? 'App\\Models\\Page' : 'App\\Models\\Event', $n, $note,
        ]);
        $this->uses('Note', $n, 'html', $this->paths[47 + $n % 3]);
        $this->add('"DownloadCount"', [$n, $this->at($n), 3]);
    }

    private function carriers(): void
    {
        foreach (range(1, 5) as $n) {
            $this->add('"Tag"', [$n, "Tag $n", 49 + $n]);
            $this->uses('Tag', $n, 'badgeFileId', $this->paths[49 + $n]);
            $this->add('"_PageToTag"', [$n, $n]);
            $this->add('"Advert"', [$n, "Advert $n", 54 + $n, 'https://shop.example/', $n === 5 ? 'f' : 't']);
            $this->uses('Advert', $n, 'imageFileId', $this->paths[54 + $n]);
            $this->add('"Person"', [
                $n, "Keeper $n", (string) json_encode(['id' => 59 + $n, 'crop' => [0, 0, 1, 1]]), $n,
            ]);
            $this->uses('Person', $n, 'photo', $this->paths[59 + $n]);
        }
        foreach (['top' => [1, 2], 'side' => [3, 4, 5]] as $name => $adverts) {
            $this->add('"Zone"', [$name, (string) json_encode(['adverts' => $adverts, 'every' => 10])]);
        }
        $config = ['logo' => 65, 'icons' => ['fav' => $this->at(66)], 'footer' => ['html' => '<img src="'
            .$this->at(67, '200x0').'">'], 'colour' => '#fff', 'perPage' => 20, 'shareImage' => ['id' => 68]];
        $this->add('"SiteConfig"', [1, (string) json_encode($config)]);
        $this->uses('SiteConfig', 1, 'data', ...array_map(fn (int $n): string => $this->paths[$n], range(65, 68)));
    }
}
