<?php

declare(strict_types=1);

namespace Tests\App\Connect;

/**
 * A bakery of 2006 whose pictures are called by the numbers of recipes and lie in the folders of galleries, so that no
 * column names them; pages that are scripts, settings in one wide row, pictures one to three, relative addresses.
 */
final class Bakery extends ForeignSite
{
    private const TABLES = [
        'recipes (id integer primary key, title varchar(80), method text, active char(1), day varchar(10))',
        'galleries (id integer primary key, name varchar(60), folder varchar(60), visible int)',
        'pages (pid integer primary key, file varchar(60), title varchar(80), content text, gallery_id int)',
        'news (id integer primary key, headline varchar(80), body text, posted int)',
        'shops (id integer primary key, name varchar(60), pic1 varchar(60), pic2 varchar(60), pic3 varchar(60), '
        .'map_image varchar(20))',
        'products (nr varchar(12) primary key, title varchar(80), picture varchar(80), descr text)',
        'banners (id integer primary key, alt varchar(60), file varchar(80), url varchar(120), active char(1))',
        'banner_page (banner_id int, page_id int)',
        'guestbook (id integer primary key, name varchar(40), entry text, ok int)',
        'settings (id integer primary key, sitename varchar(60), logo varchar(80), header_pic varchar(80), '
        .'footer_html text, ini text, email varchar(80))',
        'users (id integer primary key, login varchar(40), avatar varchar(80))',
        'counter (page varchar(60), hits int)',
    ];

    protected function write(): void
    {
        foreach (self::TABLES as $table) {
            $this->pdo->exec("create table $table");
        }
        foreach (range(1, 20) as $n) {
            $step = $this->file("images/steps/step$n.gif");
            $text = "<P>Mix. <IMG SRC=images/steps/step$n.gif WIDTH=200> <A HREF='news.php?id=$n'>News</A>";
            $this->add('recipes', [$n, "Loaf $n", $text, $n % 7 === 0 ? 'N' : 'Y', '0'.(1 + $n % 9).'.03.2007']);
            $this->uses('recipes', $n, 'method', $step);
            if ($n % 2 === 0) {
                $this->uses('recipes', $n, 'its files', $this->file("images/recipes/recipe_$n.jpg"));
                $this->uses('recipes', $n, 'its files', $this->file("images/recipes/thumbs/recipe_$n.jpg"));
            }
            $this->add('news', [$n, "News $n", "<p><img src='/images/news/n$n.jpg'></p>", 1_167_600_000 + $n]);
            $this->uses('news', $n, 'body', $this->file("images/news/n$n.jpg"));
        }
        foreach (['summer-fair', 'ovens', 'bread day 2009', 'staff'] as $n => $folder) {
            $this->add('galleries', [$n + 1, ucfirst($folder), $folder, $n === 3 ? 0 : 1]);
            foreach (range(1, 4) as $picture) {
                $this->uses('galleries', $n + 1, 'its files', $this->file("galleries/$folder/img_$picture.jpg"));
            }
        }
        foreach (['index', 'about', 'shops', 'fair', 'ovens', 'contact'] as $n => $page) {
            $content = '<table background="images/back.gif"><tr><td><a href="fair.php">Fair</a> <a href="about.php">Us'
                .'</a> <a href=ovens.php>Ovens</a><a href="contact.php">C</a></td></tr></table>';
            $this->add('pages', [$n + 1, "$page.php", ucfirst($page), $content, $n === 3 ? 1 : ($n === 4 ? 2 : null)]);
            $this->uses('pages', $n + 1, 'content', $this->file('images/back.gif'));
        }
        foreach (range(1, 6) as $n) {
            $pictures = [];
            foreach (range(1, 3) as $picture) {
                $pictures[] = $n % $picture === 0 ? "shop{$n}_$picture.jpg" : '';
                if ($n % $picture === 0) {
                    $file = $this->file("images/shops/shop{$n}_$picture.jpg");
                    $this->uses('shops', $n, "pic$picture", $file);
                }
            }
            $this->add('shops', [$n, "Shop $n", ...$pictures, "corner_$n"]);
            $this->uses('shops', $n, 'its files', $this->file("images/maps/corner_$n.gif"));
            $escaped = '&lt;b&gt;Good&lt;/b&gt; &lt;img src=&quot;images/seal.png&quot; '
                .'alt=&quot;&amp;eacute;&quot;&gt;';
            $this->add('products', ["A-10$n", "Roll $n", "prod/A-10$n.jpg", $escaped]);
            $this->uses('products', "A-10$n", 'picture', $this->file("images/prod/A-10$n.jpg"));
            $this->uses('products', "A-10$n", 'descr', $this->file('images/seal.png'));
            $this->add('banners', [$n, "Banner $n", "b$n.swf.gif", 'http://other.example/', $n === 2 ? 'N' : 'Y']);
            $this->uses('banners', $n, 'file', $this->file("banner/b$n.swf.gif"));
            $this->add('banner_page', [$n, 1 + $n % 3]);
            $slashed = addslashes("It's <img src=\"images/smile/s$n.gif\">");
            $this->add('guestbook', [$n, 'X', $slashed, $n % 3 === 0 ? 0 : 1]);
            $this->uses('guestbook', $n, 'entry', $this->file("images/smile/s$n.gif"));
            $this->add('users', [$n, "user$n", "u$n.png"]);
            $this->uses('users', $n, 'avatar', $this->file("images/avatars/u$n.png"));
        }
        $this->add('settings', [
            1, 'Bakery', 'images/logo.gif', 'head.jpg', '<img src="images/foot.gif"> &copy;',
            "[look]\nback=/images/back2.gif\ncolour=#fff\n", 'a@bakery.example',
        ]);
        $settings = [
            'logo' => 'images/logo.gif',
            'header_pic' => 'images/head/head.jpg',
            'footer_html' => 'images/foot.gif',
            'ini' => 'images/back2.gif',
        ];
        foreach ($settings as $column => $path) {
            $this->uses('settings', 1, $column, $this->file($path));
        }
        $this->add('counter', ['index.php', 9]);
        $this->idle = [$this->file('images/recipes/old_3.jpg'), $this->file('images/unused.gif')];
    }
}
