<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

it('reads and writes a text in the encoding that it says', function (
    string $label,
    string $encoding,
    string $word,
    string $other,
): void {
    $page = static fn (string $name): string => (string) iconv(
        'UTF-8',
        $encoding,
        "<meta charset=\"$label\"><p>$word</p><img alt=x src=\"/media/$name.jpg\"><img src=/media/end.jpg>",
    );
    $text = $page($word);
    $reading = (new FieldReader())->read($text, Notation::Html, new Rules());
    expect(array_column($reading->references, 'value'))
        ->toBe(["/media/$word.jpg", '/media/end.jpg'])
        ->and($reading->problems)
        ->toBe([]);
    $changes = [[$reading->references[0], "/media/$other.jpg"]];
    $after = (new Rewriter())->edits($text, Notation::Html, new Rules(), $changes)->applyTo($text);
    // Only the reference changes; the words around it stay the bytes that they were.
    expect($after)->toBe(
        (string) iconv('UTF-8', $encoding, "<meta charset=\"$label\"><p>$word</p><img alt=x src=\"/media/")
            .iconv('UTF-8', $encoding, $other)
            .'.jpg"><img src=/media/end.jpg>',
    );
})->with([
    'Cyrillic' => ['windows-1251', 'CP1251', 'Маяк', 'Море'],
    'Cyrillic of old' => ['koi8-r', 'KOI8-R', 'Маяк', 'Море'],
    'Latin' => ['iso-8859-1', 'CP1252', 'été – 5 €', 'Köln'],
    'Central European' => ['ISO-8859-2', 'ISO-8859-2', 'Łódź', 'Žatec'],
    'Greek' => ['windows-1253', 'CP1253', 'Φάρος', 'Νησί'],
    // Second bytes that are backslashes and letters.
    'Japanese' => ['Shift_JIS', 'CP932', 'ソ表十', '灯台'],
    'Japanese of Unix' => ['euc-jp', 'EUC-JP', '灯台', 'ソ表十'],
    'Chinese' => ['gb2312', 'GB18030', '灯塔', '海岛'],
    'Chinese of Taiwan' => ['big5', 'CP950', '燈塔', '功許蓋'],
    'Korean' => ['euc-kr', 'CP949', '등대', '섬'],
]);

it('writes into a page of plain letters in the encoding that it says', function (): void {
    $write = static function (string $text, string $value): string {
        $references = (new FieldReader())->read($text, Notation::Html, new Rules())->references;

        return (new Rewriter())->edits($text, Notation::Html, new Rules(), [[$references[0], $value]])->applyTo($text);
    };
    expect($write('<meta charset=iso-8859-1><img src="a.jpg">', 'é.jpg'))
        ->toBe("<meta charset=iso-8859-1><img src=\"\xE9.jpg\">")
        ->and($write('<meta charset=utf-8><img src="a.jpg">', 'é.jpg'))
        ->toBe('<meta charset=utf-8><img src="é.jpg">')
        // It says one thing and is another: browsers go by what it says.
        ->and($write('<meta charset=iso-8859-1><p>ü</p><img src="a.jpg">', 'é.jpg'))
        ->toBe("<meta charset=iso-8859-1><p>ü</p><img src=\"\xE9.jpg\">")
        // An address is the same in percent signs, which every encoding has.
        ->and($write('<meta charset=iso-8859-1><img src="a.jpg">', '水é.jpg'))
        ->toBe("<meta charset=iso-8859-1><img src=\"%E6%B0%B4\xE9.jpg\">");
});

it('finds the encoding as browsers do', function (
    string $text,
    Notation $notation,
    string $name,
    ?string $transport = null,
): void {
    expect(Charset::of($text, $notation, $transport)->name)->toBe($name);
})->with([
    'in markup' => ['<meta charset="windows-1251">', Notation::Html, 'windows-1251'],
    'in markup, by another label' => ["<META\nCHARSET = 'x-sjis' >", Notation::Html, 'Shift_JIS'],
    'in markup, the long way' => [
        '<META http-equiv=Content-Type content="text/html; charset=Shift_JIS">', Notation::Html, 'Shift_JIS',
    ],
    'in markup, the long way round' => [
        "<meta content='text/html;charset = \"koi8-r\"' http-equiv=content-type>", Notation::Html, 'KOI8-R',
    ],
    'behind others' => [
        '<!DOCTYPE html><html lang=x><head><title>x</title><link rel=x><meta name=y><meta charset=big5>',
        Notation::Html,
        'Big5',
    ],
    'the first that is known' => ['<meta charset=klingon><meta charset=latin2>', Notation::Html, 'ISO-8859-2'],
    'in a comment' => ['<!-- <meta charset=koi8-r> --><meta charset=big5>', Notation::Html, 'Big5'],
    'in a comment without end' => ['<!-- <meta charset=koi8-r>', Notation::Html, 'UTF-8'],
    'in another attribute' => [
        '<meta name=x content="charset=koi8-r"><p title="<meta charset=koi8-r>">',
        Notation::Html,
        'UTF-8',
    ],
    'in a script' => ['<script>x = "<meta charset=koi8-r>"</script>', Notation::Html, 'UTF-8'],
    'behind a script' => [
        '<script>x = "<meta charset=koi8-r>"</script><meta charset=euc-kr>',
        Notation::Html,
        'EUC-KR',
    ],
    'in a title' => ['<title><meta charset=koi8-r></title>', Notation::Html, 'UTF-8'],
    'in an element of another name' => ['<metadata charset=koi8-r>', Notation::Html, 'UTF-8'],
    'of two bytes, which it cannot be' => ['<meta charset=utf-16le>', Notation::Html, 'UTF-8'],
    'of the user' => ['<meta charset=x-user-defined>', Notation::Html, 'windows-1252'],
    'of a page in xml' => ['<?xml version="1.0" encoding="koi8-u"?><html>', Notation::Html, 'KOI8-U'],
    'in style' => ['@charset "iso-8859-15"; a{}', Notation::Css, 'ISO-8859-15'],
    'in style, not as it must be' => ["@charset 'iso-8859-15'; a{}", Notation::Css, 'UTF-8'],
    'in style, of two bytes' => ['@charset "utf-16be";', Notation::Css, 'UTF-8'],
    'in xml' => ["<?xml version='1.0' encoding='koi8-u'?>", Notation::Xml, 'KOI8-U'],
    'UTF-8' => ['<meta charset=utf-8>', Notation::Html, 'UTF-8'],
    'nothing that is known' => ['<meta charset=klingon>', Notation::Html, 'UTF-8'],
    'nothing at all' => ["<p>caf\xE9", Notation::Html, 'UTF-8'],
    'too far' => [str_repeat(' ', 1024).'<meta charset=koi8-r>', Notation::Html, 'UTF-8'],
    'a mark of UTF-8' => ["\xEF\xBB\xBF<meta charset=koi8-r>", Notation::Html, 'UTF-8', 'koi8-r'],
    'a mark of UTF-16' => ["\xFF\xFE<\0", Notation::Html, 'UTF-16LE', 'koi8-r'],
    'what came with it' => ['<meta charset=koi8-r>', Notation::Html, 'windows-1251', 'cp1251'],
    'what came with it, of which nobody knows' => ['<meta charset=koi8-r>', Notation::Html, 'KOI8-R', 'klingon'],
    'UTF-16 without a mark' => ["<\0?\0x\0", Notation::Xml, 'UTF-16LE'],
    'UTF-16 without a mark, the other way round' => ["\0<\0p\0>", Notation::Html, 'UTF-16BE'],
    'no place for one' => ['charset=koi8-r', Notation::JavaScript, 'UTF-8'],
]);

it('knows encodings by all their labels', function (string $label, ?string $name): void {
    expect(Charset::called($label)?->name)->toBe($name);
})->with([
    [
        'ISO_8859-1:1987',
        'windows-1252'], [' Latin1 ',
            'windows-1252'], ['ascii',
                'windows-1252'], ['csISO88596I',
                    'ISO-8859-6',
                ],
    [
        'logical',
        'ISO-8859-8'], ['dos-874',
            'windows-874'], ['chinese',
                'GBK'], ['x-x-big5',
                    'Big5'], ['ks_c_5601-1989',
                        'EUC-KR',
                    ],
    ['ucs-2', 'UTF-16LE'], ['hz-gb-2312', 'replacement'], ['x-mac-ukrainian', 'x-mac-cyrillic'], ['l9', 'ISO-8859-15'],
    ['utf8', 'UTF-8'], ['utf-7', null], ['iso-8859-12', null], ['', null],
]);

it('gives queries as browsers send them, in the encoding of the page', function (string $html, string $value): void {
    expect((new FieldReader())->read($html, Notation::Html, new Rules())->references[0]->value)->toBe($value);
})->with([
    'a letter' => ["<meta charset=latin1><a href=\"/\xE9?q=\xE9#\xE9\">", '/é?q=%E9#é'],
    'a letter by a reference' => ['<meta charset=latin1><a href="/?q=&eacute;">', '/?q=%E9'],
    'a letter that it has not' => ['<meta charset=latin1><a href="/?q=&#27700;">', '/?q=%26%2327700%3B'],
    'in UTF-8' => ['<meta charset=utf-8><a href="/?q=é">', '/?q=é'],
    'in Japanese' => ["<meta charset=shift_jis><a href=\"/?q=\x83\x5C\">", '/?q=%83%5C'],
]);

it('takes the label from what a text was sent as', function (?string $type, ?string $label): void {
    expect(Charset::labelIn($type))->toBe($label);
})->with([
    [
        'text/html; charset=windows-1251',
        'windows-1251'], ['text/css;CHARSET="utf-8"',
            'utf-8'], ['text/html',
                null], [null,
                    null,
                ],
    ['text/html; x=charset=y', null], ['text/html;charset=koi8-r; x=y', 'koi8-r'],
]);

it('reads and writes UTF-16, with a mark and without', function (string $encoding, string $mark): void {
    $text = $mark.iconv('UTF-8', $encoding, '<p>Маяк 😀</p><img src="/media/灯.jpg"><a href="/media/a&amp;b.pdf">');
    $reading = (new FieldReader())->read($text, Notation::Html, new Rules());
    expect(array_column($reading->references, 'value'))
        ->toBe(['/media/灯.jpg', '/media/a&b.pdf'])
        ->and($reading->references[0]->raw())
        ->toBe(iconv('UTF-8', $encoding, '/media/灯.jpg'));
    $changes = [[$reading->references[0], '/media/😀.jpg'], [$reading->references[1], '/media/c&copy.pdf']];
    $after = (new Rewriter())->edits($text, Notation::Html, new Rules(), $changes)->applyTo($text);
    expect(iconv($encoding, 'UTF-8', substr($after, strlen($mark))))
        ->toBe('<p>Маяк 😀</p><img src="/media/😀.jpg"><a href="/media/c&amp;copy.pdf">');
})->with([
    'the low byte first' => ['UTF-16LE', "\xFF\xFE"],
    'the high byte first' => ['UTF-16BE', "\xFE\xFF"],
    'the low byte first, without a mark' => ['UTF-16LE', ''],
    'the high byte first, without a mark' => ['UTF-16BE', ''],
]);

it('says of text that browsers show nothing of that it was not read', function (string $text, string $word): void {
    $reading = (new FieldReader())->read($text, Notation::Html, new Rules());
    expect($reading->references)->toBe([])->and($reading->problems[0]->message)->toContain($word);
})->with([
    'four bytes a character' => ["\xFF\xFE\0\0<\0\0\0", 'UTF-32'],
    'an encoding that is not safe' => ['<meta charset=iso-2022-kr><img src=a.jpg>', 'iso-2022-kr'],
]);

it('reads broken characters as the sign for them', function (string $text, string $value): void {
    $references = (new FieldReader())->read($text, Notation::Html, new Rules())->references;
    expect($references[0]->value)->toBe($value);
})->with([
    'in UTF-8' => ["<meta charset=utf-8><img src=\"a\xE9.jpg\">", "a\u{FFFD}.jpg"],
    'said by nobody' => ["<img src=\"\xE6\xB0.jpg\">", "\u{FFFD}.jpg"],
    'half of one' => ["<meta charset=shift_jis><img src=\"\x83.jpg\">", "\u{FFFD}.jpg"],
    'a byte of no meaning' => ["<meta charset=windows-1253><img src=\"\xFF.jpg\">", "\u{FFFD}.jpg"],
    'a byte that is left to control characters' => ["<meta charset=windows-1252><img src=\"\x81.jpg\">", "\u{81}.jpg"],
    'with references beside it' => ["<meta charset=latin1><img src=\"\xE9&eacute;&amp;.jpg\">", 'éé&.jpg'],
]);

it('writes what a text in an older encoding holds, however deep', function (string $to, string $after): void {
    $text = "<?xml version='1.0' encoding='iso-8859-1'?><d>caf\xE9<e>a:1:{i:0;s:12:\"/media/a.jpg\";}</e></d>";
    $rules = new Rules(mediaFolders: ['/media/']);
    $references = (new FieldReader())->read($text, Notation::Xml, $rules)->references;
    $edits = (new Rewriter())->edits($text, Notation::Xml, $rules, [[$references[0], $to]]);
    expect($edits->applyTo($text))->toContain($after);
})->with([
    'plain' => ['/media/b.jpg', 's:12:"/media/b.jpg"'],
    // A parser of xml gives out UTF-8, in which the letter has two bytes.
    'a letter that it has' => ['/media/é.jpg', "s:13:\"/media/\xE9.jpg\""],
    'a letter that it has not' => ['/media/水.jpg', 's:20:"/media/%E6%B0%B4.jpg"'],
]);

it('gives the words around a reference in the encoding of the page', function (): void {
    $text = (string) iconv(
        'UTF-8',
        'CP1251',
        '<meta charset=windows-1251><h2>Маяк</h2><img alt="Свет" src=/media/a.jpg>',
    );
    $context = (new FieldReader())->read($text, Notation::Html, new Rules())->references[0]->context();
    expect([$context->heading, $context->attributes['alt']])->toBe(['Маяк', 'Свет']);
});

it('never takes half a character for a backslash', function (): void {
    $html = '<meta charset=Shift_JIS><img src="/media/a.jpg" onerror="this.src=\'/media/表\x65.jpg\'">';
    $bytes = (string) iconv('UTF-8', 'CP932', $html);
    $rules = new Rules(mediaFolders: ['/media/']);
    expect(array_column((new FieldReader())->read($bytes, Notation::Html, $rules)->references, 'value'))->toBe([
        '/media/a.jpg',
        '/media/表e.jpg',
    ]);
});
