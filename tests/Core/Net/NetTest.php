<?php

declare(strict_types=1);

use Tests\Core\Net\Hidden;
use Ylema\Net\FileNames;
use Ylema\Net\Mention;
use Ylema\Net\Net;
use Ylema\Net\Strength;
use Ylema\Reading\Encoding\Charset;

/** @param  list<string>  $paths */
function netOf(string ...$paths): Net
{
    return new Net(new FileNames($paths));
}

/** @return list<string> what a net finds, with its strength */
function caught(Net $net, string $text): array
{
    return array_map(
        static fn (Mention $m): string => "{$m->strength->value} {$m->said()}",
        $net->haul($text)->mentions,
    );
}

it('finds a file by what names it', function (string $text, array $says): void {
    $net = netOf(
        'media/seals/seal-colony.jpg', 'media/seals/Möwe am Kai.png', 'media/DSC_04417.JPG', 'media/logo.svg',
        'media/9f86d081884c7d659a2feaa0c55ad015.jpg', 'docs/tide tables (2019).pdf', 'media/海滩.jpg',
        'media/портрет.jpg',
        'media/hero.w640.jpg', 'media/hero.jpg', 'theme/extra.xyzzy', '1.jpg',
    );
    expect(caught($net, $text))->toBe($says);
})->with([
    'its path' => ['see media/seals/seal-colony.jpg!', ['path media/seals/seal-colony.jpg']],
    'an address' => ['https://old.example/bay/media/seal-colony.jpg?x=1', ['path bay/media/seal-colony.jpg']],
    'its name, in any case' => ['(SEAL-Colony.JPG)', ['name seal-colony.jpg']],
    'steps above' => ['url(../../seals/seal-colony.jpg)', ['path seals/seal-colony.jpg']],
    'json' => ['{"a":"\/media\/seals\/seal-colony.jpg"}', ['path media/seals/seal-colony.jpg']],
    'json behind a line' => ['{"a":"x\nseal-colony.jpg"}', ['name seal-colony.jpg']],
    'json in json' => ['"{\"a\":\"x\\\\nseal-colony.jpg\"}"', ['name seal-colony.jpg']],
    'json escapes' => ['"\u0073eal\u002dcolony.jpg"', ['name seal-colony.jpg']],
    'percent' => ['%73eal%2Dcolony%2Ejpg', ['name seal-colony.jpg']],
    'percent twice' => ['x%2520seal%252Dcolony.jpg', ['name seal-colony.jpg']],
    'entities' => ['&#115;eal&#x2d;colony&period;jpg', ['name seal-colony.jpg']],
    'css' => ['url(\73 eal\2d colony.jpg)', ['name seal-colony.jpg']],
    'a path of Windows' => ['C:\www\media\seal-colony.jpg', ['name seal-colony.jpg']],
    'a blank as a plus' => ['?f=tide+tables+(2019).pdf', ['name tide tables (2019).pdf']],
    'a blank as %20' => ['docs/tide%20tables%20%282019%29.pdf', ['path docs/tide tables (2019).pdf']],
    'its name without an ending' => ["'seal-colony'", ['stem seal-colony']],
    'a digest' => ['id 9f86d081884c7d659a2feaa0c55ad015 there', ['stem 9f86d081884c7d659a2feaa0c55ad015']],
    'letters and digits' => ['shot dsc_04417 of', ['stem dsc_04417']],
    'another ending' => ['seal-colony.webp', ['name seal-colony.webp']],
    'a second ending' => ['seal-colony.jpg.webp', ['name seal-colony.jpg']],
    'a size of it' => ['seal-colony-300x200.jpg', ['stem seal-colony.jpg']],
    'a size before it' => ['thumb_seal-colony.jpg', ['stem seal-colony.jpg']],
    'a size that is a file' => ['hero.w640.jpg', ['name hero.w640.jpg']],
    'a size that is none' => ['hero.w641.jpg', ['stem hero.jpg']],
    'letters of other alphabets' => ['<x y="МЕДИА/Портрет.jpg">', ['path медиа/портрет.jpg']],
    'signs without blanks' => ['图片海滩.jpg和', []],
    'signs' => ['«海滩.jpg»', ['name 海滩.jpg']],
    'composed' => ["m=\u{4d}o\u{308}we am Kai.png", ['name möwe am kai.png']],
    'composed, in capitals' => ["M\u{d6}WE AM KAI.PNG", ['name möwe am kai.png']],
    'one byte a letter' => ["M\xf6we am Kai.png", ['name möwe am kai.png']],
    'one byte a letter, in percent' => ['M%F6we%20am%20Kai.png', ['name möwe am kai.png']],
    'two bytes a letter' => ["\xff\xfe".mb_convert_encoding('a Möwe am Kai.png', 'UTF-16LE', 'UTF-8'), [
        'name möwe am kai.png',
    ]],
    'four bytes a letter' => [mb_convert_encoding('"seal-colony.jpg"', 'UTF-32BE', 'UTF-8'), ['name seal-colony.jpg']],
    'bytes around it' => ["\x00\x01\xffseal-colony.jpg\xfe\x80", ['name seal-colony.jpg']],
    'an ending of nobody else' => ['a:extra.xyzzy', ['name extra.xyzzy']],
    'its folder without an ending' => ['=media/logo;', ['stem media/logo']],
    'a plain word as a value' => ['{"pic": "logo"}', ['word logo']],
    'a plain word in a list' => ['a,logo,b', ['word logo']],
    'a plain word that begins a quoted sentence' => ['alt="Logo, drawn"  x="logo; or"', []],
    'a plain word for people' => ['<img alt="logo"> {"title": "logo", \\"caption\\":\\"logo\\"}', []],
    'a plain word in escaped quotes' => ['{\\"pic\\":\\"logo\\"}', ['word logo']],
    'a plain word in a sentence' => ['our logo is new', []],
    'a longer name' => ['old-seal-colony.jpg seal-colony-of-may.jpg', []],
    'a longer word' => ['thelogo.svg logos.svg', []],
    'another kind of file' => ['logo.php seal-colony.html', []],
    'a number with an ending' => ['"1.jpg"', ['name 1.jpg']],
    'a number' => ['there is 1 left', []],
    'a template' => ['`seal-colony-${w}.jpg`', ['stem seal-colony']],
]);

it('leaves what was read as a reference to the readers', function (): void {
    $text = '<img src="/media/seal-colony.jpg" data-x="seal-colony.jpg">';
    $mentions = netOf('media/seal-colony.jpg')->haul($text, [[10, 33]])->mentions;
    expect($mentions)->toHaveCount(1)
        ->and(substr($text, $mentions[0]->start, $mentions[0]->length))->toBe('seal-colony.jpg')
        ->and($mentions[0]->start)->toBeGreaterThan(33);
});

it('says where it stands in bytes of the outermost text', function (): void {
    $text = str_repeat('x &amp; y ', 20_000).'{"a":"\u0073eal\u002dcolony.jpg"}'.str_repeat(' %20', 9000);
    $mention = netOf('media/seal-colony.jpg')->haul($text)->mentions[0];
    expect(substr($text, $mention->start, $mention->length))->toBe('\u0073eal\u002dcolony.jpg');
});

it('finds what stands on the border of two parts', function (): void {
    $net = netOf('media/seal-colony.jpg');
    foreach ([65_520, 65_530, 61_436, 61_440, 61_450] as $before) {
        $text = str_repeat('.', $before - 1).' media/seal-colony.jpg'.str_repeat(' .', 3000);
        $found = $net->haul($text)->mentions;
        expect($found)->toHaveCount(1)->and($found[0]->said())->toBe('media/seal-colony.jpg')
            ->and(substr($text, $found[0]->start, $found[0]->length))->toBe('media/seal-colony.jpg');
    }
});

it('finds a name in whatever encoding its text is in', function (string $encoding, string $name): void {
    $net = netOf("media/$name.jpg", 'media/logo.svg');
    $bytes = (string) iconv('UTF-8', $encoding, $name);
    // Long enough that parts are cut among letters; bytes of two characters may look like one between them.
    $isLong = in_array($encoding, ['CP932', 'GB18030', 'BIG5'], true);
    $filling = str_repeat(" $bytes$bytes$bytes", intdiv($isLong ? 66_000 : 600, 3 * strlen($bytes) + 1));
    foreach (["<x y=\"/media/$bytes.jpg\">", "$filling \"$bytes.jpg\" ", "x \xFF\n$bytes.jpg"] as $text) {
        $said = array_map(
            static fn (Mention $m): string => $m->said().'|'.substr($text, $m->start, $m->length),
            $net->haul($text)->mentions,
        );
        expect($said)->toContain(str_contains($text, '/') ? "media/$name.jpg|/media/$bytes.jpg" : "$name.jpg|$bytes.jpg");
    }
})->with([
    'Shift_JIS' => ['CP932', '港の表'],
    'EUC-JP' => ['EUC-JP', 'アザラシ'],
    'GBK' => ['GB18030', '海豹'],
    'Big5' => ['BIG5', '港口圖功'],
    'EUC-KR' => ['CP949', '항구'],
    'windows-1251' => ['CP1251', 'портрет'],
    'KOI8-R' => ['KOI8-R', 'портрет'],
    'IBM866' => ['CP866', 'гавань'],
    'windows-1253' => ['CP1253', 'θάλασσα'],
    'windows-1250' => ['CP1250', 'přístav'],
    'windows-1254' => ['CP1254', 'ağaç'],
    'windows-1255' => ['CP1255', 'נמל'],
    'windows-1256' => ['CP1256', 'ميناء'],
    'windows-874' => ['CP874', 'ท่าเรือ'],
    'macintosh' => ['MACINTOSH', 'möwe'],
]);

it('reads text in the encoding that it is known to be in', function (): void {
    $net = netOf('media/港の表.jpg', 'media/möwe.jpg', 'media/logo.svg');
    $jis = '<a data-x="'.iconv('UTF-8', 'ISO-2022-JP', '港の表').'.jpg">';
    expect($net->haul($jis, [], Charset::called('iso-2022-jp'))->mentions[0]->said())->toBe('港の表.jpg');
    // What is decoded is found by its bytes, and what was read before is left out.
    $text = iconv('UTF-8', 'CP932', '表示 港の表.jpg 表示 "港の表.jpg"');
    $length = strlen((string) iconv('UTF-8', 'CP932', '港の表.jpg'));
    $mentions = $net->haul((string) $text, [[5, 5 + $length]], Charset::called('sjis'))->mentions;
    expect($mentions)->toHaveCount(1)
        ->and($mentions[0]->start)->toBe(strlen((string) $text) - $length - 1)
        ->and($mentions[0]->length)->toBe($length);
});

it('says that it gave up where texts hide each other without end', function (): void {
    $text = 'a';
    for ($i = 0; $i < 22; $i++) {
        $text = rawurlencode("$text%&");
    }
    expect(netOf('media/seal-colony.jpg')->haul($text)->left)->toContain('more ways');
});

it('finds each name in whatever layers it hides', function (int $seed): void {
    $hidden = new Hidden($seed);
    for ($i = 0; $i < 80; $i++) {
        [$paths, $name, $text, $start, $length] = $hidden->draw();
        $haul = (new Net(new FileNames($paths)))->haul($text);
        $spans = array_map(static fn (Mention $m): array => [$m->start, $m->length], $haul->mentions);
        expect($haul->left)->toBeNull()
            ->and(in_array([$start, $length], $spans, true))
            ->toBeTrue("$name in ".substr($text, max(0, $start - 9), $length + 18));
    }
})->with([1, 2, 3, 4]);

it('keeps memory flat for a hundred thousand names', function (): void {
    $paths = (static function (): iterable {
        for ($i = 0; $i < 100_000; $i++) {
            yield sprintf('media/%04d/%s-%05d.jpg', $i % 97, ['seal', 'tern', 'harbour', 'boat'][$i % 4], $i);
        }
    })();
    $before = memory_get_usage();
    $names = new FileNames($paths);
    expect(memory_get_usage() - $before)->toBeLessThan(40 << 20)
        ->and(caught(new Net($names), 'x seal-00400.jpg y'))->toBe(['name seal-00400.jpg']);
});

it('calls whole what has its ending', function (): void {
    $whole = array_filter(Strength::cases(), static fn (Strength $s): bool => $s->isWhole());
    expect($whole)->toBe([Strength::Path, Strength::Name]);
});
