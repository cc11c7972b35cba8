<?php

declare(strict_types=1);

use Ylema\Imaging\Embedded;

/** A JPEG of nothing but markers: the given segments, then the end. */
function jpegWith(string ...$segments): string
{
    return "\xFF\xD8".implode('', $segments)."\xFF\xC0\x00\x0B\x08\x00\x04\x00\x06\x01\x01\x11\x00\xFF\xD9";
}

function segment(string $marker, string $content): string
{
    return "\xFF$marker".pack('n', strlen($content) + 2).$content;
}

/** @param  array<int, string>  $sets dataset of record 2 → text */
function iptc(array $sets): string
{
    $data = '';
    foreach ($sets as $number => $text) {
        $data .= "\x1C\x02".chr($number).pack('n', strlen($text)).$text;
    }

    return segment("\xED", "Photoshop 3.0\x008BIM\x04\x04\x00\x00".pack('N', strlen($data)).$data);
}

it('reads the words that a camera or an editor left in the file', function (): void {
    $found = Embedded::in(jpegWith(iptc([5 => 'Terns', 120 => 'Terns at dusk', 110 => 'Hal Orrin', 80 => 'H. O.'])));
    expect([$found->title, $found->caption, $found->credit])->toBe(['Terns', 'Terns at dusk', 'Hal Orrin']);
});

it('takes Latin-1 for what it is', function (): void {
    expect(Embedded::in(jpegWith(iptc([5 => "Caf\xE9"])))->title)->toBe('Café');
});

it('prefers XMP, whose words say their encoding', function (): void {
    $xmp =
        '<x:xmpmeta><rdf:RDF><rdf:Description photoshop:Credit="A &amp; B"><dc:title><rdf:Alt>'
        .'<rdf:li xml:lang="x-default">Dünen</rdf:li></rdf:Alt></dc:title></rdf:Description></rdf:RDF></x:xmpmeta>';
    $found = Embedded::in(jpegWith(segment("\xE1", "http://ns.adobe.com/xap/1.0/\0$xmp"), iptc([5 => 'Dunes'])));
    expect([$found->title, $found->credit])->toBe(['Dünen', 'A & B']);
});

it('knows how a picture lies, in both orders of bytes', function (
    string $tiff,
    int $orientation,
    bool $sideways,
): void {
    $found = Embedded::in(jpegWith(segment("\xE1", "Exif\0\0$tiff")));
    expect($found->orientation)->toBe($orientation)->and($found->isSideways())->toBe($sideways);
})->with([
    'little' => ["II\x2A\0\x08\0\0\0\x01\0\x12\x01\x03\0\x01\0\0\0\x06\0\0\0", 6, true],
    'big' => ["MM\0\x2A\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\x03\0\0", 3, false],
    'nonsense' => ["MM\0\x2A\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\x63\0\0", 1, false],
    'cut short' => ["MM\0\x2A\0\0\0\x08\0\x09", 1, false],
]);

it('knows what moves', function (string $bytes, bool $moves): void {
    expect(Embedded::in($bytes)->isAnimated)->toBe($moves);
})->with(function (): array {
    $frame = "\x21\xF9\x04\x00\x0A\x00\x00\x00\x2C\0\0\0\0\x01\0\x01\0\0\x02\x02\x44\x01\0";

    return [
        'a gif of one frame' => ["GIF89a\x01\0\x01\0\0\0\0$frame;", false],
        'a gif of two' => ["GIF89a\x01\0\x01\0\0\0\0$frame$frame;", true],
        'a still webp' => ["RIFF\x1A\0\0\0WEBPVP8X\x0A\0\0\0\x10\0\0\0", false],
        'a moving webp' => ["RIFF\x1A\0\0\0WEBPVP8X\x0A\0\0\0\x12\0\0\0", true],
        'a still png' => ["\x89PNG\r\n\x1A\n....IHDR....IDAT....acTL", false],
        'a moving png' => ["\x89PNG\r\n\x1A\n....IHDR....acTL....IDAT", true],
    ];
});

it('finds nothing in nothing', function (): void {
    expect(Embedded::in(''))->toEqual(Embedded::none());
});
