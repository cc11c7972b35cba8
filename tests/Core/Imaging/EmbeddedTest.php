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

/**
 * EXIF data (TIFF 6.0, section 2) with these entries, in either order of bytes.
 *
 * @param  array<int, int|string>  $entries tag → short number or text
 */
function exif(array $entries, bool $big = true, string $behind = ''): string
{
    [$short, $long] = $big ? ['n', 'N'] : ['v', 'V'];
    $fields = $texts = '';
    $after = 8 + 2 + 12 * count($entries) + 4;
    foreach ($entries as $tag => $value) {
        if (is_int($value)) {
            $fields .= pack("$short$short$long$short", $tag, 3, 1, $value)."\0\0";

            continue;
        }
        $fields .= pack("$short$short$long", $tag, 2, strlen($value));
        if (strlen($value) <= 4) {
            $fields .= str_pad($value, 4, "\0");
        } else {
            $fields .= pack($long, $after + strlen($texts));
            $texts .= $value;
        }
    }

    $head = ($big ? "MM\0\x2A" : "II\x2A\0").pack($long, 8).pack($short, count($entries));

    return $head.$fields."\0\0\0\0".$texts.$behind;
}

it('takes its words from where they are kept best', function (array $parts, array $words): void {
    [$xmp, $iptc, $exif] = $parts;
    $found = Embedded::in(
        jpegWith(
            segment("\xE1", "Exif\0\0".exif($exif)),
            segment("\xE1", "http://ns.adobe.com/xap/1.0/\0<x:xmpmeta><rdf:Description$xmp</x:xmpmeta>"),
            iptc($iptc),
        ),
    );
    expect([$found->title, $found->caption, $found->credit])->toBe($words);
})->with([
    'nowhere' => [['>', [], []], ['', '', '']],
    'in EXIF' => [['>', [], [0x010E => "A tern\0", 0x013B => "Hal Orrin\0"]], ['', 'A tern', 'Hal Orrin']],
    'short ones in EXIF' => [['>', [], [0x010E => "Ebb\0", 0x013B => 'Hal']], ['', 'Ebb', 'Hal']],
    'numbers are no words' => [['>', [], [0x010E => 7, 0x013B => 7]], ['', '', '']],
    'IPTC before EXIF' => [
        ['>', [5 => 'T', 120 => 'C', 80 => 'By'], [0x010E => 'an older one', 0x013B => 'somebody']],
        ['T', 'C', 'By'],
    ],
    'a credit before a name' => [['>', [110 => 'Credit', 80 => 'By'], []], ['', '', 'Credit']],
    'XMP before IPTC' => [
        [' dc:title="X" dc:description="Y" photoshop:Credit="Z">', [5 => 'T', 120 => 'C', 110 => 'By'], []],
        ['X', 'Y', 'Z'],
    ],
    'a creator only without a credit' => [[' dc:creator="Hal">', [80 => 'By'], []], ['', '', 'Hal']],
    'a credit in IPTC before a creator in XMP' => [[' dc:creator="Hal">', [110 => 'Credit'], []], ['', '', 'Credit']],
    'as an element' => [
        [
            '><dc:description><rdf:Alt><rdf:li xml:lang="x-default"> Low &#252;ber </rdf:li></rdf:Alt>'
                .'</dc:description>',
            [],
            [],
        ],
        ['', 'Low über', ''],
    ],
    'an apostrophe in XMP' => [[' dc:title="Hal&apos;s &quot;bay&quot;">', [], []], ["Hal's \"bay\"", '', '']],
    'blanks are no words' => [[" dc:title=\" \n\">", [5 => " \t T\0"], []], ['T', '', '']],
    'bytes that are no text' => [['>', [], [0x010E => "Caf\xE9 au lait"]], ['', 'Caf? au lait', '']],
]);

it('keeps as many words as a field takes, and no more', function (): void {
    $long = str_repeat('ü', 2500);
    expect(Embedded::in(jpegWith(iptc([120 => $long])))->caption)
        ->toBe(str_repeat('ü', 2000))
        ->and(Embedded::in(jpegWith(segment("\xE1", "Exif\0\0".exif([0x010E => str_repeat('a', 2500)]))))->caption)
        ->toBe(str_repeat('a', 2000));
});

it('looks into a packet of XMP only as far as one may be long', function (int $length, string $title): void {
    $head = '<x:xmpmeta><rdf:Description dc:title="X">';
    $bytes = $head.str_repeat(' ', $length - strlen($head)).'</x:xmpmeta>';
    expect(Embedded::in($bytes)->title)
        ->toBe($title)
        ->and(Embedded::in(substr($bytes, 0, -3))->title)
        ->toBe('');
})->with([[1_000_000, 'X'], [1_000_001, '']]);

it('knows each way in which a picture can lie', function (int $orientation, int $lies, bool $sideways): void {
    foreach ([true, false] as $big) {
        // Behind other entries, and in each of the formats that carry EXIF.
        $tiff = exif([0x0100 => 640, 0x010F => 'A maker', 0x0112 => $orientation, 0x0128 => 2], $big);
        foreach (["\xFF\xD8Exif\0\0$tiff", "\x89PNG....eXIf$tiff"] as $bytes) {
            $found = Embedded::in($bytes);
            expect([$found->orientation, $found->isSideways()])->toBe([$lies, $sideways]);
        }
        // No browser turns these by it.
        foreach (["RIFF....WEBPEXIF\x10\0\0\0$tiff", "\0\0\0\x20ftypavif....EXIF\x10\0\0\0$tiff"] as $bytes) {
            expect(Embedded::in($bytes)->orientation)->toBe(1);
        }
    }
})->with([
    [0, 1, false],
    [1, 1, false],
    [2, 2, false],
    [4, 4, false],
    [5, 5, true],
    [8, 8, true],
    [9, 1, false],
]);

it('takes a directory that lies elsewhere, and none that is cut off', function (): void {
    $tiff = exif([0x0112 => 6]);
    // The same directory, four bytes further on.
    $moved = substr($tiff, 0, 4).pack('N', 12).'....'.substr($tiff, 8);
    expect(Embedded::in("Exif\0\0$moved")->orientation)
        ->toBe(6)
        ->and(Embedded::in("Exif\0\0".substr($tiff, 0, 18))->orientation)
        ->toBe(1)
        ->and(Embedded::in("Exif\0\0".substr($tiff, 0, 19))->orientation)
        ->toBe(1)
        ->and(Embedded::in("Exif\0\0".substr($tiff, 0, 20))->orientation)
        ->toBe(6)
        ->and(Embedded::in("Exif\0\0".substr($tiff, 0, 6))->orientation)
        ->toBe(1);
});

it('reads no directory without end', function (int $entries, int $orientation): void {
    $many = array_fill(1, $entries - 1, 0) + [0x0112 => 6];
    expect(Embedded::in("Exif\0\0".exif($many))->orientation)->toBe($orientation);
})->with([[200, 6], [201, 1]]);

it('looks for IPTC only in a JPEG', function (): void {
    $jpeg = jpegWith(iptc([5 => 'Terns']));
    expect(Embedded::in($jpeg)->title)->toBe('Terns')->and(Embedded::in("x$jpeg")->title)->toBe('');
});

it('tells a second frame from other parts of a gif, and flags from their neighbours', function (): void {
    $head = "GIF89a\x02\0\x02\0\x80\0\0\0\0\0\xFF\xFF\xFF";
    $control = "\x21\xF9\x04\x00\x0A\x00\x00\x00";
    $picture = "\x2C\0\0\0\0\x02\0\x02\0\0\x02\x02\x44\x01\0";
    $coloured = "\x2C\0\0\0\0\x02\0\x02\0\x80\0\0\0\x2C\x2C\x2C\x02\x02\x44\x01\0";
    $note = "\x21\xFE\x05\x2C\x2C\x21\xF9\x3B\0";
    expect(Embedded::in("$head$control$picture$control$picture;")->isAnimated)
        ->toBeTrue()
        ->and(Embedded::in("$head$picture$note$coloured;")->isAnimated)
        ->toBeTrue()
        ->and(Embedded::in("$head$control$note$coloured$note;")->isAnimated)
        ->toBeFalse()
        ->and(Embedded::in("$head$control$picture")->isAnimated)
        ->toBeFalse()
        ->and(Embedded::in("\0\0\0\x18ftypavis\0\0\0\0avifmif1")->isAnimated)
        ->toBeTrue()
        ->and(Embedded::in("\0\0\0\x18ftypavif\0\0\0\0mif1avis")->isAnimated)
        ->toBeTrue()
        ->and(Embedded::in("\0\0\0\x14ftypavif\0\0\0\0mif1avis")->isAnimated)
        ->toBeFalse()
        ->and(Embedded::in("RIFF\x1A\0\0\0WEBPVP8X\x0A\0\0\0\x01\0\0\0")->isAnimated)
        ->toBeFalse()
        ->and(Embedded::in("RIFF\x1A\0\0\0WEBPVP8L\x0A\0\0\0\x02\0\0\0")->isAnimated)
        ->toBeFalse()
        ->and(Embedded::in('RIFF')->isAnimated)
        ->toBeFalse()
        ->and(Embedded::in("\x89PNG....acTL")->isAnimated)
        ->toBeFalse()
        ->and(Embedded::in("\x89PNG....IDAT")->isAnimated)
        ->toBeFalse();
});
