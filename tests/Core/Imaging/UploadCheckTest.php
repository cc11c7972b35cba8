<?php

declare(strict_types=1);

use Ylema\Imaging\UploadCheck;
use Ylema\Imaging\UploadRefused;

/** A small picture of a type, as a camera or a program would write it. */
function pictureBytes(string $type, int $width = 40, int $height = 30): string
{
    $image = imagecreatetruecolor($width, $height);
    imagefilledrectangle($image, 3, 3, $width - 6, $height - 6, (int) imagecolorallocate($image, 200, 90, 30));
    ob_start();
    match ($type) {
        'jpg' => imagejpeg($image),
        'png' => imagepng($image),
        'gif' => imagegif($image),
        'webp' => imagewebp($image),
        'avif' => imageavif($image),
    };

    return (string) ob_get_clean();
}

it('knows a picture by its bytes, whatever its name', function (string $type, string $mime): void {
    $picture = (new UploadCheck())->judge(pictureBytes($type), 'holiday.doc');
    expect([$picture->extension, $picture->mime, (string) $picture->size])->toBe([$type, $mime, '40 × 30']);
})->with([
    ['jpg', 'image/jpeg'],
    ['png', 'image/png'],
    ['gif', 'image/gif'],
    ['webp', 'image/webp'],
    ['avif', 'image/avif'],
]);

it('refuses a picture whose end is missing', function (string $type): void {
    $bytes = pictureBytes($type, 300, 200);
    expect(fn () => (new UploadCheck())->judge(substr($bytes, 0, (int) (strlen($bytes) * 0.7)), 'x'))->toThrow(
        UploadRefused::class,
        'part of the file is missing',
    );
})->with(['jpg', 'png', 'gif', 'webp', 'avif']);

it('takes a photograph with something behind its end, as some cameras write it', function (): void {
    expect((new UploadCheck())->judge(pictureBytes('jpg').str_repeat("\0", 64), 'x')->extension)->toBe('jpg');
});

it('refuses more than it can take, and says how much that is', function (): void {
    $bytes = pictureBytes('png', 200, 100);
    expect(fn () => (new UploadCheck(maxPixels: 19_999))->judge($bytes, 'x.png'))
        ->toThrow(UploadRefused::class)
        ->and(fn () => (new UploadCheck(maxBytes: 100))->judge($bytes, 'x.png'))
        ->toThrow(UploadRefused::class, 'limit')
        ->and((new UploadCheck(maxPixels: 20_000))->judge($bytes, 'x.png')->size?->pixels())
        ->toBe(20_000);
});
