<?php

declare(strict_types=1);

namespace Tests\App\Connect;

/**
 * A museum of organs whose makers spoke German: plurals and words put together as there, folders in a table of their
 * own, sizes in another, names and values, a text in a second language, seconds since 1970.
 */
final class Organs extends ForeignSite
{
    private const TABLES = [
        'ordner (ordner_id integer primary key, pfad varchar(60))',
        'bilder (bild_id integer primary key, ordner_id int, datei varchar(80), bezeichnung varchar(80), breite int)',
        'bild_varianten (variante_id integer primary key, bild_id int, breite int, datei varchar(120))',
        'seiten (seite_id integer primary key, rubrik_id int, titel varchar(80), kurzname varchar(60), inhalt text, '
        .'kopfbild int, sichtbar int, geloescht int)',
        'seiten_texte (seite_id int, sprache varchar(2), titel varchar(80), inhalt text, '
        .'primary key (seite_id, sprache))',
        'rubriken (rubrik_id integer primary key, name varchar(40), kuerzel varchar(20), symbol varchar(60))',
        'zusatz (zusatz_id integer primary key, objekt varchar(10), objekt_id int, feld varchar(30), wert text)',
        'galerien (galerie_id integer primary key, name varchar(60))',
        'galerie_bilder (galerie_id int, bild_id int, reihenfolge int, primary key (galerie_id, bild_id))',
        'seite_galerie (seite_id int, galerie_id int, primary key (seite_id, galerie_id))',
        'werbung (werbung_id integer primary key, name varchar(40), bild_id int, ab int, bis int, aktiv varchar(1))',
        'werbung_rubrik (werbung_id int, rubrik_id int, primary key (werbung_id, rubrik_id))',
        'einstellungen (schluessel varchar(40) primary key, wert text)',
        'menue (menue_id integer primary key, text varchar(40), ziel varchar(80), bild varchar(80))',
        'kommentare (kommentar_id integer primary key, seite_id int, kommentar text, freigegeben int)',
        'versionen (version_id integer primary key, seite_id int, daten text)',
        'weiterleitungen (id integer primary key, alt varchar(80), neu varchar(80))',
        'zwischenspeicher (id integer primary key, daten text)',
    ];

    private const FOLDERS = [1 => 'haus', 2 => 'orgeln', 3 => 'feste/2011'];

    private const SECTIONS = [1 => 'haus', 2 => 'orgeln', 3 => 'feste'];

    /** @var array<int, string> */
    private array $paths = [];

    /** @var array<int, string> */
    private array $small = [];

    protected function write(): void
    {
        foreach (self::TABLES as $table) {
            $this->pdo->exec("create table tbl_$table");
        }
        foreach (self::FOLDERS as $n => $folder) {
            $this->add('tbl_ordner', [$n, $folder]);
        }
        foreach (range(1, 70) as $n) {
            $this->paths[$n] = $this->file('dateien/bilder/'.self::FOLDERS[1 + $n % 3]."/bild_$n.jpg");
            $this->add('tbl_bilder', [$n, 1 + $n % 3, "bild_$n.jpg", "Bild $n", 800]);
            $made = substr(md5("v$n"), 0, 2).'/'.md5("v$n").'.jpg';
            $this->small[$n] = $this->file("dateien/varianten/$made");
            $this->add('tbl_bild_varianten', [$n, $n, 320, $made]);
        }
        foreach (self::SECTIONS as $n => $section) {
            $this->add('tbl_rubriken', [$n, ucfirst($section), $section, "rubrik_$section.png"]);
            $this->uses('tbl_rubriken', $n, 'symbol', $this->file("design/rubrik_$section.png"));
            $this->add('tbl_galerien', [$n, "Galerie $n"]);
            $this->add('tbl_seite_galerie', [$n, $n]);
            foreach (range(40 + 3 * $n, 42 + 3 * $n) as $picture) {
                $this->add('tbl_galerie_bilder', [$n, $picture, 1]);
                $this->uses('tbl_galerie_bilder', "$n/$picture", 'bild_id', $this->paths[$picture]);
            }
        }
        foreach (range(1, 30) as $n) {
            $this->page($n);
        }
        foreach (range(1, 4) as $n) {
            $until = $n === 4 ? 1_300_000_000 : 4_000_000_000;
            $active = $n === 3 ? 'n' : 'j';
            $this->add('tbl_werbung', [$n, "Werbung $n", 55 + $n, 1_200_000_000, $until, $active]);
            $this->uses('tbl_werbung', $n, 'bild_id', $this->paths[55 + $n]);
            $this->add('tbl_werbung_rubrik', [$n, 1 + $n % 3]);
            $this->add('tbl_menue', [$n, "Zu $n", "/haus/seite-$n", "design/menue$n.gif"]);
            $this->uses('tbl_menue', $n, 'bild', $this->file("design/menue$n.gif"));
        }
        $this->settings();
        $this->add('tbl_weiterleitungen', [1, '/alt/seite', '/haus/seite-3']);
        $this->add('tbl_zwischenspeicher', [1, "<img src=\"/{$this->paths[64]}\">"]);
        $this->idle = [$this->paths[64], $this->paths[65]];
    }

    private function page(int $n): void
    {
        [$shown, $placed] = [$this->paths[1 + $n % 25], 1 + ($n * 7) % 25];
        $to = '/'.self::SECTIONS[1 + $n % 3]."/seite-$n";
        $text = "<p><img src=\"/$shown\" alt=\"\"> <a href=\"$to\">x</a> [bild nr=$placed breite=300]</p>";
        // A script of the site's own makes it smaller.
        $file = substr($this->paths[$placed], strlen('dateien/bilder/'));
        $text .= $n % 5 === 0 ? "<img src=\"/bild.php?breite=300&amp;datei=$file\">" : '';
        $head = $n % 2 === 1 ? 1 + $n % 25 : null;
        $hidden = $n % 8 === 0 ? 0 : 1;
        $gone = $n === 11 ? 1_400_000_000 : 0;
        $this->add('tbl_seiten', [$n, 1 + $n % 3, "Seite Nummer $n.", "seite-$n", $text, $head, $hidden, $gone]);
        $this->uses('tbl_seiten', $n, 'inhalt', $shown, $this->paths[$placed]);
        $this->uses('tbl_seiten', $n, 'inhalt', ...$n % 5 === 0 ? [$this->paths[$placed]] : []);
        $this->uses('tbl_seiten', $n, 'kopfbild', ...$head === null ? [] : [$shown]);
        if ($n % 3 === 0) {
            $english = "<p><img src='/{$this->small[$placed]}'></p>";
            $this->add('tbl_seiten_texte', [$n, 'en', "Page number $n.", $english]);
            $this->uses('tbl_seiten_texte', "$n/en", 'inhalt', $this->paths[$placed]);
        }
        if ($n % 4 === 0) {
            $this->add('tbl_zusatz', [$n, 'seite', $n, 'randbild', (string) (30 + $n % 5)]);
            $this->uses('tbl_zusatz', $n, 'wert', $this->paths[30 + $n % 5]);
        } elseif ($n % 5 === 0) {
            $this->add('tbl_zusatz', [$n, 'seite', $n, 'kasten', "<div><img src=\"/{$this->paths[36]}\"></div>"]);
            $this->uses('tbl_zusatz', $n, 'wert', $this->paths[36]);
        }
        if ($n % 6 === 0) {
            $old = serialize(['inhalt' => "<img src=\"/{$this->paths[37]}\">", 'kopfbild' => 38]);
            $this->add('tbl_versionen', [$n, $n, $old]);
            $this->uses('tbl_versionen', $n, 'daten', $this->paths[37], $this->paths[38]);
            $said = "Schön! http://www.orgelmuseum.example/{$this->paths[39]} ja";
            $this->add('tbl_kommentare', [$n, $n, $said, $n === 6 ? 0 : 1]);
            $this->uses('tbl_kommentare', $n, 'kommentar', $this->paths[39]);
        }
    }

    private function settings(): void
    {
        $settings = [
            'logo' => ['/'.$this->file('design/logo.svg'), 'design/logo.svg'],
            'fusszeile' => ["<img src=\"/{$this->paths[61]}\">", $this->paths[61]],
            'startbilder' => ['62,63', $this->paths[62], $this->paths[63]],
            'farbe' => ['#fff'],
        ];
        foreach ($settings as $name => $said) {
            $this->add('tbl_einstellungen', [$name, $said[0]]);
            $this->uses('tbl_einstellungen', $name, 'wert', ...array_slice($said, 1));
        }
    }
}
