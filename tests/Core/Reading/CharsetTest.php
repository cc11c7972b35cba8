<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
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
        // It says one thing and is another: what stands there in UTF-8 goes on in UTF-8.
        ->and($write('<meta charset=iso-8859-1><p>ü</p><img src="a.jpg">', 'é.jpg'))
        ->toBe('<meta charset=iso-8859-1><p>ü</p><img src="é.jpg">')
        ->and(fn () => $write('<meta charset=iso-8859-1><img src="a.jpg">', '水.jpg'))
        ->toThrow(CannotEncode::class, 'iso-8859-1');
});

it('finds the declaration where each notation has it', function (
    string $text,
    Notation $notation,
    ?string $label,
): void {
    expect(Charset::declared($text, $notation)?->label)->toBe($label);
})->with([
    'in markup' => ['<meta charset="windows-1251">', Notation::Html, 'windows-1251'],
    'in markup, the long way' => [
        '<META http-equiv=Content-Type content="text/html; charset=Shift_JIS">',
        Notation::Html,
        'Shift_JIS',
    ],
    'in style' => ['@charset "iso-8859-15"; a{}', Notation::Css, 'iso-8859-15'],
    'in xml' => ["<?xml version='1.0' encoding='koi8-u'?>", Notation::Xml, 'koi8-u'],
    'UTF-8' => ['<meta charset=utf-8>', Notation::Html, null],
    'nothing that is known' => ['<meta charset=klingon>', Notation::Html, null],
    'too far' => [str_repeat(' ', 1024).'<meta charset=koi8-r>', Notation::Html, null],
    'behind a mark of UTF-8' => ["\xEF\xBB\xBF<meta charset=koi8-r>", Notation::Html, null],
    'in a script' => ['charset=koi8-r', Notation::JavaScript, null],
]);

it('says of a text of two bytes a character that it was not read', function (string $text): void {
    $reading = (new FieldReader())->read($text, Notation::Html, new Rules());
    expect($reading->references)->toBe([])->and($reading->problems[0]->message)->toContain('UTF-16');
})->with([
    [(string) iconv('UTF-8', 'UTF-16', '<img src="/media/a.jpg">')],
    ["\xFE\xFF".iconv('UTF-8', 'UTF-16BE', '<img src="/media/a.jpg">')],
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
