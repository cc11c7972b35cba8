<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/** What a file is to a visitor; a thing of one type cannot stand where another is shown. */
enum MediaType: string
{
    case Picture = 'picture';
    case Film = 'film';
    case Sound = 'sound';
    case Document = 'document';

    private const EXTENSIONS = [
        'jpg' => self::Picture,
        'jpeg' => self::Picture,
        'png' => self::Picture,
        'gif' => self::Picture,
        'webp' => self::Picture,
        'avif' => self::Picture,
        'svg' => self::Picture,
        'ico' => self::Picture,
        'bmp' => self::Picture,
        'tif' => self::Picture,
        'tiff' => self::Picture,
        'mp4' => self::Film,
        'webm' => self::Film,
        'ogv' => self::Film,
        'mov' => self::Film,
        'm4v' => self::Film,
        'mp3' => self::Sound,
        'ogg' => self::Sound,
        'oga' => self::Sound,
        'wav' => self::Sound,
        'm4a' => self::Sound,
        'flac' => self::Sound,
    ];

    /** By the extension of a path; whatever is none of the others is a document. */
    public static function of(string $path): self
    {
        return self::EXTENSIONS[self::extension($path)] ?? self::Document;
    }

    /** In lower case, without the dot. */
    public static function extension(string $path): string
    {
        return strtolower(pathinfo($path, PATHINFO_EXTENSION));
    }

    /** Whether two extensions name the same type: `jpg` and `jpeg` do. */
    public static function isSame(string $one, string $other): bool
    {
        $plain = static fn (string $extension): string => match ($extension) {
            'jpeg' => 'jpg',
            'tiff' => 'tif',
            default => $extension,
        };

        return $plain($one) === $plain($other);
    }
}
