<?php

declare(strict_types=1);

namespace Tests\App\Connect;

/**
 * The site of an old quarry: files called by numbers in folders called by numbers, smaller ones beside them, a column
 * for each language, pages below pages, tables without a key, lists by lines, folders that another column says.
 */
final class Quarry extends ForeignSite
{
    private const TABLES = [
        'sq_pics (pid integer primary key, gal_id int, kind varchar(4), legend varchar(100), alt_en varchar(100))',
        'sq_gals (gid integer primary key, gal_name varchar(60), gal_cover int, visible int)',
        'sq_content (cid integer primary key, up_id int, link_en varchar(60), link_cy varchar(60), '
        .'head_en varchar(80), head_cy varchar(80), txt_en text, txt_cy text, pict int, hidden int, status int)',
        'sq_news (nid integer primary key, ndate varchar(10), headline varchar(100), body text, '
        .'teaser_img varchar(80), files varchar(300), live char(1))',
        'sq_opts (grp varchar(20), opt varchar(30), val text, primary key (grp, opt))',
        'sq_boxes (bid integer primary key, box_title varchar(40), box_html text, box_css text)',
        'sq_content_boxes (cid int, bid int, pos int)',
        'sq_people (id integer primary key, nm varchar(60), folder varchar(30), img varchar(60))',
        'sq_shop (sku varchar(20) primary key, title varchar(60), price decimal(8,2), extra text)',
        'sq_slides (id integer primary key, data text, active int)',
        'sq_guestbook (id integer primary key, who varchar(40), said text, ok int)',
    ];

    private const TOPS = [1 => 'about', 2 => 'visit', 3 => 'history'];

    /** @var array<int, string> */
    private array $paths = [];

    protected function write(): void
    {
        foreach (self::TABLES as $table) {
            $this->pdo->exec("create table $table");
        }
        foreach (range(1, 60) as $n) {
            $folder = 'pics/g'.(1 + $n % 5);
            $this->paths[$n] = $this->file("$folder/$n.jpg");
            $this->file("$folder/tn_$n.jpg");
            $this->file("$folder/big/$n.jpg");
            $this->add('sq_pics', [$n, 1 + $n % 5, 'jpg', "Legend $n", "Alt $n"]);
        }
        foreach (range(1, 5) as $n) {
            $this->add('sq_gals', [$n, "Gallery $n", $n * 5, 1]);
            $this->uses('sq_gals', $n, 'gal_cover', $this->paths[$n * 5]);
        }
        foreach (range(1, 24) as $n) {
            $this->page($n);
        }
        foreach (range(1, 20) as $n) {
            $this->news($n);
        }
        $this->options();
        foreach (range(1, 6) as $n) {
            $back = $this->file("images/box$n.png");
            $html = "<table background=\"images/box$n.png\"><tr><td>x</td></tr></table>";
            $this->add('sq_boxes', [$n, "Box $n", $html, ".b$n { background: url('/{$this->paths[50 + $n]}') }"]);
            $this->uses('sq_boxes', $n, 'box_html', $back);
            $this->uses('sq_boxes', $n, 'box_css', $this->paths[50 + $n]);
            $this->add('sq_content_boxes', [$n, $n, 1]);
            $folder = $n % 2 === 1 ? 'staff' : 'trustees';
            $this->add('sq_people', [$n, "Person $n", $folder, "p$n.jpg"]);
            $this->uses('sq_people', $n, 'img', $this->file("people/$folder/p$n.jpg"));
            $sheet = $this->file("dl/sheet$n.pdf");
            $extra = serialize(['photos' => [$n, $n + 1], 'sheet' => $sheet, 'w' => 100]);
            $this->add('sq_shop', ["SKU-$n", "Thing $n", 3.5, $extra]);
            $this->uses('sq_shop', "SKU-$n", 'extra', $this->paths[$n], $this->paths[$n + 1], $sheet);
        }
        foreach (range(1, 4) as $n) {
            $this->add('sq_slides', [$n, (string) json_encode(['picture' => ['id' => 56 + $n, 'crop' => 'x']]), 1]);
            $this->uses('sq_slides', $n, 'data', $this->paths[56 + $n]);
        }
        $this->add('sq_guestbook', [1, 'somebody', 'Lovely [url]http://elsewhere.example/x.jpg[/url]', 1]);
        $this->idle = [$this->paths[50], $this->file('images/old/unused.gif')];
    }

    private function page(int $n): void
    {
        $up = $n > 3 ? 1 + $n % 3 : 0;
        [$small, $placed] = [$this->paths[$n], $this->paths[25 + $n]];
        $small = dirname($small).'/tn_'.basename($small);
        $to = '/en/'.self::TOPS[2 + $n % 2 - 1].'/page-4';
        $english = "<P>Text <IMG SRC=$small ALIGN=left> {{pic:".(25 + $n).":right}} <A HREF=\"$to\">x</A></P>";
        $this->add('sq_content', [
            $n,
            $up,
            self::TOPS[$n] ?? "page-$n",
            isset(self::TOPS[$n]) ? 'cy-'.self::TOPS[$n] : "tud-$n",
            "Heading $n",
            "Pennawd $n",
            $english,
            "<p>Testun [img]/{$placed}[/img]</p>",
            $n % 3 === 0 ? 0 : $n,
            $n === 20 ? 1 : 0,
            // Which of these numbers mean "out", only the public site can tell.
            [10 => 7, 13 => 4, 14 => 4, 17 => 7][$n] ?? 5,
        ]);
        $this->uses('sq_content', $n, 'txt_en', $this->paths[$n], $placed);
        $this->uses('sq_content', $n, 'txt_cy', $placed);
        $this->uses('sq_content', $n, 'pict', ...$n % 3 === 0 ? [] : [$this->paths[$n]]);
    }

    private function news(int $n): void
    {
        $teaser = $this->file("news_img/n$n.gif");
        $sheets = [$this->file("dl/f$n.pdf"), $this->file("dl/g$n.doc")];
        $body = "A line\nhttp://www.slatequarry.example/{$this->paths[$n]}\nand more";
        $day = sprintf('%02d.%02d.20%02d', $n, 1 + $n % 12, 8 + $n % 9);
        $live = $n % 7 === 0 ? 'N' : 'J';
        $this->add('sq_news', [$n, $day, "News number $n", $body, "n$n.gif", "f$n.pdf\ng$n.doc", $live]);
        $this->uses('sq_news', $n, 'teaser_img', $teaser);
        $this->uses('sq_news', $n, 'files', ...$sheets);
        $this->uses('sq_news', $n, 'body', $this->paths[$n]);
    }

    private function options(): void
    {
        $options = [
            ['site', 'logo', 'images/logo.gif', 'images/logo.gif'],
            ['site', 'name', 'Quarry', null],
            ['design', 'css', '#top{background:#fff url(images/top.png)}', 'images/top.png'],
            ['home', 'gallery', '3', null],
            ['home', 'intro', '<b>Hi</b><img src=images/intro.jpg>', 'images/intro.jpg'],
        ];
        foreach ($options as [$group, $name, $value, $path]) {
            $this->add('sq_opts', [$group, $name, $value]);
            $this->uses('sq_opts', "$group/$name", 'val', ...$path === null ? [] : [$this->file($path)]);
        }
        $this->add('sq_opts', ['home', 'pics', '41,42,43']);
        $this->uses('sq_opts', 'home/pics', 'val', ...array_slice($this->paths, 40, 3));
    }
}
