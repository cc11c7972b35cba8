<?php

declare(strict_types=1);

use Ylema\Imaging\UploadCheck;
use Ylema\Imaging\UploadRefused;

/*
 * Files of every kind, the smallest that say what they must; each is cut at every byte.
 */

/** A picture by the machine's own library. */
function encoded(string $type): string
{
    $image = imagecreatetruecolor(9, 7);
    imagefilledrectangle($image, 2, 2, 5, 5, (int) imagecolorallocate($image, 200, 90, 30));
    ob_start();
    match ($type) {
        'jpg' => imagejpeg($image),
        'progressive' => [imageinterlace($image, true), imagejpeg($image)],
        'png' => imagepng($image),
        'gif' => imagegif($image),
        'webp' => imagewebp($image),
        'avif' => imageavif($image),
    };

    return (string) ob_get_clean();
}

function box(string $type, string $content): string
{
    return pack('N', 8 + strlen($content)).$type.$content;
}

/** One page of an Ogg stream. */
function page(int $flags, string $content): string
{
    return "OggS\0".chr($flags).str_repeat("\0", 20).chr(1).chr(strlen($content)).$content;
}

function pdf(): string
{
    $body = "%PDF-1.4\n1 0 obj<</Type/Catalog>>endobj\n";

    return $body."xref\n0 1\n0000000000 65535 f \ntrailer<</Size 1>>\nstartxref\n".strlen($body)."\n%%EOF";
}

/** @return array<string, array{string, string}> a file and the extension that it is known by */
function wholeFiles(): array
{
    $frame = "\xFF\xFB\x10\x00".str_repeat("\0", 100);
    $ebml = "\x1A\x45\xDF\xA3\x84webm";
    $gif = "GIF89a\x02\0\x02\0\x80\0\0\0\0\0\xFF\xFF\xFF";
    $picture = "\x2C\0\0\0\0\x02\0\x02\0\0\x02\x02\x44\x01\0";

    return [
        'a JPEG' => [encoded('jpg'), 'jpg'],
        'a JPEG in several scans' => [encoded('progressive'), 'jpg'],
        'a JPEG with a smaller one in its notes' => [
            "\xFF\xD8\xFF\xE1".pack('n', 2 + strlen(encoded('jpg'))).encoded('jpg').substr(encoded('jpg'), 2),
            'jpg',
        ],
        'a JPEG with filling between its parts' => ["\xFF\xD8\xFF\xFF".substr(encoded('jpg'), 2), 'jpg'],
        'a PNG' => [encoded('png'), 'png'],
        'a GIF' => [encoded('gif'), 'gif'],
        'a GIF of two pictures' => ["$gif$picture\x21\xFE\x01\x3B\0$picture;", 'gif'],
        'a WebP' => [encoded('webp'), 'webp'],
        'an AVIF' => [encoded('avif'), 'avif'],
        'an MP4' => [box('ftyp', 'isom'.pack('N', 0).'isom').box('mdat', 'film').box('moov', 'index'), 'mp4'],
        'an MP4 with a large box' => [
            box('ftyp', 'isom'.pack('N', 0)).pack('N', 1).'mdat'.pack('J', 20).'film'.box('moov', ''),
            'mp4',
        ],
        'a WebM' => ["$ebml\x18\x53\x80\x67\x88\x15\x49\xA9\x66\x83abc", 'webm'],
        'an Ogg' => [page(2, 'head').page(0, 'sound').page(4, 'end'), 'ogg'],
        'a WAVE' => ['RIFF'.pack('V', 20).'WAVEdata'.pack('V', 8).'sounding', 'wav'],
        'an MP3 of one frame' => [$frame, 'mp3'],
        'an MP3 behind words' => ["ID3\x04\0\0\0\0\0\x05words$frame", 'mp3'],
        'an MP3 that says its length' => [
            "\xFF\xFB\x10\x00".str_pad(str_repeat("\0", 32).'Xing'.pack('NN', 2, 208), 100, "\0").$frame,
            'mp3',
        ],
        'a PDF' => [pdf(), 'pdf'],
        'a drawing' => ['<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h9"/></svg>', 'svg'],
    ];
}

it('takes a file of any kind that is whole', function (string $kind): void {
    [$bytes, $extension] = wholeFiles()[$kind];
    expect((new UploadCheck())->judge($bytes, 'x')->extension)->toBe($extension);
})->with(static fn (): array => array_keys(wholeFiles()));

it('refuses it when it is cut short, wherever that was', function (string $kind): void {
    [$bytes] = wholeFiles()[$kind];
    $taken = [];
    for ($length = 1; $length < strlen($bytes); $length++) {
        try {
            (new UploadCheck())->judge(substr($bytes, 0, $length), 'x');
            $taken[] = $length;
        } catch (UploadRefused) {
        }
    }
    // Between two frames nothing of a stream is missing that anybody could know of.
    expect($taken)->toBe([]);
})->with(static fn (): array => array_keys(wholeFiles()));

it('takes what is written behind the end of a picture, and words around a sound', function (string $bytes): void {
    expect((new UploadCheck())->judge($bytes, 'x')->extension)->toBeIn(['jpg', 'png', 'mp3', 'pdf']);
})->with([
    'a camera\'s notes' => [fn (): string => encoded('jpg').str_repeat("\0", 64)],
    'zeros behind a PNG' => [fn (): string => encoded('png')."\0\0\0"],
    'words behind a sound' => [fn (): string => "\xFF\xFB\x10\x00".str_repeat("\0", 100).'TAG'.str_repeat(' ', 125)],
    'silence before it' => [fn (): string => "ID3\x04\0\0\0\0\0\x05words\0\0\0\xFF\xFB\x10\x00".str_repeat("\0", 100)],
    'a line behind a PDF' => [fn (): string => pdf()."\r\n"],
]);

it('refuses files that are put together wrongly', function (string $bytes): void {
    expect(fn () => (new UploadCheck())->judge($bytes, 'x'))->toThrow(UploadRefused::class);
})->with([
    'a JPEG that ends before it begins' => ["\xFF\xD8\xFF\xD9"],
    'a PNG chunk that says far too much' => [fn (): string => substr(encoded('png'), 0, 33)."\xFF\xFF\xFF\xFFIDAT"],
    'a GIF with a block of no kind' => ["GIF89a\x02\0\x02\0\0\0\0\x99\0;"],
    'a GIF of no picture' => ["GIF89a\x02\0\x02\0\0\0\0;"],
    'a box smaller than its own head' => [fn (): string => box('ftyp', 'isom').pack('N', 4).'moov'],
    'a box larger than any file' => [fn (): string => box('ftyp', 'isom')."\xFF\xFF\xFF\xFFmoov"],
    'a large box that says nothing' => [fn (): string => box('ftyp', 'isom').pack('N', 1).'moov'],
    'a film without its index' => [fn (): string => box('ftyp', 'isom').box('mdat', 'film')],
    'a segment of no length' => ["\x1A\x45\xDF\xA3\x84webm\x18\x53\x80\x67\0"],
    'a head of no length' => ["\x1A\x45\xDF\xA3\0"],
    'an Ogg that no page ends' => [fn (): string => page(2, 'head').page(0, 'sound')],
    'a sound that says that it is longer' => [
        "\xFF\xFB\x10\x00".str_repeat("\0", 32).'Info'.pack('NNN', 3, 9, 999_999).str_repeat("\0", 52),
    ],
    'a linearised PDF that says that it is longer' => [
        fn (): string => str_replace('/Type', '/Linearized 1 /L 9999 /Type', pdf()),
    ],
    'a PDF whose table lies behind its end' => [
        fn (): string => preg_replace('~startxref\n\d+~', "startxref\n99999", pdf()),
    ],
]);
