<?php

declare(strict_types=1);

namespace Standin\Lane;

use Standin\Mill\Mill;

/**
 * A site that is a folder: the Marrow Lane Allotments, with pages in html, a diary in Markdown, style sheets, a data
 * file, a template in another language, and parts that pages include.
 */
final class Lane
{
    /** @var list<array{file: string, path: string}> every use of a file that lies there, by the file that names it */
    public array $uses = [];

    /** @var array<string, list<string>> address of a page → what a visitor meets there */
    public array $shown = [];

    /** @var list<string> */
    public array $idle = [];

    /** @var array<string, string> path → text */
    private array $texts = [];

    /** @var list<string> */
    private array $pictures = [];

    public function __construct(int $plots = 12)
    {
        foreach (range(1, 30) as $n) {
            $this->pictures[] = $n % 7 === 0 ? "img/Plot größe $n.jpg" : "img/plot-$n.jpg";
        }
        $this->around();
        foreach (range(1, $plots) as $n) {
            $this->plot($n, $plots);
        }
        foreach (range(1, 8) as $n) {
            $this->diary($n);
        }
        $this->idle = array_values(array_diff($this->pictures, array_column($this->uses, 'path')));
    }

    public function write(string $folder): void
    {
        foreach ($this->texts as $path => $text) {
            is_dir(dirname("$folder/$path")) || mkdir(dirname("$folder/$path"), 0o775, true);
            file_put_contents("$folder/$path", $text);
        }
        foreach ([...$this->pictures, 'img/tile.png', 'img/leaf.svg'] as $n => $path) {
            str_ends_with($path, '.svg')
                ? file_put_contents(
                    "$folder/$path",
                    '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><circle r="4"/></svg>',
                )
                : Mill::picture("$folder/$path", 300 + $n, 120, 80);
        }
    }

    private function around(): void
    {
        $this->text(
            'parts/head.html',
            '<header><img src="/'.self::encoded($this->pictures[0]).'" alt="Marrow Lane"></header>',
            [$this->pictures[0]],
        );
        $this->text(
            'css/lane.css',
            "body { background: url(../img/tile.png) }\n.leaf::before { content: url('../img/leaf.svg') }\n",
            ['img/tile.png', 'img/leaf.svg'],
        );
        $this->text(
            'data/produce.json',
            (string) json_encode([
                ['what' => 'leek', 'picture' => "/{$this->pictures[1]}"],
                ['what' => 'bean', 'picture' => "/{$this->pictures[2]}"],
            ]),
            [$this->pictures[1], $this->pictures[2]],
        );
        $this->text(
            'templates/notice.phtml',
            '<?php /* the board by the gate */ ?><img src="<?= $base ?>/'.$this->pictures[3].'">'."\n",
            [$this->pictures[3]],
        );
        $this->page('index.html', 'Marrow Lane Allotments', '<p>Come in.</p>', []);
    }

    private function plot(int $n, int $plots): void
    {
        $own = $this->pictures[4 + ($n % 16)];
        $other = $this->pictures[4 + (($n * 5) % 16)];
        $body =
            '<figure class="wide"><img src="../'
            .self::encoded($own)
            .'" srcset="../'
            .self::encoded($other)
            ." 2x\"></figure>\n"
            .'<div style="background:url(/'
            .self::encoded($other)
            .')">'
            .($n < $plots ? '<a href="'.($n + 1).'.html">next</a>' : '')
            .'</div>';
        $this->page(
            $n % 4 === 0 ? "plots/row-$n/index.html" : "plots/$n.html",
            "Plot $n",
            $n % 4 === 0 ? strtr($body, ['../' => '../../']) : $body,
            [$own, $other, $other],
        );
    }

    /** @param  list<string>  $used by the page's own text */
    private function page(string $path, string $title, string $body, array $used): void
    {
        $this->text(
            $path,
            "<!doctype html>\n<html><head><title>$title</title>\n"
                ."<link rel=stylesheet href=\"/css/lane.css\"></head>\n<body>\n"
                ."<!--#include virtual=\"/parts/head.html\" -->\n<h1>$title</h1>\n$body\n</body></html>\n",
            $used,
        );
        $address = preg_replace('~index\.html$~', '', $path) ?? $path;
        // What the data file and the template say is taken to be everywhere.
        $this->shown[$address] = array_values(
            array_unique([
                ...$used,
                $this->pictures[0],
                'img/tile.png',
                'img/leaf.svg',
                $this->pictures[1],
                $this->pictures[2],
                $this->pictures[3],
            ]),
        );
    }

    private function diary(int $n): void
    {
        $own = $this->pictures[20 + ($n % 6)];
        $isDraft = $n === 5;
        $this->text(
            "diary/2024-0$n.md",
            "---\ntitle: Diary of month $n\ndraft: "
                .($isDraft ? 'true' : 'false')
                ."\ncover: /$own\n---\n\nSowed.\n\n![beds](/"
                .self::encoded($own)
                .")\n",
            [$own, $own],
        );
        if (! $isDraft) {
            $this->shown["diary/2024-0$n/"] = [$own, $this->pictures[1], $this->pictures[2], $this->pictures[3]];
        }
    }

    /** @param  list<string>  $used */
    private function text(string $path, string $text, array $used): void
    {
        $this->texts[$path] = $text;
        foreach ($used as $one) {
            $this->uses[] = ['file' => $path, 'path' => $one];
        }
    }

    private static function encoded(string $path): string
    {
        return implode('/', array_map(rawurlencode(...), explode('/', $path)));
    }
}
