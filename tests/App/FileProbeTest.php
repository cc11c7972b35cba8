<?php

declare(strict_types=1);

use App\Reading\FileProbe;
use Standin\Drawing\Papers;

it('knows the type of a file by its bytes, and by its name where bytes tell nothing', function (
    string $path,
    string $bytes,
    string $type,
): void {
    expect(FileProbe::of($path, $bytes)->mime)->toBe($type);
})->with([
    'a document' => ['a.pdf', Papers::pdf('Tides', 1), 'application/pdf'],
    'a picture under a wrong name' => ['a.pdf', "GIF89a\x01\0\x01\0\x80\0\0\0\0\0\0\0\0;", 'image/gif'],
    'a sound' => [
        'a.wav',
        "RIFF\x24\0\0\0WAVEfmt \x10\0\0\0\x01\0\x01\0\x44\xAC\0\0\x88\x58\1\0\2\0\x10\0data\0\0\0\0",
        'audio/wav',
    ],
    'a film too short to be told' => ['a.webm', "\x1A\x45\xDF\xA3", 'video/webm'],
    'nothing at all' => ['a', '', 'application/octet-stream'],
]);
