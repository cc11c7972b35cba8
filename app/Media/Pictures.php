<?php

declare(strict_types=1);

namespace App\Media;

use Ylema\Imaging\UploadCheck;
use Ylema\Imaging\UploadRefused;

/** Opens pictures to draw others from them, each in a process of its own with limits. */
final readonly class Pictures
{
    public const WRITABLE = ['jpg', 'jpeg', 'png', 'gif', 'webp', 'avif'];

    private int $memory;

    private int $seconds;

    public function __construct()
    {
        $this->memory = max(16, (int) config('pictures.memory_mb')) * 1_048_576;
        $this->seconds = max(1, (int) config('pictures.seconds'));
    }

    /** What may be uploaded, as far as this machine can draw it. */
    public function check(): UploadCheck
    {
        return new UploadCheck(maxPixels: intdiv($this->memory, PictureBench::PIXEL));
    }

    /**
     * @throws UploadRefused for what is damaged, too large or no picture
     */
    public function open(string $bytes, string $name): OpenPicture
    {
        $picture = $this->check()->judge($bytes, $name);
        if (! in_array($picture->extension, self::WRITABLE, true)) {
            throw new UploadRefused('This file has no picture to show.');
        }

        return new OpenPicture($bytes, $picture->extension, $name, $this->memory, $this->seconds);
    }
}
