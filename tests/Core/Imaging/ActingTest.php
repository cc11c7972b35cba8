<?php

declare(strict_types=1);

use Tests\Core\Growth;
use Ylema\Imaging\PdfScripts;
use Ylema\Imaging\UploadCheck;
use Ylema\Imaging\UploadRefused;

/*
 * Uploads that are whole, and yet not what a site should give out.
 */

/** A whole document that holds this. */
function aDocument(string $inside): string
{
    return "%PDF-1.7\n1 0 obj<</Type/Catalog $inside>>endobj\nxref\n0 0\nstartxref\n9\n%%EOF\n";
}

/** Objects packed into a stream (ISO 32000-1, 7.5.7). */
function packedObjects(string $objects, string $filter = '/Filter/FlateDecode'): string
{
    $bytes = $filter === '' ? $objects : (string) gzcompress($objects);

    return '>>endobj 5 0 obj<</Type /ObjStm /N 1 /First 4 '.$filter.' /Length '.strlen($bytes).">>\nstream\r\n$bytes"
        ."\nendstream endobj 6 0 obj<<";
}

/** The beginning of a file of boxes with these brands. */
function boxesOf(string ...$brands): string
{
    $first = array_shift($brands);

    return pack('N', 16 + 4 * count($brands))."ftyp$first\0\0\0\0".implode('', $brands).pack('N', 8).'mdat'.pack('N', 8)
        .'moov';
}

it('refuses documents that act by themselves, however that is written', function (string $bytes, string $says): void {
    expect(fn () => (new UploadCheck())->judge($bytes, 'x.pdf'))->toThrow(UploadRefused::class, $says);
})->with([
    'a script' => [aDocument('/OpenAction<</S/JavaScript/JS(app.alert(1))>>'), 'holds scripts'],
    'a script in other letters' => [aDocument('/OpenAction<</S/J#61vaScript>>'), 'holds scripts'],
    'a script by name' => [aDocument('/Names<</JavaScript 3 0 R>>'), 'holds scripts'],
    'a program' => [aDocument('/OpenAction<</S/Launch/F(a.exe)>>'), 'starts a program'],
    'a form' => [aDocument('/A<</S/SubmitForm>>'), 'sends what is filled in'],
    'a form of forms' => [aDocument('/AcroForm<</XFA 1 0 R>>'), 'XFA'],
    'a file inside' => [
        aDocument('/EF<</F 1 0 R>>>>endobj 7 0 obj<</Type/EmbeddedFile>>endobj 8 0 obj<<'),
        'files inside',
    ],
    'a packed script' => [aDocument(packedObjects('1 0 <</S/JavaScript>>')), 'holds scripts'],
    'packed in a rare way' => [aDocument(packedObjects('1 0 <<>>', '/Filter/LZWDecode')), 'nobody can look into'],
    'packed and locked' => [aDocument('/Encrypt 9 0 R'.packedObjects('1 0 <<>>')), 'nobody can look into'],
    'packed and broken' => [
        aDocument(str_replace("\nstream\r\nx", "\nstream\r\nq", packedObjects('1 0 <<>>'))),
        'cannot be unpacked',
    ],
]);

it('takes documents that only show something', function (string $bytes): void {
    expect((new UploadCheck())->judge($bytes, 'x.pdf')->extension)->toBe('pdf');
})->with([
    'plain' => [aDocument('/Pages 2 0 R')],
    'packed' => [aDocument(packedObjects('1 0 <</Type/Page>>'))],
    'a word of it' => [aDocument('/Title(How /Launching works) /JSize 3')],
    'a link' => [aDocument('/A<</S/URI/URI(https://korrinbay.example/)>>')],
]);

it('looks into a document in time that grows with its length', function (string $piece): void {
    $ratio = Growth::ratio(static function (int $bytes) use ($piece): Closure {
        $text = str_repeat($piece, intdiv($bytes, strlen($piece)));

        return static fn () => PdfScripts::in($text);
    }, 40_000, 320_000, 24.0);
    expect($ratio)->toBeLessThan(24.0);
})->with(['stream', '#stream', 'endstream', '#4A', '/JavaScrip', ' obj stream', '/Type/ObjStm stream']);

it('looks at no more parts than a document can have', function (): void {
    expect(PdfScripts::in(str_repeat("1 0 obj<<>>stream\nx\nendstream\n", 90_000)))->toBeNull()
        ->and(PdfScripts::in(str_repeat('stream ', 110_000)))->toBe('more parts than can be looked into');
});

it('says of a photo as phones take it what it is', function (string ...$brands): void {
    expect(fn () => (new UploadCheck())->judge(boxesOf(...$brands), 'IMG_1.HEIC'))
        ->toThrow(UploadRefused::class, 'is a HEIC picture');
})->with([
    ['heic', 'mif1', 'heic'],
    ['heix', 'mif1', 'heix'],
    ['mif1', 'heic', 'MiHE'],
    ['msf1', 'hevc'],
    ['heic', 'isom'],
    ['mif1', 'miaf'],
]);

it('does not take films and pictures of other kinds for such', function (string ...$brands): void {
    try {
        $says = (new UploadCheck())->judge(boxesOf(...$brands), 'x')->extension;
    } catch (UploadRefused $e) {
        $says = $e->getMessage();
    }
    expect($says)->not->toContain('HEIC');
})->with([['isom', 'iso2', 'mp41'], ['mp42', 'isom', 'mif1'], ['avif', 'mif1', 'miaf'], ['mif1', 'avif', 'miaf']]);

it('refuses a drawing whose type lies elsewhere', function (string $type, bool $isTaken): void {
    $judge = fn () => (new UploadCheck())->judge(
        "<?xml version=\"1.0\"?>\n<!DOCTYPE $type><svg xmlns=\"http://www.w3.org/2000/svg\"/>",
        'x.svg',
    );
    if ($isTaken) {
        expect($judge()->extension)->toBe('svg');
    } else {
        expect($judge)->toThrow(UploadRefused::class, 'a document type that lies elsewhere');
    }
})->with([
    ['svg SYSTEM "https://elsewhere.example/x.dtd"', false],
    ["svg SYSTEM 'x.dtd'", false],
    ['svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "https://elsewhere.example/www.w3.org/Graphics/SVG/1.dtd"', false],
    ["svg\nPUBLIC \"-//W3C//DTD SVG 1.1//EN\"\n\"http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd\"", true],
    ['svg', true],
]);
