<?php

declare(strict_types=1);

namespace Standin\Content;

/**
 * Writes references into one field of one record in the many ways that ten years of editors did, and notes each down.
 */
final readonly class FieldWriter
{
    public const NOW = 'https://korrinbay.example/';

    public const FORMER = 'https://www.korrin-observatory.example/bay/';

    public const FOREIGN = 'https://pics.shorelog.example/';

    public function __construct(
        private GroundTruth $truth,
        private string $kind,
        private string $key,
        private string $field,
    ) {
    }

    /** Percent-encoded as an address, root-relative. */
    public static function path(string $file): string
    {
        return '/'.implode('/', array_map(rawurlencode(...), explode('/', $file)));
    }

    /** An address for a file of the item, in the given manner of writing. */
    public function address(MediaItem $item, string $file, string $manner = 'root'): string
    {
        $path = self::path($file);
        [$value, $outcome, $meant] = match ($manner) {
            'absolute' => [rtrim(self::NOW, '/').$path, 'found', $file],
            'bare' => ['//korrinbay.example'.$path, 'found', $file],
            'former' => [rtrim(self::FORMER, '/').$path, 'former-address', $file],
            'former-http' => ['http://korrin-observatory.example/bay'.$path, 'former-address', $file],
            'insecure' => ['http://korrinbay.example'.$path, 'insecure-scheme', $file],
            'query' => [$path.'?v=3', 'found', $file],
            'case' => [self::wrongCase($path), 'letter-case', $file],
            'nfd' => [self::path((string) \Normalizer::normalize($file, \Normalizer::FORM_D)), 'unicode-form', $file],
            'raw' => ['/'.str_replace('%2F', '/', $file), 'found', $file],
            'twice' => [self::path(ltrim($path, '/')), 'encoding', $file],
            'extension' => [(string) preg_replace('~\.\w+$~', '.jpeg', $path), 'changed-extension', $file],
            'size' => [
                self::path((string) preg_replace('~\.(\w+)$~', '.w320.$1', $item->path)),
                'missing-rendition',
                $item->path,
            ],
            'moved' => ['/media/old/'.rawurlencode(basename($item->path)), 'moved', $item->path],
            default => [$path, 'found', $file],
        };
        $this->truth->address($this->kind, $this->key, $this->field, $value, $item, $meant, $outcome);

        return $value;
    }

    /** An address of a file that no longer exists anywhere. */
    public function gone(string $name): string
    {
        $value = "/media/2013/$name";
        $this->truth->address($this->kind, $this->key, $this->field, $value, null, null, 'missing-file');

        return $value;
    }

    public function foreign(string $name): string
    {
        $value = self::FOREIGN."p/$name";
        $this->truth->address($this->kind, $this->key, $this->field, $value, null, null, 'foreign-host');

        return $value;
    }

    /** A small drawing that somebody pasted into the text, as a program for notes would have it. */
    public function pasted(): string
    {
        $image = imagecreatetruecolor(96, 64);
        for ($i = 0; $i < 1200; $i++) {
            imagesetpixel(
                $image,
                ($i * 37) % 96,
                ($i * 53) % 64,
                (int) imagecolorallocate($image, ($i * 7) % 256, 120 + $i % 90, ($i * 11) % 256),
            );
        }
        ob_start();
        imagepng($image);
        $value = 'data:image/png;base64,'.base64_encode((string) ob_get_clean());
        $this->truth->address($this->kind, $this->key, $this->field, $value, null, null, 'pasted');

        return $value;
    }

    /** A link to a page that is no longer where the link says. */
    public function lost(string $value, string $words, string $outcome, ?string $to): string
    {
        $this->truth->link($this->kind, $this->key, $this->field, $value, $outcome, $to);

        return "<p><a href=\"$value\">$words</a></p>\n";
    }

    public function id(MediaItem $item): int
    {
        $this->truth->id($this->kind, $this->key, $this->field, $item);

        return $item->id;
    }

    public function slot(string $name): string
    {
        $this->truth->carries($this->kind, $this->key, 'slot', $name);

        return "%slot:$name%";
    }

    public function gallery(int $id): string
    {
        $this->truth->carries($this->kind, $this->key, 'gallery', (string) $id);

        return "%gallery:$id%";
    }

    /** A figure as the site's editor of today writes it. */
    public function figure(MediaItem $item, string $caption = '', string $manner = 'root'): string
    {
        $set = [];
        $src = $this->address($item, $item->file(480), $manner);
        if ($manner === 'root') {
            foreach ($item->renditions as $file => [$w, $h]) {
                if ($w !== $h) {
                    $set[] = $this->address($item, $file).' '.$w.'w';
                }
            }
        }
        $srcset = count($set) > 1 ? ' srcset="'.implode(', ', $set).'" sizes="(min-width: 60em) 48em, 100vw"' : '';

        return '<figure class="picture"><img src="'
            .self::escape($src)
            .'"'
            .$srcset
            .' alt="'
            .self::escape($item->alt)
            .'" width="960" height="'
            .(int) round((960 * $item->height) / $item->width)
            .'">'
            .($caption === '' ? '' : '<figcaption>'.$caption.'</figcaption>')
            .'</figure>'
            ."\n";
    }

    /** A picture aligned in the text, as the editor of 2015 wrote it. */
    public function aligned(MediaItem $item, string $side, string $manner = 'root', int $width = 300): string
    {
        return '<img class="align-'
            .$side
            .' bordered" style="margin: 0 1em 1em 0" src="'
            .self::escape($this->address($item, $manner === 'size' ? $item->path : $item->file($width), $manner))
            .'" alt="'
            .self::escape($item->alt)
            .'" width='
            .$width
            .">\n";
    }

    /** A small picture that leads to the large one. */
    public function linked(MediaItem $item, string $manner = 'root'): string
    {
        $href = $this->address($item, $item->path, $manner);

        return "<a href='"
            .htmlspecialchars($href, ENT_QUOTES)
            ."'><IMG SRC='"
            .htmlspecialchars($this->address($item, $item->file(160), $manner), ENT_QUOTES)
            ."' BORDER=0 ALT='"
            .htmlspecialchars($item->alt, ENT_QUOTES)
            ."'></a>\n";
    }

    public function lazy(MediaItem $item): string
    {
        return '<img class="lazy" data-src="'
            .self::escape($this->address($item, $item->file(480)))
            .'" alt="'
            .self::escape($item->alt)
            .'">'
            ."\n";
    }

    /** A document to be fetched. */
    public function paper(MediaItem $item, string $manner = 'root'): string
    {
        return '<p><a href="'
            .self::escape($this->address($item, $item->path, $manner))
            .'">'
            .$item->title
            ." (PDF)</a></p>\n";
    }

    public function film(MediaItem $item, MediaItem $poster): string
    {
        $html =
            '<video controls preload="none" width="320" height="180" src="'
            .self::escape($this->address($item, $item->path))
            .'"';

        return $html.' poster="'.self::escape($this->address($poster, $poster->file(480)))."\"></video>\n";
    }

    public function sound(MediaItem $item): string
    {
        return '<audio controls preload="none" src="'
            .self::escape($this->address($item, $item->path))
            ."\"></audio>\n";
    }

    public function band(MediaItem $item, string $words, string $manner = 'root'): string
    {
        return '<div class="band" style="background-image: url(&quot;'
            .self::escape($this->address($item, $item->file(960), $manner))
            .'&quot;); min-height: 12em"><p>'
            .$words
            ."</p></div>\n";
    }

    public function chosen(MediaItem $wide, MediaItem $narrow): string
    {
        $html =
            '<picture><source media="(min-width: 50em)" srcset="'
            .self::escape($this->address($wide, $wide->file(960)))
            .'">';

        return $html
            .'<img src="'
            .self::escape($this->address($narrow, $narrow->file(480)))
            .'" alt="'
            .self::escape($narrow->alt)
            .'" loading="lazy"></picture>'
            ."\n";
    }

    private static function escape(string $value): string
    {
        return htmlspecialchars($value, ENT_COMPAT | ENT_HTML5);
    }

    private static function wrongCase(string $path): string
    {
        $dot = (int) strrpos($path, '.');

        return substr($path, 0, $dot).strtoupper(substr($path, $dot));
    }
}
