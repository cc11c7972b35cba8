<?php

declare(strict_types=1);

namespace App\Reading;

use finfo;
use Symfony\Component\Mime\MimeTypes;
use Ylema\Imaging\Embedded;
use Ylema\Imaging\MediaType;

/** What a file is, from its bytes: hash, type and pixels. Headers only; no pixel is decoded. */
final readonly class FileProbe
{
    /** What is said of bytes that could not be told apart; then the name says more. */
    private const VAGUE = ['application/octet-stream', 'text/plain', 'application/zip', 'application/x-empty'];

    /** What a file says of itself stands before its pixels. */
    private const HEAD = 262_144;

    private function __construct(public string $sha256, public string $mime, public ?int $width, public ?int $height)
    {
    }

    public static function of(string $path, string $bytes): self
    {
        $info = @getimagesizefromstring($bytes);
        $isPicture = $info !== false && $info[0] > 0 && $info[1] > 0;

        [$width, $height] = $isPicture ? [$info[0], $info[1]] : [null, null];
        // As a person sees it: a browser turns a picture as its file says.
        $isTurned = $isPicture && Embedded::in(substr($bytes, 0, self::HEAD))->isSideways();

        return new self(
            hash('sha256', $bytes),
            $isPicture ? $info['mime'] : self::type($path, $bytes),
            $isTurned ? $height : $width,
            $isTurned ? $width : $height,
        );
    }

    private static function type(string $path, string $bytes): string
    {
        $type = (new finfo(FILEINFO_MIME_TYPE))->buffer(substr($bytes, 0, 65536));
        $named = MimeTypes::getDefault()->getMimeTypes(MediaType::extension($path));
        if ($type === false || in_array($type, self::VAGUE, true)) {
            $type = $named[0] ?? 'application/octet-stream';
        }

        // A private name, as the tools' tables still hold them ("audio/x-wav"), gives way to the registered one of its
        // kind (RFC 6648 ends the use of "x-").
        $isPrivate = str_contains($type, '/x-') && in_array($type, $named, true);

        return $isPrivate && strtok($named[0], '/') === strtok($type, '/') ? $named[0] : $type;
    }
}
