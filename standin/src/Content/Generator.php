<?php

declare(strict_types=1);

namespace Standin\Content;

use GdImage;
use PDO;
use Standin\Drawing\Film;
use Standin\Drawing\Motifs;
use Standin\Drawing\Papers;

/** Draws the demo's files and writes its content database. Safe to run again: what is there is left alone. */
final readonly class Generator
{
    private const CODE = [
        'theme/header.phtml' => <<<'PHTML'
        <?php /* The band above every page. */ ?>
        <a class="home" href="/"><img src="<?= $base ?>/media/brand/korrin-logo.png" alt="Korrin Bay"></a>
        PHTML
        ,
        'theme/footer.phtml' => <<<'PHTML'
        <?php $seal = 'left-01.jpg'; // in the archive, by its name alone ?>
        <footer><img src="<?= $base.'/media/archive/'.$seal ?>" alt="The seal of the trust"></footer>
        PHTML
        ,
        'theme/print.css' => <<<'CSS'
        @media print {
          body { background: url("../media/archive/left-02.jpg") no-repeat; }
        }
        CSS
        ,
        'theme/widgets/tide.js' => 'const dial = {"face": "\/media\/archive\/left-03.jpg", "step": 12};'
            .'
',
        'theme/mail/newsletter.html' => '<img src="https://korrinbay.example/media/archive/left-04.jpg" alt="">'
            .'
',
    ];

    public function __construct(private string $folder)
    {
    }

    /** Draws every $of-th item beginning with the $part-th, so that two processes can share the work. */
    public function draw(Catalogue $catalogue, int $part = 0, int $of = 1): int
    {
        $drawn = 0;
        foreach ($catalogue->items as $item) {
            if ($item->id % $of !== $part) {
                continue;
            }
            $target = "$this->folder/site/$item->path";
            if (is_file($target)) {
                continue;
            }
            if ($item->width === 0 || $item->motif === 'drawing') {
                $this->put($item);
                $this->date($item);
                $drawn++;

                continue;
            }
            $source = $item->copyOf === null ? $item : $catalogue->items[$item->copyOf];
            $canvas = Motifs::draw(
                $source->motif,
                $source->seed,
                $source->width,
                $source->height,
                $source->label,
                $source->width > 3000 ? 1.0 : 1.6,
            );
            $original =
                $canvas->oversize === 1.0
                    ? $canvas->image
                    : $this->scaled(
                        $canvas->image,
                        $item->cut ? $source->width : $item->width,
                        $item->cut ? $source->height : $item->height,
                    );
            if ($item->cut) {
                $original = self::cut($original, $item->width, $item->height);
            }
            foreach ($item->renditions as $path => [$w, $h]) {
                $this->save($this->scaled($original, $w, $h), $path, 78);
            }
            // The original last: its presence says that the whole item is done.
            $this->save($original, $item->path, $item->recoded ? 62 : 84, $item);
            $this->date($item);
            $drawn++;
        }

        return $drawn;
    }

    /** Files carry the time of their upload. */
    private function date(MediaItem $item): void
    {
        foreach ([$item->path, ...array_keys($item->renditions)] as $path) {
            $at = $item->uploaded();
            if ($at !== null) {
                touch("$this->folder/site/$path", $at);
            }
        }
    }

    /** A square from the middle of a picture. */
    private static function cut(GdImage $image, int $width, int $height): GdImage
    {
        $side = min(imagesx($image), imagesy($image));
        $part = imagecrop($image, [
            'x' => intdiv(imagesx($image) - $side, 2),
            'y' => intdiv(imagesy($image) - $side, 2),
            'width' => $side,
            'height' => $side,
        ]);
        assert($part !== false);
        $scaled = imagescale($part, $width, $height, IMG_BILINEAR_FIXED);
        assert($scaled !== false);

        return $scaled;
    }

    /** The site's own code, which names pictures that no record does. */
    public function code(): void
    {
        foreach (self::CODE as $path => $text) {
            @mkdir(dirname("$this->folder/site/$path"), 0o775, true);
            file_put_contents("$this->folder/site/$path", $text);
        }
    }

    /** What no canvas draws. */
    private function put(MediaItem $item): void
    {
        $target = "$this->folder/site/$item->path";
        @mkdir(dirname($target), 0o775, true);
        file_put_contents(
            "$target.part",
            match ($item->motif) {
                'document' => Papers::pdf($item->title, $item->seed),
                'drawing' => Papers::svg($item->width, $item->height, $item->seed),
                'film' => Film::webm(static fn (int $i): GdImage => self::flood($i), 24, 320, 180, 8),
                default => Papers::wav(),
            },
        );
        rename("$target.part", $target);
    }

    /** The water rises over the flats. */
    private static function flood(int $frame): GdImage
    {
        $image = imagecreatetruecolor(320, 180);
        assert($image !== false);
        imagefilledrectangle($image, 0, 0, 320, 90, (int) imagecolorallocate($image, 196, 214, 220));
        imagefilledrectangle($image, 0, 90, 320, 180, (int) imagecolorallocate($image, 186, 170, 140));
        for ($x = 0; $x < 320; $x++) {
            $edge = (int) (172 - $frame * 2.6 + 4 * sin(($x + $frame * 9) / 21));
            imageline($image, $x, $edge, $x, 180, (int) imagecolorallocate($image, 46, 108, 122));
        }

        return $image;
    }

    private function scaled(GdImage $image, int $width, int $height): GdImage
    {
        $w = imagesx($image);
        $h = imagesy($image);
        // A square cut is taken from the middle; everything else keeps its shape.
        if ($width === $height && $w !== $h) {
            $side = min($w, $h);
            $cut = imagecrop($image, [
                'x' => intdiv($w - $side, 2),
                'y' => intdiv($h - $side, 2),
                'width' => $side,
                'height' => $side,
            ]);
            $image = $cut === false ? $image : $cut;
        }
        // Halving first keeps a bilinear scaler from skipping pixels.
        while (imagesx($image) > $width * 2.2) {
            $half = imagescale($image, intdiv(imagesx($image), 2), intdiv(imagesy($image), 2), IMG_BILINEAR_FIXED);
            assert($half !== false);
            $image = $half;
        }
        $scaled = imagescale($image, max(1, $width), max(1, $height), IMG_BILINEAR_FIXED);
        assert($scaled !== false);

        return $scaled;
    }

    private function save(GdImage $image, string $path, int $quality, ?MediaItem $item = null): void
    {
        $target = "$this->folder/site/$path";
        @mkdir(dirname($target), 0o775, true);
        $beside = "$target.part";
        match (strtolower(pathinfo($path, PATHINFO_EXTENSION))) {
            'png' => imagepng($image, $beside, 6),
            'webp' => imagewebp($image, $beside, $quality),
            default => imagejpeg($image, $beside, $quality),
        };
        if ($item !== null && $item->credit !== '' && $item->extension() === 'jpg') {
            file_put_contents($beside, self::withIptc((string) file_get_contents($beside), $item));
        }
        if ($item !== null && $item->width > 3000) {
            file_put_contents($beside, self::withExif((string) file_get_contents($beside)));
        }
        rename($beside, $target);
    }

    /** IPTC-IIM, record 2: object name (5), by-line (80), credit (110). */
    private static function withIptc(string $jpeg, MediaItem $item): string
    {
        $data = '';
        $found = [5 => $item->title, 80 => $item->credit, 110 => 'Korrin Bay Tidewater Observatory'];
        foreach ($found as $tag => $value) {
            $data .= "\x1C\x02".chr($tag).pack('n', strlen($value)).$value;
        }
        $block = "8BIM\x04\x04\x00\x00".pack('N', strlen($data)).$data.(strlen($data) % 2 ? "\0" : '');
        $segment = "Photoshop 3.0\0".$block;

        return substr($jpeg, 0, 2)."\xFF\xED".pack('n', strlen($segment) + 2).$segment.substr($jpeg, 2);
    }

    /** A small Exif 2.3 block: maker and date. */
    private static function withExif(string $jpeg): string
    {
        $make = "Brightlens\0\0";
        $date = "2024:06:02 07:41:12\0";
        $tiff =
            "II*\0"
            .pack('V', 8)
            .pack('v', 2)
            .pack('vvVV', 0x010F, 2, strlen($make), 38)
            .pack('vvVV', 0x0132, 2, strlen($date), 38 + strlen($make))
            .pack('V', 0)
            .$make.
            $date;
        $segment = "Exif\0\0".$tiff;

        return substr($jpeg, 0, 2)."\xFF\xE1".pack('n', strlen($segment) + 2).$segment.substr($jpeg, 2);
    }

    /** The former address still serves what was there before 2017; the foreign host serves a few of its pictures. */
    public function outside(Catalogue $catalogue): void
    {
        foreach ($catalogue->items as $item) {
            if (preg_match('~^media/(?:2014|2015|2016)/~', $item->path) === 1) {
                foreach ([$item->path, ...array_keys($item->renditions)] as $path) {
                    $this->copy("site/$path", "former/bay/$path");
                }
            }
        }
        foreach (['8-3', '24-4', '56-1', '72-2'] as $n => $name) {
            $this->copy('site/'.$catalogue->of('flocks', $n)->file(480), "foreign/p/$name.jpg");
        }
    }

    private function copy(string $from, string $to): void
    {
        if (! is_file("$this->folder/$to")) {
            @mkdir(dirname("$this->folder/$to"), 0o775, true);
            copy("$this->folder/$from", "$this->folder/$to");
        }
    }

    public function write(Scenario $scenario, PDO $database): void
    {
        $database->beginTransaction();
        $database->exec((string) file_get_contents(__DIR__.'/schema.sql'));
        foreach ($scenario->tables as $table => $rows) {
            foreach (array_chunk($rows, 100) as $chunk) {
                $columns = array_keys($chunk[0]);
                $marks = '('.implode(',', array_fill(0, count($columns), '?')).')';
                $statement = $database->prepare(
                    "insert into $table ("
                        .implode(',', $columns)
                        .') values '
                        .implode(',', array_fill(0, count($chunk), $marks)),
                );
                $n = 1;
                foreach ($chunk as $row) {
                    foreach ($row as $value) {
                        $statement->bindValue(
                            $n++,
                            $value,
                            is_bool($value) ? PDO::PARAM_BOOL : (is_int($value) ? PDO::PARAM_INT : PDO::PARAM_STR),
                        );
                    }
                }
                $statement->execute();
            }
        }
        $tables = ['media', 'entries', 'banners', 'banner_sets', 'slots', 'galleries', 'revisions', 'redirects'];
        foreach ($tables as $table) {
            $database->exec("select setval(pg_get_serial_sequence('$table', 'id'), (select max(id) from $table))");
        }
        $database->commit();
        file_put_contents("$this->folder/ground-truth.json", $scenario->truth->json());
    }
}
