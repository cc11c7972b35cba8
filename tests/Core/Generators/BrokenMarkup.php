<?php

declare(strict_types=1);

namespace Tests\Core\Generators;

use Random\Engine\Mt19937;
use Random\Randomizer;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/** Markup broken in the ways of editors, databases and hands, and what the reader finds in it. */
final class BrokenMarkup
{
    /** Attributes that hold one address each; candidate lists and style are held against their own parsers. */
    public const ATTRIBUTES = [
        'img' => ['src'],
        'a' => ['href'],
        'source' => ['src'],
        'video' => ['src', 'poster'],
        'audio' => ['src'],
        'iframe' => ['src'],
        'embed' => ['src'],
    ];

    /** What every parser can be asked about. */
    public const PLAIN = [
        '<p',
        '</p>',
        '<b>',
        '<img src=/x.jpg alt=a>',
        '<IMG SRC="/y.jpg"/>',
        "<a href='/z?a=1&amp;b=2'>",
        '</a>',
        '<!-- x -->',
        '<br>',
        'text & more',
        ' < ',
        '<img src="/q.jpg" src="/w.jpg">',
        '<div class="a b">',
        '<img alt="x>y" src=/e.jpg>',
        '<video poster=/p.jpg>',
        '<i title=\'a"b\'>',
        '<img/src=/s.jpg>',
        '<img src = "/t.jpg" >',
        '</>',
        '<img src=/u.jpg',
        '>',
        '<textarea><img src=/no.jpg></textarea>',
        '<title><img src=/no.jpg></title>',
        '<style>a{}</style>',
    ];

    /** What needs a browser to be judged: scripts, drawings, comments at their worst, references without their semicolon. */
    public const HARD = [
        '<script>',
        '<script><!--',
        '<script><!-- <script>',
        '</script>',
        '</script >',
        '-->',
        '<!-->',
        '<!--->',
        '<!--',
        '<!---',
        '<!-- x --!>',
        '--!>',
        '<!x>',
        '<?x?>',
        '</ x>',
        '<![CDATA[',
        ']]>',
        '<svg>',
        '</svg>',
        '<svg/>',
        '<svg><title>',
        '<svg><style>',
        '<math>',
        '<math><mi>',
        '</math>',
        '<foreignObject>',
        '</foreignObject>',
        '<desc>',
        '<image src=/im.jpg>',
        '<svg><image href=/sv.png />',
        '<template>',
        '</template>',
        '<noembed>',
        '</noembed>',
        '<xmp>',
        '</xmp>',
        '<iframe src=/f.html>',
        '</iframe>',
        '<title>',
        '</title>',
        '<textarea>',
        '</textarea>',
        '<style>',
        '</style>',
        '<img src=/a&amp.jpg>',
        '<img src="/b&copy=1">',
        '<img src="/c&copyx">',
        '<img src=/d&#65;.jpg>',
        '<img src=/e&#x41.jpg>',
        '<img src="/f&notin;.jpg">',
        '<img src="/g&notit;.jpg">',
        '<img src="/h&#0;&#128;.jpg">',
        "<img\tsrc\n=\r\n/i.jpg>",
        "<img src=\"/j\r\n.jpg\">",
        "<img src=/k.jpg\0>",
        '<img src=/l.jpg/>',
        '<img src=/m.jpg"n>',
        '<img src=/o.jpg\'n=`>',
        '<img =src=/no.jpg src=/p.jpg>',
        '<img "src=/q.jpg">',
        "<img src='/r.jpg'alt=x>",
        '<img src="/s.jpg"src="/no.jpg">',
        '<img SrC=/t.jpg>',
        '<imgx src=/no.jpg>',
        '<a src=/no.jpg>',
        '<img href="/no.jpg">',
        '<img/ src=/u.jpg>',
        '<img / src=/v.jpg / >',
        '<img src=>',
        '<img src= >',
        '<img src>',
        '<img src="">',
        '<a href="/w.jpg" href>',
        "<a href='",
        '<a href="',
        '"',
        "'",
        '<',
        '</',
        '<!',
        '<a',
        '<1>',
        '< img src=/no.jpg>',
        '</img src=/no.jpg>',
        '<plaintext>',
    ];

    private Randomizer $random;

    /** @param  list<string>  $pieces */
    public function __construct(int $seed, private readonly array $pieces)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    public function draw(int $most = 14): string
    {
        $html = '';
        for ($n = $this->random->getInt(1, $most); $n > 0; $n--) {
            $html .= $this->pieces[$this->random->getInt(0, count($this->pieces) - 1)];
        }

        return $html.' ';
    }

    /** @return list<string> `element[attribute]=value` in the order of the text */
    public static function read(string $html): array
    {
        $found = [];
        foreach (
            (new FieldReader())->read($html, Notation::Html, new Rules(lazyAttributes: []))->references as $reference
        ) {
            if (
                preg_match('~^(\w+)\[(\w+)\]$~', $reference->role, $m) === 1
                && in_array($m[2], self::ATTRIBUTES[$m[1]] ?? [], true)
                && $reference->layerPath() === 'html'
            ) {
                $found[] = $reference->role.'='.$reference->value;
            }
        }

        return $found;
    }
}
