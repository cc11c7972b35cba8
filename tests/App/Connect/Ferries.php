<?php

declare(strict_types=1);

namespace Tests\App\Connect;

/**
 * A handbook of ferries that many people write: each article points at the version of it that is shown, pictures are
 * placed by their numbers in attributes and in elements of xml, boxes in comments, owners say their kind in one word,
 * translations name what they translate.
 */
final class Ferries extends ForeignSite
{
    private const TABLES = [
        'fh_file (file_id integer primary key, stored varchar(120), name varchar(80), bytes int, uploader int)',
        'fh_article (id integer primary key, slug varchar(80) unique, title varchar(80), current_id int, '
        .'translation_of int, lang varchar(2), live_from varchar(12), live_to varchar(12))',
        'fh_article_version (id integer primary key, article_id int, body text, note varchar(80), made varchar(14))',
        'fh_box (name varchar(40) primary key, html text, shown varchar(1))',
        'fh_route (id integer primary key, code varchar(10), name varchar(60), layout xml, ship_id int)',
        'fh_ship (id integer primary key, name varchar(60), hull_json text, withdrawn int)',
        'fh_remark (id integer primary key, about varchar(30), words text, hidden int)',
        'fh_extra (id integer primary key, about varchar(30), field varchar(30), content text)',
        'fh_sheet (id integer primary key, name varchar(40), css text)',
        'fh_person (id integer primary key, name varchar(40), face_file_id int)',
        'fh_setting (name varchar(40) primary key, value text)',
        'fh_menu (id integer primary key, label varchar(40), goes_to varchar(80), position int)',
        'fh_watch (id integer primary key, person_id int, article_id int)',
    ];

    /** @var array<int, string> */
    private array $paths = [];

    protected function write(): void
    {
        foreach (self::TABLES as $table) {
            $this->pdo->exec("create table $table");
        }
        foreach (range(1, 60) as $n) {
            $this->paths[$n] = $this->file('store/'.sprintf('%02d', $n % 16)."/f$n.jpg");
            $this->add('fh_file', [$n, sprintf('%02d', $n % 16)."/f$n.jpg", "Crossing $n.jpg", 900, 1]);
        }
        $version = 0;
        foreach (range(1, 24) as $n) {
            foreach ([0, 1, 2] as $round) {
                $version++;
                [$a, $b] = [1 + ($n + $round) % 20, 21 + ($n * 3 + $round) % 12];
                $body = '<p>Crossing <a href="/handbook/article-'.(1 + $n % 24).'">x</a></p>'
                    ."<figure data-picture=\"$a\" class=\"wide\"></figure>"
                    .'<img src="/store/'.sprintf('%02d', $b % 16)."/f$b.jpg\" alt=\"\"><!-- box:times -->";
                $this->add('fh_article_version', [$version, $n, $body, 'edit', "2014010{$round}101500"]);
                $this->uses('fh_article_version', $version, 'body', $this->paths[$a], $this->paths[$b]);
            }
            $this->add('fh_article', [
                $n, "article-$n", "Article $n", $version - 1, $n > 20 ? $n - 20 : null, $n > 20 ? 'ga' : 'en',
                $n === 7 ? '203001010000' : '201401010000', $n === 9 ? '201501010000' : '',
            ]);
            if ($n % 3 === 0) {
                $this->add('fh_extra', [$n, "article/$n", 'banner', (string) (33 + $n % 4)]);
                $this->uses('fh_extra', $n, 'content', $this->paths[33 + $n % 4]);
                $this->add('fh_remark', [$n, "article/$n", "<p><img src='/store/05/f37.jpg'></p>", $n === 6 ? 1 : 0]);
                $this->uses('fh_remark', $n, 'words', $this->paths[37]);
            } elseif ($n % 4 === 0) {
                $this->add('fh_extra', [$n, "article/$n", 'side', '<img src="/store/06/f38.jpg">']);
                $this->uses('fh_extra', $n, 'content', $this->paths[38]);
            }
        }
        foreach (range(1, 6) as $n) {
            $layout = "<layout><map file=\"$n\"/><strip><shot file=\"".(38 + $n).'" size="l"/></strip></layout>';
            $this->add('fh_route', [$n, "R$n", "Route $n", $layout, $n]);
            $this->uses('fh_route', $n, 'layout', $this->paths[$n], $this->paths[38 + $n]);
            $hull = ['drawing' => ['file' => 44 + $n], 'tons' => 40 + $n, 'decks' => [1, 2, 3]];
            $this->add('fh_ship', [$n, "Ship $n", (string) json_encode($hull), $n === 5 ? 1 : 0]);
            $this->uses('fh_ship', $n, 'hull_json', $this->paths[44 + $n]);
            $this->add('fh_person', [$n, "Person $n", $n % 2 === 0 ? 50 + $n : null]);
            $this->uses('fh_person', $n, 'face_file_id', ...$n % 2 === 0 ? [$this->paths[50 + $n]] : []);
            $this->add('fh_menu', [$n, "To $n", "/handbook/article-$n", $n]);
            $this->add('fh_watch', [$n, $n, $n]);
        }
        $this->add('fh_box', ['times', '<div style="background:url(/store/09/f57.jpg)">Times</div>', 'y']);
        $this->uses('fh_box', 'times', 'html', $this->paths[57]);
        $this->add('fh_sheet', [1, 'main', 'body { background: url("/store/10/f58.jpg") } .x { color: red }']);
        $this->uses('fh_sheet', 1, 'css', $this->paths[58]);
        foreach (['logo_file' => '59', 'title' => 'Handbook', 'per_page' => '20'] as $name => $value) {
            $this->add('fh_setting', [$name, $value]);
        }
        $this->uses('fh_setting', 'logo_file', 'value', $this->paths[59]);
        $this->idle = [$this->paths[60]];
    }
}
