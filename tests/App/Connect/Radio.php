<?php

declare(strict_types=1);

namespace Tests\App\Connect;

/**
 * A wireless station on MariaDB: addresses in a scheme of its own, sizes in columns beside the picture, a column for
 * each language, pictures one to three, values whose names are rows of another table, text packed twice, things named
 * by their kind and number.
 */
final class Radio extends ForeignSite
{
    private const TABLES = [
        'sr_picture (id int auto_increment primary key, file varchar(160) not null, thumb varchar(160), '
        .'wide varchar(160), words_en varchar(120), words_ga varchar(120), added varchar(14))',
        'sr_programme (id int auto_increment primary key, title_en varchar(120), title_ga varchar(120), '
        .'slug_en varchar(80), slug_ga varchar(80), body_en mediumtext, body_ga mediumtext, image1 int, image2 int, '
        .'image3 int, status varchar(10), made datetime)',
        'sr_presenter (id int auto_increment primary key, name varchar(80), portrait varchar(120), about text, '
        .'programmes varchar(120))',
        'sr_episode (id int auto_increment primary key, programme_id int, number int, title varchar(120), '
        .'notes text, sound varchar(160), aired date, cover varchar(160))',
        'sr_trait (id int auto_increment primary key, code varchar(40), input varchar(20))',
        'sr_trait_value (id int auto_increment primary key, programme_id int not null, trait_id int not null, '
        .'value text)',
        'sr_widget (id int auto_increment primary key, place varchar(30), kind varchar(30), packed longtext, '
        .'shown tinyint)',
        'sr_feature (id int auto_increment primary key, position int, points_at varchar(60), teaser varchar(160))',
        'sr_sponsor (id int auto_increment primary key, name varchar(80), logo_id int, link varchar(160), '
        .'state enum(\'on\',\'off\',\'deleted\'))',
        'sr_sponsor_programme (sponsor_id int not null, programme_id int not null, '
        .'primary key (sponsor_id, programme_id))',
        'sr_config (section varchar(40) not null, name varchar(40) not null, value text, primary key (section, name))',
        'sr_menu (id int auto_increment primary key, tree text)',
        'sr_letter (id int auto_increment primary key, episode_id int, body text, ok tinyint)',
        'sr_draft (id int auto_increment primary key, programme_id int, kept datetime, data mediumblob)',
        'sr_moved (id int auto_increment primary key, old varchar(160), new varchar(160), http int)',
        'sr_visits (id int auto_increment primary key, path varchar(160), day date, hits int)',
        'sr_cache (k varchar(80) primary key, v longtext)',
    ];

    /** @var array<int, string> */
    private array $paths = [];

    /** @var array<int, string> */
    private array $thumbs = [];

    /** @var array<int, string> */
    private array $wides = [];

    protected function write(): void
    {
        foreach (self::TABLES as $table) {
            $this->pdo->exec("create table $table engine=InnoDB default charset=utf8mb4");
        }
        foreach (range(1, 70) as $n) {
            $folder = 'shared/pics/'.(2010 + $n % 7);
            $this->paths[$n] = $this->file("$folder/Studio pic $n.jpg");
            $this->thumbs[$n] = $this->file("shared/made/s/pic-$n-small.jpg");
            $this->wides[$n] = $this->file("shared/made/w/pic-$n-wide.jpg");
            $this->add('sr_picture', [
                $n,
                'vault://pics/'.(2010 + $n % 7)."/Studio pic $n.jpg",
                "vault://made/s/pic-$n-small.jpg",
                "vault://made/w/pic-$n-wide.jpg",
                "Words $n",
                '',
                '20140203120000',
            ]);
        }
        foreach (range(1, 24) as $n) {
            $this->programme($n);
        }
        foreach (range(1, 10) as $n) {
            $this->presenter($n);
        }
        foreach (range(1, 30) as $n) {
            $this->episode($n);
        }
        $this->widgets();
        $this->settings();
        $this->add('sr_moved', [1, '/en/old-programme', '/en/programmes/programme-1', 301]);
        $this->add('sr_moved', [2, '/old.php?p=2', '/en/programmes/programme-2', 301]);
        $this->add('sr_cache', ['page:1', "<img src=\"/{$this->paths[68]}\">"]);
        foreach (range(1, 40) as $n) {
            $this->add('sr_visits', [$n, "/en/programmes/programme-$n", '2024-01-01', $n]);
        }
        $this->idle = [$this->paths[68], $this->paths[69], $this->file('shared/pics/2010/nobody knows.jpg')];
    }

    private static function at(string $path): string
    {
        return '/'.str_replace(' ', '%20', $path);
    }

    private function programme(int $n): void
    {
        [$a, $b, $c] = [1 + $n % 30, 1 + ($n * 7) % 30, 1 + ($n * 11) % 30];
        $other = 1 + $n % 24;
        $english = '<h2>About</h2><p><img src="'.self::at($this->paths[$a]).'" alt=""> '
            ."<a href=\"/en/programmes/programme-$other\">next</a> ##photo($b,left)##</p>";
        $irish = "<p><img src='".self::at($this->wides[$c])."'> <a href=\"/ga/clair/clar-$other\">x</a></p>";
        $this->add('sr_programme', [
            $n,
            "Programme $n",
            "Clár $n",
            "programme-$n",
            "clar-$n",
            $english,
            $irish,
            $a,
            $n % 2 === 0 ? $b : 0,
            $n % 3 === 0 ? $c : 0,
            $n % 8 === 0 ? 'draft' : ($n === 5 ? 'deleted' : 'public'),
            '2015-04-01 10:00:00',
        ]);
        $this->uses('sr_programme', $n, 'body_en', $this->paths[$a], $this->paths[$b]);
        $this->uses('sr_programme', $n, 'body_ga', $this->paths[$c]);
        $this->uses('sr_programme', $n, 'image1', $this->paths[$a]);
        $this->uses('sr_programme', $n, 'image2', ...$n % 2 === 0 ? [$this->paths[$b]] : []);
        $this->uses('sr_programme', $n, 'image3', ...$n % 3 === 0 ? [$this->paths[$c]] : []);
        // Names of values are rows of their own.
        if ($n === 1) {
            foreach (['colour' => 'text', 'banner_picture' => 'picture', 'side_html' => 'html'] as $code => $input) {
                $this->add('sr_trait', ['code' => $code, 'input' => $input]);
            }
        }
        $this->trait($n, 1, '#a0c0f0');
        if ($n % 2 === 1) {
            $key = $this->trait($n, 2, (string) (31 + $n % 6));
            $this->uses('sr_trait_value', $key, 'value', $this->paths[31 + $n % 6]);
        }
        if ($n % 4 === 0) {
            $key = $this->trait($n, 3, '<aside><img src="'.self::at($this->thumbs[37]).'"></aside>');
            $this->uses('sr_trait_value', $key, 'value', $this->paths[37]);
        }
        if ($n % 5 === 0) {
            $kept = (string) json_encode([
                'body_en' => '<img src="'.self::at($this->paths[38]).'">',
                'image1' => 39,
            ]);
            $this->add('sr_draft', ['programme_id' => $n, 'kept' => '2016-01-01 00:00:00', 'data' => $kept]);
            $this->uses('sr_draft', intdiv($n, 5), 'data', $this->paths[38], $this->paths[39]);
        }
    }

    private function trait(int $programme, int $trait, string $value): int
    {
        $this->add('sr_trait_value', ['programme_id' => $programme, 'trait_id' => $trait, 'value' => $value]);

        return (int) $this->pdo->lastInsertId();
    }

    private function presenter(int $n): void
    {
        $face = $this->file("shared/people/presenter-$n.jpg");
        $about = 'Since 1990. ![at work]('.self::at($this->paths[40]).")\n\nSee [here](/en/programmes/programme-$n).";
        $this->add('sr_presenter', [$n, "Presenter $n", "presenter-$n.jpg", $about, '|'.$n.'|'.($n + 1).'|']);
        $this->uses('sr_presenter', $n, 'portrait', $face);
        $this->uses('sr_presenter', $n, 'about', $this->paths[40]);
    }

    private function episode(int $n): void
    {
        $sound = $this->file("shared/sounds/ep-$n.mp3");
        $cover = $n % 2 === 1 ? 'https://www.skerryradio.example'.self::at($this->paths[41 + $n % 4]) : '';
        $notes = "Songs and talk\n".'Photo: http://old.skerryradio.example'.self::at($this->paths[45])."\n";
        $this->add('sr_episode', [
            $n,
            1 + $n % 24,
            $n,
            "Episode $n",
            $n % 3 === 0 ? $notes : 'Songs',
            "vault://sounds/ep-$n.mp3",
            '2017-03-04',
            $cover,
        ]);
        $this->uses('sr_episode', $n, 'sound', $sound);
        $this->uses('sr_episode', $n, 'cover', ...$cover === '' ? [] : [$this->paths[41 + $n % 4]]);
        $this->uses('sr_episode', $n, 'notes', ...$n % 3 === 0 ? [$this->paths[45]] : []);
        if ($n % 6 === 0) {
            $this->add('sr_letter', [
                intdiv($n, 6), $n, 'Grand! <img src="'.self::at($this->thumbs[46]).'">', $n === 6 ? 0 : 1,
            ]);
            $this->uses('sr_letter', intdiv($n, 6), 'body', $this->paths[46]);
        }
    }

    private function widgets(): void
    {
        foreach (range(1, 5) as $n) {
            $packed = base64_encode(serialize([
                'title' => "Widget $n",
                'picture' => 46 + $n,
                'html' => '<img src="'.self::at($this->paths[52]).'">',
            ]));
            $this->add('sr_widget', [$n, 'sidebar', 'promo', $packed, $n === 4 ? 0 : 1]);
            $this->uses('sr_widget', $n, 'packed', $this->paths[46 + $n], $this->paths[52]);
        }
        foreach (range(1, 6) as $n) {
            $points = $n % 2 === 0 ? "programme/$n" : 'picture/'.(52 + $n);
            $this->add('sr_feature', [$n, $n, $points, "Teaser $n"]);
            $this->uses('sr_feature', $n, 'points_at', ...$n % 2 === 0 ? [] : [$this->paths[52 + $n]]);
            $this->add('sr_sponsor', [
                $n, "Sponsor $n", 58 + $n, 'https://sponsor.example/', ['on', 'off', 'deleted'][intdiv($n, 3)],
            ]);
            $this->uses('sr_sponsor', $n, 'logo_id', $this->paths[58 + $n]);
            $this->add('sr_sponsor_programme', [$n, $n]);
        }
    }

    private function settings(): void
    {
        $settings = [
            ['look', 'logo', 'vault://look/logo.svg', $this->file('shared/look/logo.svg')],
            ['look', 'background', 'url(/shared/look/bg.png) repeat', $this->file('shared/look/bg.png')],
            ['look', 'favicon_id', '65', $this->paths[65]],
            ['foot', 'html', '<img src="'.self::at($this->paths[66]).'">', $this->paths[66]],
            ['mail', 'from', 'studio@skerryradio.example'],
        ];
        foreach ($settings as $setting) {
            $this->add('sr_config', array_slice($setting, 0, 3));
            $this->uses('sr_config', "$setting[0]/$setting[1]", 'value', ...array_slice($setting, 3));
        }
        $icon = $this->file('shared/look/listen.svg');
        $tree = [['label' => 'Listen', 'to' => '/en/programmes/programme-1', 'icon' => "/$icon",
            'below' => [['label' => 'More', 'to' => '/en/programmes/programme-2', 'picture' => 67]]]];
        $this->add('sr_menu', [1, (string) json_encode($tree)]);
        $this->uses('sr_menu', 1, 'tree', $icon, $this->paths[67]);
    }
}
