<?php

declare(strict_types=1);

use App\Media\OpenPicture;
use App\Media\Pictures;
use App\Media\ScreenProfile;
use Illuminate\Support\Facades\Storage;
use Standin\Drawing\Motifs;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;

/** One colour, as Imagick writes it. */
function plate(string $colour, string $type, ?Closure $changed = null): string
{
    $picture = new Imagick();
    $picture->newImage(20, 10, $colour, $type);
    if ($changed !== null) {
        $changed($picture);
    }

    return $picture->getImageBlob();
}

/** @return array{string, int} colour of what is drawn from it, and the bits of each channel */
function drawnFrom(string $bytes, string $name): array
{
    $png = (new Pictures())->open($bytes, $name)->fill(new Size(8, 8), 'png');
    $image = imagecreatefromstring($png);
    imagepalettetotruecolor($image);

    return [sprintf('%06x', imagecolorat($image, 4, 4) & 0xFFFFFF), ord($png[24])];
}

it('draws pictures in each type that can be written, in the size asked for', function (string $type): void {
    $boat = self::bytes(Motifs::draw('boat', 3, 120, 80, '', 1.0)->image, 'png');
    $picture = (new Pictures())->open($boat, 'boat.png');
    $bytes = $picture->fill(new Size(40, 40), $type);
    expect(array_slice(getimagesizefromstring($bytes), 0, 2))
        ->toBe([40, 40])
        ->and((string) (new Pictures())->open($bytes, "x.$type")->size)
        ->toBe('40 × 40')
        ->and((string) $picture->size)
        ->toBe('120 × 80')
        ->and(array_slice(getimagesizefromstring($picture->fill(new Size(200, 50), $type)), 0, 2))
        ->toBe([200, 50]);
})->with(['jpg', 'jpeg', 'png', 'gif', 'webp', 'avif']);

it('keeps what is clear clear, and puts white behind it in a jpeg', function (): void {
    $clear = imagecreatetruecolor(8, 8);
    imagealphablending($clear, false);
    imagesavealpha($clear, true);
    imagefill($clear, 0, 0, imagecolorallocatealpha($clear, 0, 0, 0, 127));
    $picture = (new Pictures())->open(self::bytes($clear, 'png'), 'x.png');
    $jpeg = imagecreatefromstring($picture->fill(new Size(8, 8), 'jpg'));
    $png = imagecreatefromstring($picture->fill(new Size(8, 8), 'png'));
    imagepalettetotruecolor($png);
    expect(imagecolorsforindex($png, imagecolorat($png, 4, 4))['alpha'])
        ->toBe(127)
        ->and(imagecolorat($jpeg, 4, 4) & 0xFFFFFF)
        ->toBe(0xFFFFFF);
});

it('turns them as a camera says, once', function (): void {
    $wide = self::bytes(imagecreatetruecolor(40, 20), 'jpeg');
    // EXIF 2.32, 4.6.4: orientation 6 means that the right side is up; one entry in one directory.
    $exif = "Exif\0\0MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\x06\0\0\0\0\0\0";
    $turned = substr($wide, 0, 2)."\xFF\xE1".pack('n', strlen($exif) + 2).$exif.substr($wide, 2);
    $picture = (new Pictures())->open($turned, 'turned.jpg');
    $drawn = $picture->fill(new Size(10, 20), 'jpg');
    expect((string) $picture->size)->toBe('20 × 40')->and($drawn)->not->toContain('Exif');
});

it('turns what browsers turn, and leaves what they leave', function (string $type, bool $isTurned): void {
    // One red half and one blue: which side is up shows in the colours.
    $wide = new Imagick();
    $wide->newImage(40, 20, 'red', $type);
    $blue = new ImagickDraw();
    $blue->setFillColor('blue');
    $blue->rectangle(20, 0, 39, 19);
    $wide->drawImage($blue);
    $bytes = $wide->getImageBlob();
    $tiff = "MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\x06\0\0\0\0\0\0";
    $bytes = match ($type) {
        'png' => substr($bytes, 0, 33).pack('N', strlen($tiff))."eXIf$tiff".pack('N', crc32("eXIf$tiff"))
            .substr($bytes, 33),
        default => withExif($bytes, $tiff),
    };
    $picture = (new Pictures())->open($bytes, "turned.$type");
    $drawn = imagecreatefromstring($picture->fill($picture->size, 'png'));
    imagepalettetotruecolor($drawn);
    $corner = fn (int $x, int $y): string => (imagecolorat($drawn, $x, $y) & 0xFF) > 128 ? 'blue' : 'red';
    expect((string) $picture->size)
        ->toBe($isTurned ? '20 × 40' : '40 × 20')
        ->and([$corner(3, 3), $isTurned ? $corner(3, 36) : $corner(36, 3)])
        ->toBe(['red', 'blue']);
})->with([['png', true], ['webp', false]]);

/** A WebP as an extended one (RFC 9649, 2.7) with its EXIF. */
function withExif(string $webp, string $tiff): string
{
    $chunks = substr($webp, 12);
    $flags = "VP8X\x0A\0\0\0\x08\0\0\0".substr(pack('V', 39), 0, 3).substr(pack('V', 19), 0, 3);
    $body = 'WEBP'.$flags.$chunks.'EXIF'.pack('V', strlen($tiff)).$tiff.(strlen($tiff) % 2 === 1 ? "\0" : '');

    return 'RIFF'.pack('V', strlen($body)).$body;
}

it('draws in the colours of the web, whatever the original is in', function (Closure $bytes, string $colour): void {
    [$drawn, $bits] = drawnFrom($bytes(), 'x');
    $distance = max(
        array_map(static fn (int $i): int => abs(hexdec(substr($drawn, $i, 2)) - hexdec(substr($colour, $i, 2))), [
            0,
            2,
            4,
        ]),
    );
    expect($distance)->toBeLessThan(8)->and($bits)->toBe(8);
})->with([
    'the web\'s own' => [fn (): string => plate('#c81e50', 'png'), 'c81e50'],
    'with their profile' => [
        fn (): string => plate('#c81e50', 'png', fn (Imagick $i) => $i->profileImage('icc', ScreenProfile::bytes())),
        'c81e50',
    ],
    // Red is where green was: what is not converted comes out red.
    'with the profile of a strange machine' => [
        fn (): string => plate(
            '#ff0000',
            'png',
            fn (Imagick $i) => $i->setImageProfile(
                'icc',
                strtr(ScreenProfile::bytes(), ['rXYZ' => 'gXYZ', 'gXYZ' => 'rXYZ']),
            ),
        ),
        '00ff00',
    ],
    'with a profile that is none' => [
        fn (): string => plate('#c81e50', 'png', fn (Imagick $i) => $i->setImageProfile('icc', 'no profile')),
        'c81e50',
    ],
    'inks' => [
        fn (): string => plate(
            '#ff0000',
            'jpeg',
            fn (Imagick $i) => $i->transformImageColorspace(Imagick::COLORSPACE_CMYK),
        ),
        'ff0000',
    ],
    'sixteen bits' => [fn (): string => plate('#c81e50', 'png', fn (Imagick $i) => $i->setImageDepth(16)), 'c81e50'],
    'greys' => [
        fn (): string => plate(
            '#777777',
            'png',
            fn (Imagick $i) => $i->transformImageColorspace(Imagick::COLORSPACE_GRAY),
        ),
        '777777',
    ],
    'a palette' => [
        fn (): string => plate('#c81e50', 'gif', fn (Imagick $i) => $i->setImageType(Imagick::IMGTYPE_PALETTE)),
        'c81e50',
    ],
]);

it('draws the first picture of one that moves', function (): void {
    $film = new Imagick();
    foreach (['#c81e50', '#1e50c8'] as $colour) {
        $film->newImage(20, 20, $colour, 'gif');
    }
    expect(drawnFrom($film->getImagesBlob(), 'film.gif')[0])->toBe('c81e50');
});

it('says so when the memory for a picture is not enough', function (): void {
    config(['pictures.memory_mb' => 16]);
    $large = plate('#c81e50', 'png', fn (Imagick $i) => $i->resizeImage(2000, 1500, Imagick::FILTER_POINT, 1));
    expect(fn () => (new Pictures())->open($large, 'large.png'))
        ->toThrow(UploadRefused::class, 'declares 2,000 × 1,500 pixels')
        // What a head says is not believed: the process itself has no more.
        ->and(fn () => new OpenPicture($large, 'png', 'large.png', 16 * 1_048_576, 30))
        ->toThrow(UploadRefused::class, 'needs more memory');
});

it('says so when it takes too long, or its process is gone', function (): void {
    $bytes = plate('#c81e50', 'png');
    expect(fn () => new OpenPicture($bytes, 'png', 'slow.png', 32 * 1_048_576, 0))->toThrow(
        UploadRefused::class,
        'takes longer to open',
    );
    $picture = (new Pictures())->open($bytes, 'x.png');
    $end = function () use ($picture): void {
        $process = (new ReflectionProperty($picture, 'process'))->getValue($picture);
        posix_kill(proc_get_status($process)['pid'], SIGKILL);
    };
    // Ended from outside, it is begun anew, once.
    $end();
    expect(getimagesizefromstring($picture->fill(new Size(5, 5), 'png'))[0] ?? 0)->toBe(5);
    $end();
    expect(fn () => $picture->fill(new Size(5, 5), 'png'))->toThrow(UploadRefused::class, 'cannot be opened within');
});

it('opens a picture while many files are open, also such as nobody needs any more', function (): void {
    // Each is inherited by the process that opens the picture.
    $held = array_map(static fn () => fopen(__FILE__, 'r'), range(1, 300));
    for ($i = 0; $i < 300; $i++) {
        $cycle = new stdClass();
        [$cycle->self, $cycle->file] = [$cycle, fopen(__FILE__, 'r')];
    }
    $picture = (new Pictures())->open(plate('#c81e50', 'png'), 'x.png');
    expect($picture->size->width)->toBe(20)->and(count($held))->toBe(300);
});

it('leaves no process and no folder behind', function (): void {
    $folders = fn (): array => Storage::disk('work')->directories('pictures');
    $before = $folders();
    foreach (['', 'GIF89a', substr($this->jpeg(), 0, 9000)."\xFF\xD9"] as $bad) {
        try {
            new OpenPicture($bad, 'jpg', 'x', 32 * 1_048_576, 20);
        } catch (UploadRefused) {
        }
    }
    expect($folders())->toBe($before);
    $picture = (new Pictures())->open(plate('#c81e50', 'png'), 'x.png');
    $process = proc_get_status((new ReflectionProperty($picture, 'process'))->getValue($picture))['pid'];
    expect(posix_kill($process, 0))->toBeTrue();
    unset($picture);
    expect(posix_kill($process, 0))->toBeFalse();
});

it('refuses what is damaged inside', function (Closure $bytes, string $name): void {
    expect(fn () => (new Pictures())->open($bytes->call($this), $name))->toThrow(UploadRefused::class, 'damaged');
})->with([
    'a jpeg with an end stuck on' => [fn (): string => substr($this->jpeg(), 0, 9000)."\xFF\xD9", 'x.jpg'],
    'a png with a chunk of nothing' => [
        function (): string {
            $png = plate('#c81e50', 'png');

            return substr_replace($png, 'xxxxxxxx', (int) strpos($png, 'IDAT') + 4, 8);
        },
        'x.png',
    ],
]);
