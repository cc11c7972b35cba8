<?php

declare(strict_types=1);

namespace Standin\Mill;

use PDO;

/**
 * A second site, unlike the demo in every habit: the Hollin Mill Textile Museum. Its tables and its files are made
 * here, and with them the truth of what is used where, which no field map has a part in.
 */
final class Mill
{
    /** Folder → how many pictures lie there, beside those that have a part of their own. */
    private const FOLDERS = ['2014' => 14, '2017' => 16, '2021' => 14, 'people' => 6, 'events' => 6];

    private const SAID = [
        'The looms were carried up the stairs in parts and have not moved since.',
        'Water came from the race, and later from the town, and in one winter from nowhere.',
        'Every Thursday the big wheel turns for an hour, if the level allows.',
        'The pattern books smell of soot and lavender; please turn the pages slowly.',
        'Somebody has painted the window of the dye house in a blue that nobody can name.',
    ];

    /** @var list<array{table: string, key: string, column: string, path: string}> each use of a file there */
    public array $uses = [];

    /** @var array<string, list<string>> address of a public page, below the root → paths that a visitor meets there */
    public array $shown = [];

    /** @var list<string> files that nothing uses */
    public array $idle = [];

    /** @var array<string, list<array<string, scalar|null>>> table → rows */
    private array $rows = [];

    /** @var array<int, array{path: string, sizes: array<string, string>}> */
    private array $media = [];

    /** @var array<string, list<string>> what every page of a section shows through its set of banners */
    private array $banners = [];

    public function __construct()
    {
        $this->media();
        $this->banners();
        $this->galleries();
        $this->users();
        $this->nodes();
        $this->events();
        $this->around();
        $used = array_column($this->uses, 'path');
        foreach ($this->media as $one) {
            if (! in_array($one['path'], $used, true)) {
                $this->idle[] = $one['path'];
            }
        }
    }

    /** Draws the files: small pictures, each with a colour of its own. */
    public function draw(string $folder): void
    {
        foreach ($this->media as $id => $one) {
            self::picture("$folder/{$one['path']}", $id, 320, 200);
            foreach ($one['sizes'] as $label => $path) {
                self::picture("$folder/$path", $id, $label === 'thumb' ? 60 : 160, $label === 'thumb' ? 40 : 100);
            }
        }
        foreach (['files/brand/favicon.png', 'files/icons/visit.png', 'files/icons/news.png'] as $n => $path) {
            self::picture("$folder/$path", 900 + $n, 32, 32);
        }
    }

    public function write(PDO $pdo): void
    {
        foreach (self::statements() as $statement) {
            $pdo->exec('drop table if exists '.explode(' ', $statement)[2]);
            $pdo->exec($statement);
        }
        foreach ($this->rows as $table => $rows) {
            foreach ($rows as $row) {
                $names = implode(', ', array_map(static fn (string $n): string => "`$n`", array_keys($row)));
                $pdo->prepare(
                    "insert into $table ($names) values (".implode(', ', array_fill(0, count($row), '?')).')',
                )->execute(array_values($row));
            }
        }
    }

    /** @return list<string> */
    public static function tables(): array
    {
        preg_match_all('~create table (\w+)~', implode("\n", self::statements()), $found);

        return $found[1];
    }

    /** @return list<string> */
    private static function statements(): array
    {
        $lines = array_filter(
            array_map(trim(...), file(__DIR__.'/schema.sql') ?: []),
            static fn (string $line): bool => $line !== '' && ! str_starts_with($line, '--'),
        );

        return array_values(array_map(static fn (string $line): string => rtrim($line, ';'), $lines));
    }

    private function media(): void
    {
        $id = 0;
        foreach (self::FOLDERS as $folder => $count) {
            for ($n = 1; $n <= $count; $n++) {
                $id++;
                $name = $folder === 'people' ? "portrait-$n" : ($n % 5 === 0 ? "Größe $n" : "$folder-$n");
                $file = "$name.jpg";
                $hash = substr(md5("$folder/$file"), 0, 10);
                $sizes = ['thumb' => "files/_s/{$hash}a.jpg", 'wide' => "files/_s/{$hash}b.jpg"];
                $this->media[$id] = ['path' => "files/$folder/$file", 'sizes' => $sizes];
                $this->row('hm_media', [
                    'folder' => $folder,
                    'file' => $file,
                    'title' => "Plate $id",
                    'mime' => 'image/jpeg',
                    'width' => 320,
                    'height' => 200,
                    'added' => 1_400_000_000 + $id * 86_400,
                ]);
                foreach ($sizes as $label => $path) {
                    $this->row('hm_media_size', [
                        'media_id' => $id,
                        'label' => $label,
                        'path' => substr($path, strlen('files/')),
                    ]);
                }
                foreach (['en' => 'A plate', 'de' => 'Eine Tafel'] as $lang => $alt) {
                    $this->row('hm_media_text', [
                        'media_id' => $id,
                        'lang' => $lang,
                        'alt' => "$alt $id",
                        'caption' => '',
                    ]);
                }
            }
        }
    }

    private function banners(): void
    {
        $now = time();
        foreach (['front', 'shop', 'archive'] as $set) {
            $this->row('hm_banner_set', ['code' => $set]);
        }
        $spans = [
            [0, 0, 'y'],
            [$now - 9_000, $now + 900_000, 'y'],
            [$now + 900_000, 0, 'y'],
            [0, $now - 900_000, 'y'],
            [0, 0, 'n'],
            [0, 0, 'y'],
        ];
        foreach ($spans as $n => [$starts, $ends, $active]) {
            $this->row('hm_banner', [
                'name' => "Patron $n",
                'image_id' => 31 + $n,
                'link' => "/en/visit/day-$n",
                'starts' => $starts,
                'ends' => $ends,
                'active' => $active,
            ]);
            $this->uses('hm_banner', (string) ($n + 1), 'image_id', 31 + $n);
            $set = $n < 4 ? 1 : 2;
            $this->row('hm_set_banner', ['set_id' => $set, 'banner_id' => $n + 1, 'sort' => $n]);
            if ($active === 'y' && $starts <= $now && ($ends === 0 || $ends > $now)) {
                foreach ($set === 1 ? ['news', 'visit'] : ['exhibits'] as $section) {
                    $this->banners[$section][] = $this->media[31 + $n]['path'];
                }
            }
        }
        foreach (['news' => 1, 'visit' => 1, 'exhibits' => 2] as $code => $set) {
            $this->row('hm_section', ['code' => $code, 'name' => ucfirst($code), 'set_id' => $set]);
        }
    }

    private function galleries(): void
    {
        foreach ([1, 2, 3] as $gallery) {
            $this->row('hm_gallery', ['name' => "Room $gallery", 'open' => $gallery === 3 ? 0 : 1]);
            foreach ([0, 1, 2] as $n) {
                $id = 14 + $gallery * 3 - $n;
                $this->row('hm_gallery_item', ['gallery_id' => $gallery, 'media_id' => $id, 'position' => $n]);
                $this->uses('hm_gallery_item', (string) count($this->rows['hm_gallery_item']), 'media_id', $id);
            }
        }
    }

    private function users(): void
    {
        foreach (['Ann Harle', 'Bertil Moss', 'Cora Quill'] as $n => $name) {
            $avatar = $n === 2 ? null : 'people/portrait-'.($n + 1).'.jpg';
            $this->row('hm_user', ['name' => $name, 'mail' => 'm'.$n.'@hollinmill.example', 'avatar' => $avatar]);
            if ($avatar !== null) {
                $this->path('hm_user', (string) ($n + 1), 'avatar', "files/$avatar");
            }
        }
    }

    private function nodes(): void
    {
        foreach (['visit' => 6, 'news' => 16, 'exhibits' => 12] as $section => $count) {
            for ($n = 1; $n <= $count; $n++) {
                $this->node($section, $n);
            }
        }
    }

    private function node(string $section, int $n): void
    {
        $nid = count($this->rows['hm_node'] ?? []) + 1;
        $status = $n % 7 === 0 ? 0 : ($n % 11 === 0 ? 2 : 1);
        $binned = $n % 9 === 0;
        $author = $nid % 4 === 0 ? null : ($nid % 3) + 1;
        $this->row('hm_node', [
            'type' => $section === 'exhibits' ? 'exhibit' : 'page',
            'section' => $section,
            'author_id' => $author,
            'status' => $status,
            'created' => 1_390_000_000 + $nid * 864_000,
            'changed' => 1_700_000_000 + $nid,
            'deleted_at' => $binned ? '2023-03-03 03:03:03' : null,
        ]);
        $common = $this->details($nid, $section);
        if ($author !== null && $author < 3) {
            $common[] = "files/people/portrait-$author.jpg";
        }
        foreach ($nid % 3 === 0 ? ['en'] : ['en', 'de'] as $lang) {
            $shown = $this->text($nid, $lang, $section);
            if ($status === 1 && ! $binned) {
                $all = [...$shown, ...$common, ...$this->banners[$section] ?? []];
                $slug = ($lang === 'en' ? 'day-' : 'tag-').$nid;
                $this->shown[($lang === 'en' ? '' : "$lang/")."$section/$slug"] = array_values(array_unique($all));
            }
        }
    }

    /** @return list<string> what a text itself shows */
    private function text(int $nid, string $lang, string $section): array
    {
        $key = (string) (count($this->rows['hm_node_text'] ?? []) + 1);
        $own = (($nid * 7) % 44) + 1;
        $other = (($nid * 5) % 40) + 1;
        $one = $this->media[$own];
        $shown = [];
        $body =
            '<p>'
            .self::SAID[$nid % 5]
            ."</p>\n".
            match ($nid % 4) {
                0 => '<p><img class="left" src="/'.self::encoded($one['path']).'" width=320 align=left></p>',
                1 => '<figure><img src="/'
                    .$one['sizes']['wide']
                    .'" srcset="/'
                    .$one['sizes']['thumb']
                    .' 60w, /'
                    .self::encoded($one['path'])
                    .' 320w"></figure>',
                2 => '<img src="https://hollinmill.example/'
                    .self::encoded($one['path'])
                    .'"><a href="/'
                    .self::encoded($this->media[$other]['path'])
                    .'">large</a>',
                default => "<p>[[figure id=\"$own\" side=\"left\"]]</p>",
            };
        foreach ($nid % 4 === 1 ? [1, 2, 3] : [1] as $ignored) {
            $this->path('hm_node_text', $key, 'body', $one['path']);
        }
        $shown[] = $one['path'];
        if ($nid % 4 === 2) {
            $this->path('hm_node_text', $key, 'body', $this->media[$other]['path']);
            $shown[] = $this->media[$other]['path'];
        }
        if ($nid % 6 === 1) {
            $gallery = ($nid % 2) + 1;
            $body .= "\n<p>[[gallery:$gallery]]</p>";
            foreach ([0, 1, 2] as $n) {
                $shown[] = $this->media[14 + $gallery * 3 - $n]['path'];
            }
        }
        $teaser = null;
        if ($nid % 5 === 2) {
            $picture = $this->media[($nid % 40) + 1]['path'];
            $teaser = '<img src="/'.self::encoded($picture).'" alt=""> '.self::SAID[$nid % 5];
            $this->path('hm_node_text', $key, 'teaser', $picture);
            $shown[] = $picture;
        }
        $this->row('hm_node_text', [
            'nid' => $nid,
            'lang' => $lang,
            'slug' => ($lang === 'en' ? 'day-' : 'tag-').$nid,
            'title' => ($lang === 'en' ? 'A day at the mill ' : 'Ein Tag in der Mühle ').$nid,
            'teaser' => $teaser,
            'body' => $body,
        ]);
        if ($lang === 'en') {
            $this->row('hm_cache', [
                'cid' => "page:$section:$nid",
                'data' => "<html><body>$body</body></html>",
                'expires' => 2_000_000_000,
            ]);
            $this->row('hm_search', ['nid' => $nid, 'words' => strip_tags($body).' '.$one['path']]);
            $this->row('hm_revision', [
                'nid' => $nid,
                'made' => 1_600_000_000 + $nid,
                'data' => json_encode([
                    'title' => 'Before',
                    'body' => '<img src="/'.self::encoded($this->media[(($nid * 3) % 44) + 1]['path']).'">',
                    'picture' => (($nid * 11) % 44) + 1,
                ]),
            ]);
            $this->path('hm_revision', (string) $nid, 'data', $this->media[(($nid * 3) % 44) + 1]['path']);
            $this->uses('hm_revision', (string) $nid, 'data', (($nid * 11) % 44) + 1);
        }

        return $shown;
    }

    /** @return list<string> what a node shows in each of its languages */
    private function details(int $nid, string $section): array
    {
        $shown = [];
        $meta = function (string $name, string $value) use ($nid): string {
            $this->row('hm_node_meta', ['nid' => $nid, 'name' => $name, 'value' => $value]);

            return (string) count($this->rows['hm_node_meta']);
        };
        $meta('views', (string) ((($nid * 13) % 40) + 1));
        if ($nid % 2 === 0) {
            $id = ($nid % 43) + 1;
            $this->uses('hm_node_meta', $meta('hero', (string) $id), 'value', $id);
            $shown[] = $this->media[$id]['path'];
        }
        if ($nid % 5 === 0) {
            $ids = [($nid % 40) + 1, ($nid % 39) + 2];
            $key = $meta('slides', serialize($ids));
            foreach ($ids as $id) {
                $this->uses('hm_node_meta', $key, 'value', $id);
                $shown[] = $this->media[$id]['path'];
            }
        }
        if ($nid % 6 === 0) {
            $path = $this->media[($nid % 37) + 3]['path'];
            $this->path(
                'hm_node_meta',
                $meta('aside', '<div><img src="/'.self::encoded($path).'"></div>'),
                'value',
                $path,
            );
            $shown[] = $path;
        }
        if ($nid % 7 === 0) {
            $path = $this->media[($nid % 31) + 5]['path'];
            $blocks = [
                ['kind' => 'text', 'html' => '<img src="/'.self::encoded($path).'">'],
                ['kind' => 'pic', 'media' => ($nid % 29) + 1],
            ];
            $key = $meta('layout', (string) json_encode($blocks));
            $this->path('hm_node_meta', $key, 'value', $path);
            $this->uses('hm_node_meta', $key, 'value', ($nid % 29) + 1);
            array_push($shown, $path, $this->media[($nid % 29) + 1]['path']);
        }
        if ($section === 'exhibits') {
            foreach ([0, 1] as $n) {
                $id = (($nid * 2 + $n) % 44) + 1;
                $this->row('hm_node_media', [
                    'nid' => $nid,
                    'position' => $n,
                    'media_id' => $id,
                    'role' => $n === 0 ? 'cover' : 'detail',
                ]);
                $this->uses('hm_node_media', "$nid/$n", 'media_id', $id);
                $shown[] = $this->media[$id]['path'];
            }
        }
        if ($nid % 4 === 1) {
            $approved = $nid % 8 === 1;
            $path = $this->media[($nid % 23) + 8]['path'];
            $this->row('hm_comment', [
                'nid' => $nid,
                'author' => 'A visitor',
                'body' => 'Mine: <img src="/'.self::encoded($path).'">',
                'approved' => $approved ? 1 : 0,
                'at' => 1_650_000_000 + $nid,
            ]);
            $this->path('hm_comment', (string) count($this->rows['hm_comment']), 'body', $path);
            if ($approved) {
                $shown[] = $path;
            }
        }

        return $shown;
    }

    private function events(): void
    {
        foreach (range(1, 8) as $n) {
            $poster = $n === 8 ? null : 'events/'.($n % 5 === 0 ? "Größe $n" : 'events-'.min($n, 6)).'.jpg';
            $inside = $this->media[$n + 20]['path'];
            $this->row('hm_event', [
                'slug' => "evening-$n",
                'title' => "An evening $n",
                'day' => sprintf('%02d.05.2027', $n),
                'poster' => $poster,
                'text' => "## Evening\n\n".self::SAID[$n % 5]."\n\n![the room](/".self::encoded($inside).")\n",
                'cancelled' => $n === 7 ? 1 : 0,
            ]);
            if ($poster !== null) {
                $this->path('hm_event', (string) $n, 'poster', "files/$poster");
            }
            $this->path('hm_event', (string) $n, 'text', $inside);
            if ($n !== 7) {
                $this->shown["events/evening-$n"] = [...$poster === null ? [] : ["files/$poster"], $inside];
            }
        }
    }

    /** What the site's own code shows on every page, and what only looks like content. */
    private function around(): void
    {
        $logo = 45;
        $footer = $this->media[46]['path'];
        $badge = $this->media[47]['path'];
        $icons = ['files/icons/visit.png', 'files/icons/news.png'];
        foreach (
            [
                'site_logo' => (string) $logo,
                'favicon' => '/files/brand/favicon.png',
                'footer' => '<p><img src="/'.self::encoded($footer).'"> Hollin Mill</p>',
                'theme' => serialize(['colour' => '#334', 'badge' => "/$badge", 'width' => 45]),
                'contact' => 'desk@hollinmill.example',
                'posts_a_page' => '12',
            ] as $name => $value
        ) {
            $this->row('hm_setting', ['name' => $name, 'value' => $value]);
        }
        $this->uses('hm_setting', 'site_logo', 'value', $logo);
        $this->path('hm_setting', 'favicon', 'value', 'files/brand/favicon.png');
        $this->path('hm_setting', 'footer', 'value', $footer);
        $this->path('hm_setting', 'theme', 'value', $badge);
        foreach ($icons as $n => $icon) {
            $this->row('hm_menu', [
                'label' => $n === 0 ? 'Visit' : 'News',
                'link' => $n === 0 ? '/visit/day-1' : '/news/day-7',
                'icon' => "/$icon",
                'sort' => $n,
            ]);
            $this->path('hm_menu', (string) ($n + 1), 'icon', $icon);
        }
        foreach ($this->shown as $address => $shown) {
            $this->shown[$address] = array_values(
                array_unique([
                    ...$shown,
                    $this->media[$logo]['path'],
                    'files/brand/favicon.png',
                    $footer,
                    $badge,
                    ...$icons,
                ]),
            );
        }
        $this->row('hm_redirect', ['source' => '/old/visit.php', 'target' => '/visit/day-1', 'code' => 301]);
        foreach (range(1, 30) as $n) {
            $this->row('hm_log', [
                'at' => 1_700_000_000 + $n,
                'message' => 'file removed: files/2014/gone-'.$n.'.jpg',
            ]);
        }
    }

    /** @param  array<string, scalar|null>  $row */
    private function row(string $table, array $row): void
    {
        $this->rows[$table][] = $row;
    }

    private function uses(string $table, string $key, string $column, int $media): void
    {
        $this->path($table, $key, $column, $this->media[$media]['path']);
    }

    private function path(string $table, string $key, string $column, string $path): void
    {
        $this->uses[] = ['table' => $table, 'key' => $key, 'column' => $column, 'path' => $path];
    }

    private static function encoded(string $path): string
    {
        return implode('/', array_map(rawurlencode(...), explode('/', $path)));
    }

    public static function picture(string $file, int $seed, int $width, int $height): void
    {
        if (is_file($file)) {
            return;
        }
        is_dir(dirname($file)) || mkdir(dirname($file), 0o775, true);
        $image = imagecreatetruecolor(max(1, $width), max(1, $height));
        // Threads, so that no two pictures look alike.
        for ($x = 0; $x < $width; $x += 8) {
            $shade = (int) imagecolorallocate(
                $image,
                abs($seed * 37 + $x) % 256,
                abs($seed * 91) % 256,
                abs($seed * 53 + $x * 3) % 256,
            );
            imagefilledrectangle($image, $x, 0, $x + 7, $height, $shade);
        }
        str_ends_with($file, '.png') ? imagepng($image, $file) : imagejpeg($image, $file, 70);
    }
}
