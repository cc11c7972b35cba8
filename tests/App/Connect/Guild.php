<?php

declare(strict_types=1);

namespace Tests\App\Connect;

/**
 * A guild of workshops on PostgreSQL: a schema of its own, paths in three columns, arrays of ids, blocks in json, names
 * and values under a key of two columns, elements of its own, pages below a folder that no column names.
 */
final class Guild extends ForeignSite
{
    private const TABLES = <<<'SQL'
    create table cms.asset (asset_id uuid primary key, disk text not null default 'public', directory text not null,
        basename text not null, extension text not null, meta jsonb not null default '{}', uploaded_at timestamptz);
    create table cms.asset_crop (id serial primary key, asset_id uuid not null references cms.asset, file text);
    create table cms.document (id int primary key, parent_id int, slug text not null, title text not null,
        blocks jsonb not null, lead_asset uuid references cms.asset, gallery uuid[], status smallint not null,
        published_on timestamptz, deleted_at timestamptz);
    create table cms.document_attr (document_id int not null references cms.document, attr text not null,
        content text, primary key (document_id, attr));
    create table cms.workshop (code text primary key, name text not null, description text, photo_files text,
        is_active boolean not null);
    create table cms.document_workshop (document_id int references cms.document, workshop_code text references
        cms.workshop, ord int, primary key (document_id, workshop_code));
    create table cms.advert (id int primary key, title text, creative uuid references cms.asset, markup text,
        zone_code text, runs_from date, runs_to date);
    create table cms.zone (code text primary key, title text);
    create table cms.zone_document (zone_code text, document_id int, primary key (zone_code, document_id));
    create table cms.nav (id int primary key, label text, href text, icon uuid);
    create table cms.prefs (name text primary key, val text);
    create table cms.remark (id int primary key, document_id int, words_md text, approved boolean);
    create table cms.download (id int primary key, document_id int, file_name text, label text);
    create table cms.forward (id int primary key, src text, dst text, kind int);
    create table cms.document_version (id int primary key, document_id int, made_at timestamptz, snapshot jsonb);
    create table cms.newsletter (id int primary key, subject text, mail xml);
    create table cms.hits (id int primary key, url text);
    SQL;

    private const ROOT = 'storage/public';

    /** @var array<int, string> */
    private array $ids = [];

    /** @var array<int, string> */
    private array $paths = [];

    /** @var array<int, string> */
    private array $crops = [];

    protected function write(): void
    {
        $this->pdo->exec('drop schema if exists cms cascade; create schema cms; '.self::TABLES);
        $this->media();
        foreach (range(1, 40) as $n) {
            $this->document($n);
        }
        foreach (range(1, 12) as $n) {
            $this->workshop($n);
        }
        foreach (['north', 'south'] as $zone) {
            $this->add('cms.zone', [$zone, ucfirst($zone)]);
            $this->add('cms.zone_document', [$zone, 1]);
        }
        foreach (range(1, 6) as $n) {
            $path = $this->paths[52 + $n];
            [$id, $markup] = $n % 2 === 1 ? [$this->ids[52 + $n], null] : [null, "<a href='/'><img src='/$path'></a>"];
            $this->add('cms.advert', [$n, "Ad $n", $id, $markup, 'north', '2020-01-01', '2099-01-01']);
            $this->uses('cms.advert', $n, $id === null ? 'markup' : 'creative', $path);
            $this->add('cms.nav', [$n, "To $n", "/guild/doc-$n", $this->ids[60 + $n]]);
            $this->uses('cms.nav', $n, 'icon', $this->paths[60 + $n]);
            $mail = "<letter><mj-image src=\"https://brassguild.example/{$this->paths[76]}\"/></letter>";
            $this->add('cms.newsletter', [$n, "Letter $n", $mail]);
            $this->uses('cms.newsletter', $n, 'mail', $this->paths[76]);
        }
        $prefs = [
            'logo' => [$this->ids[70], 70],
            'footer' => ["<img src=\"/{$this->paths[71]}\">", 71],
            'theme' => [(string) json_encode(['hero' => ['asset' => $this->ids[72]], 'colour' => '#fff']), 72],
            'favicon' => ["/{$this->paths[73]}", 73],
            'card' => ["https://brassguild.example/{$this->paths[74]}", 74],
        ];
        foreach ($prefs as $name => [$value, $n]) {
            $this->add('cms.prefs', [$name, $value]);
            $this->uses('cms.prefs', $name, 'val', $this->paths[$n]);
        }
        $this->add('cms.forward', [1, '/old/page', '/guild/doc-1', 301]);
        $this->idle = [$this->paths[77], $this->paths[78], $this->file(self::ROOT.'/loose/nobody.jpg')];
    }

    private function media(): void
    {
        foreach (range(1, 78) as $n) {
            $this->ids[$n] = sprintf('%08x-%04x-4%03x-8%03x-%012x', crc32("a$n"), $n, $n, $n, crc32("b$n"));
            [$folder, $type] = [sprintf('%04d/%02d', 2012 + $n % 11, 1 + $n % 12), ['jpg', 'png', 'webp'][$n % 3]];
            $this->paths[$n] = $this->file(self::ROOT."/$folder/img-$n.$type");
            $this->add('cms.asset', [$this->ids[$n], 'public', $folder, "img-$n", $type, '{"alt": "A"}', '2019-01-01']);
            $crop = "$folder/crops/".substr(md5("c$n"), 0, 12).".$type";
            $this->crops[$n] = $this->file(self::ROOT."/$crop");
            $this->add('cms.asset_crop', [$n, $this->ids[$n], $crop]);
        }
    }

    private function document(int $n): void
    {
        [$a, $b, $c, $d] = [1 + $n % 30, 1 + ($n * 7) % 30, 1 + ($n * 3) % 30, 1 + ($n * 5) % 30];
        [$ids, $paths] = [$this->ids, $this->paths];
        $link = '/guild/doc-'.(1 + $n % 40);
        $blocks = [
            ['type' => 'text', 'html' => "<p><a href=\"$link\">x</a> <img src=\"/$paths[$a]\" alt=\"\"></p>"],
            ['type' => 'image', 'data' => ['asset' => $ids[$b], 'caption' => 'c']],
            ['items' => [['asset' => $ids[$c], 'n' => 3], ['bg' => "url('/{$this->crops[$d]}')"]]],
        ];
        [$lead, $gallery] = [$n % 2 === 1 ? $ids[$a] : null, $n % 4 === 0 ? "{{$ids[$b]},{$ids[$c]}}" : null];
        $this->add('cms.document', [
            $n,
            $n > 5 ? 1 + $n % 5 : null,
            "doc-$n",
            "Document $n",
            (string) json_encode($blocks),
            $lead,
            $gallery,
            $n % 9 === 0 ? 1 : 2,
            '2019-01-01',
            $n === 38 ? '2024-01-01' : null,
        ]);
        $this->uses('cms.document', $n, 'blocks', $paths[$a], $paths[$b], $paths[$c], $paths[$d]);
        $this->uses('cms.document', $n, 'lead_asset', ...$lead === null ? [] : [$paths[$a]]);
        $this->uses('cms.document', $n, 'gallery', ...$gallery === null ? [] : [$paths[$b], $paths[$c]]);
        $this->add('cms.document_attr', [$n, 'seo_title', "Title $n"]);
        if ($n % 2 === 1) {
            $this->add('cms.document_attr', [$n, 'share_image', $ids[31 + $n % 5]]);
            $this->uses('cms.document_attr', "$n/share_image", 'content', $paths[31 + $n % 5]);
        }
        if ($n % 3 === 0) {
            $srcset = "/{$this->crops[36]} 1x, /$paths[36] 2x";
            $this->add('cms.document_attr', [$n, 'sidebar_html', "<figure><img srcset='$srcset'></figure>"]);
            $this->uses('cms.document_attr', "$n/sidebar_html", 'content', $paths[36], $paths[36]);
        }
    }

    private function workshop(int $n): void
    {
        $photos = [
            $this->file(self::ROOT."/workshops/w{$n}a.jpg"), $this->file(self::ROOT."/workshops/w{$n}b.jpg"),
        ];
        $words = "Words ![x](/{$this->paths[38]}) and more";
        $this->add('cms.workshop', ["ws$n", "Workshop $n", $words, "w{$n}a.jpg|w{$n}b.jpg", $n === 3 ? 'f' : 't']);
        $this->uses('cms.workshop', "ws$n", 'photo_files', ...$photos);
        $this->uses('cms.workshop', "ws$n", 'description', $this->paths[38]);
        $this->add('cms.document_workshop', [$n, "ws$n", 1]);
        $sheet = $this->file("files/dl/sheet-$n.pdf");
        $this->add('cms.download', [$n, $n, "sheet-$n.pdf", "Sheet $n"]);
        $this->uses('cms.download', $n, 'file_name', $sheet);
        $remark = "Nice ![p](https://www.brassguild.example/{$this->paths[39]})";
        $this->add('cms.remark', [$n, $n, $remark, $n % 4 === 0 ? 'f' : 't']);
        $this->uses('cms.remark', $n, 'words_md', $this->paths[39]);
        $old = (string) json_encode(['title' => 'old', 'blocks' => [['data' => ['asset' => $this->ids[40 + $n]]]]]);
        $this->add('cms.document_version', [$n, $n, '2018-01-01', $old]);
        $this->uses('cms.document_version', $n, 'snapshot', $this->paths[40 + $n]);
        $this->add('cms.hits', [$n, "/guild/doc-$n"]);
    }
}
