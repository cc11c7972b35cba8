<?php

declare(strict_types=1);

use Tests\App\Loopback;
use Ylema\Addresses\Url;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/*
 * Chromium's word on single rows: what the reader says is always fetched is requested, and what it says is only
 * followed, or named in words, is not. One small server on loopback answers for all files and writes down who asked.
 */

const FETCHED_MARKUP = [
    'a picture' => '<img src=/a.png>',
    'a picture beside candidates' => '<img src=/a.png srcset="/b.png 1x">',
    'a source that fits' => '<picture><source srcset=/a.png><img src=/b.png></picture>',
    'a picture without a source' => '<picture><img src=/a.png></picture>',
    'style' => '<p style="background:url(/a.png)">x</p>',
    'style in a drawing' => '<svg><style>@import "/a.css";</style></svg>',
    'style in a section' => '<svg><style><![CDATA[@import "/a.css";]]></style></svg>',
    'a picture in a drawing' => '<svg width=9 height=9><image href=/a.png width=9 height=9 /></svg>',
    'both spellings' => '<svg><image xlink:href=/a.png href=/b.png width=9 height=9 /></svg>',
    'a script in a drawing' => '<svg><script href=/a.js></script></svg>',
    'a frame' => '<iframe src=/a.html></iframe>',
    'a frame with a document' => '<iframe src=/a.html srcdoc="<img src=/b.png>"></iframe>',
    'frames' => '<frameset cols=*><frame src=/a.html></frameset>',
    'backgrounds of a table' => '<table background=/1.png><thead background=/2.png><tr background=/3.png><th '
        .'background=/4.png>x<tbody background=/5.png><tr><td background=/6.png>x<tfoot background=/7.png><tr><td>x'
        .'</table>',
    'of a body' => '<body background=/a.png><p>x</p></body>',
    'a picture for slow lines' => '<img lowsrc=/a.png src=/b.png>',
    'a sound behind the page' => '<bgsound src=/a.wav>',
    'an object' => '<object data=/a.svg type=image/svg+xml></object>',
    'a parameter' => '<object><param name=movie value=/a.swf></object>',
    'an event' => '<img src=/a.png onmouseover="this.src=\'/media/b.png\'">',
    'without script' => '<noscript><img src=/a.png></noscript><img src=/b.png>',
    'a noscript that ends early' => '<noscript><img title="</noscript>" src=/a.png><img src=/b.png>',
    'a template' => '<template><img src=/a.png></template><img src=/b.png>',
    'markup in a script' => '<script type=text/html><img src=/a.png></script><img src=/b.png>',
    'a style sheet' => '<link rel=stylesheet href=/a.css>',
    'a style sheet that is off' => '<link rel=stylesheet href=/a.css disabled>',
    'a preload' => '<link rel=preload as=image href=/a.png>',
    'a preload of nothing' => '<link rel=preload href=/a.png>',
    'a preload of another type' => '<link rel=preload as=image type=image/jxl href=/a.jxl>',
    'a script' => '<script src=/a.js></script>',
    'a script for old browsers' => '<script nomodule src=/a.js></script>',
    'a script that is none' => '<script type=text/x src=/a.js></script>',
    'imports' => '<style>@layer x; @import "/a.css"; @import url(/b.css) layer(x); a{b:c} @import "/c.css";</style>',
    'a namespace' => '<style>@namespace svg url(/a.xml); p{background:url(#x)}</style><p>x</p>',
    'a base of a template' => '<template><base href=/no/></template><img src=a.png>',
    'a base of a frame' => '<iframe srcdoc="<base href=/no/>"></iframe><img src=a.png>',
    'a base of script' => '<base href="javascript:x"><img src=a.png>',
    // Of an object or embed, the browser's own haste says whether the base has come by then.
    'a late base' => '<link rel=icon href=/0.png><img src=a.png><img srcset="b.png 1x" src=/1.png>'
        .'<video poster=c.png></video>'
        .'<script src=a.js></script><iframe src=a.html></iframe>'
        .'<svg width=9 height=9><image href=e.png width=9 height=9 /></svg><table background=f.png></table>'
        .'<base href=/late/><img src=z.png>',
    'a late base behind style' => '<style>@import "/a.css";</style><p>x</p><base href=/late/>'
        .'<p style="background:url(z.png)">x',
    'an import in an attribute' => '<p style="@import \'/a.css\'; background:url(/b.png)">x</p>',
    'an import with escapes' => '<style>@\\69mport "/a.css"; @im\\70 ort "/b.css";</style>',
    'sheets of other types' => '<style type="text/less">@import "/a.css";</style><link rel=stylesheet type=text/less '
        .'href=/b.css><style type="TEXT/CSS">@import "/c.css";</style>'
        .'<link rel=stylesheet type="text/css" href=/d.css>',
    'things of other types' => '<embed type=application/x-tides src=/a.tid>'
        .'<object type=application/x-tides data=/b.tid></object><embed type=image/svg+xml src=/c.svg>',
    'an object and an embed' => '<object data=/a.svg></object><embed src=/b.svg>',
    'a frame in a body' => '<body><p>x</p><frame src=/a.html></body>',
    'data' => '<script type=application/json>{"a":"<img src=/a.png><style>@import \'/a.css\';</style>"}</script>',
    'data of the page\'s own' => '<script type=text/x-own><img src=/a.png></script><p data-wide=/media/a.png>x',
    'elements of the page\'s own' => '<tide-map src=/media/a.png style="background:url(/b.png)">x</tide-map>',
    'a set with a property' => '<style>p{--a:"/a.png";background:image-set(var(--a) 1x)}</style><p>x</p>',
    'a script that puts markup together' => '<script>document.write("<img sr" + "c=/a.png>" + `<i>${1}</i>`)</script>',
    'a script that puts an address together' => '<script>new Image().src = "/media/" + "a.png"</script>',
    'several words' => '<meta property="og:image twitter:image" content=/a.png>',
    'plain words' => '<p>/media/a.png</p><img src=/b.png>',
    'links' => '<a href=/a.html>x</a><form action=/b.html><button formaction=/c.html>x</button></form>'
        .'<blockquote cite=/d.html>x</blockquote><link rel=canonical href=/e.html>',
    'a share picture' => '<meta property=og:image content=/a.png><meta name=msapplication-config content=/b.xml>',
];

it('says of each place what Chromium does with it', function (): void {
    $folder = sys_get_temp_dir().'/ylema-rows-'.bin2hex(random_bytes(4));
    mkdir($folder);
    file_put_contents(
        "$folder/router.php",
        <<<'PHP'
        <?php
        $path = parse_url($_SERVER['REQUEST_URI'], PHP_URL_PATH);
        if (preg_match('~^/(\d+)/$~', $path, $m)) {
            header('Content-Type: text/html; charset=utf-8');
            readfile(__DIR__."/$m[1].html");
            exit;
        }
        file_put_contents(__DIR__.'/asked', $path."\n", FILE_APPEND | LOCK_EX);
        $types = ['png' => 'image/png', 'css' => 'text/css', 'js' => 'text/javascript', 'html' => 'text/html',
            'svg' => 'image/svg+xml'];
        header('Content-Type: '.($types[pathinfo($path, PATHINFO_EXTENSION)] ?? 'application/octet-stream'));
        echo str_ends_with($path, '.png') ? base64_decode('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42'
            .'mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==') : '';
        PHP
        ,
    );
    $server = new Loopback("$folder/router.php");
    try {
        $rows = array_values(FETCHED_MARKUP);
        foreach ($rows as $n => $markup) {
            // Each row has a folder of its own, so that the order of the requests does not matter.
            $placed = preg_replace('~(?<=[\s=("\'])/(?=[\w.])~', "/$n/", $markup);
            file_put_contents("$folder/$n.html", "<!DOCTYPE html>$placed");
            $this->driver()->get($server->origin()."/$n/");
        }
        // What comes late has come when nothing more does.
        [$size, $quiet] = [0, 0];
        $this->await(
            function () use ($folder, &$size, &$quiet): bool {
                clearstatcache();
                $quiet = $size === filesize("$folder/asked") ? $quiet + 1 : 0;
                $size = filesize("$folder/asked");

                return $quiet > 12;
            },
            'it goes on asking',
            60,
        );
        $asked = array_flip(explode("\n", (string) file_get_contents("$folder/asked")));
        expect(count($asked))->toBeGreaterThan(35);
        $differ = [];
        foreach (array_keys(FETCHED_MARKUP) as $n => $name) {
            $text = (string) file_get_contents("$folder/$n.html");
            $rules = new Rules(mediaFolders: ['/media/', "/$n/media/"]);
            $reading = (new FieldReader())->read($text, Notation::Html, $rules);
            foreach ($reading->references as $reference) {
                $page = Url::parse("http://x.example/$n/");
                $base = $reading->base === null || $reading->isBeforeBase($reference)
                    ? $page
                    : Url::parse($reading->base, $page);
                $path = (string) parse_url((string) Url::parse($reference->value, $base), PHP_URL_PATH);
                $isAsked = isset($asked[$path]);
                if ($reference->fetch === Fetch::Always && ! $isAsked) {
                    $differ[] = "$name: $path is said to be fetched always, and was not";
                }
                if (in_array($reference->fetch, [Fetch::WhenFollowed, Fetch::Never], true) && $isAsked) {
                    $differ[] = "$name: $path is said not to be fetched, and was";
                }
                unset($asked[$path]);
            }
        }
        $left = preg_grep('~^/\d+/~', array_map(strval(...), array_keys($asked))) ?: [];
        expect($differ)->toBe([])->and(array_values($left))->toBe([], 'asked for, but not named by the reader');
    } finally {
        $server->end();
        array_map(unlink(...), glob("$folder/*") ?: []);
        rmdir($folder);
    }
});
