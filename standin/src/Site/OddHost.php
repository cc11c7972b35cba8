<?php

declare(strict_types=1);

namespace Standin\Site;

/** What may come of asking other people's hosts for a picture. It knows nothing of Ylema. */
final readonly class OddHost
{
    public function __construct(private string $folder)
    {
    }

    public function answer(string $name, string $query): void
    {
        match ($name) {
            'slow.jpg' => $this->slowly(),
            'moved.jpg' => $this->sendOn('/p/8-3.jpg'),
            'round.jpg' => $this->sendOn('/p/odd/round.jpg'),
            'away.jpg' => $this->sendOn('http://127.0.0.1/private.jpg'),
            'page.jpg' => $this->page(),
            'script.svg' => $this->script(),
            'vast.png' => $this->vast(),
            'new.jpg' => $this->other(),
            default => $this->missing(),
        };
    }

    private function slowly(): void
    {
        sleep(2);
        $this->picture('8-3.jpg');
    }

    private function sendOn(string $to): void
    {
        http_response_code(302);
        header("Location: $to");
    }

    private function page(): void
    {
        header('Content-Type: image/jpeg');
        echo '<!DOCTYPE html><title>Sign in</title><p>Please sign in to see this picture.</p>';
    }

    private function script(): void
    {
        header('Content-Type: image/svg+xml');
        echo '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>';
    }

    /** A picture that says of itself that it is 20,000 pixels on each side (PNG, 11.2.2). */
    private function vast(): void
    {
        header('Content-Type: image/png');
        $chunk = static fn (string $type, string $data): string => pack('N', strlen($data)).$type.$data
            .pack('N', crc32($type.$data));
        echo "\x89PNG\r\n\x1A\n"
            .$chunk('IHDR', pack('NNCCCCC', 20000, 20000, 8, 2, 0, 0, 0))
            .$chunk('IDAT', (string) gzcompress(str_repeat("\0", 1000)))
            .$chunk('IEND', '');
    }

    /** Each time that it is asked, it is another picture. */
    private function other(): void
    {
        $image = imagecreatetruecolor(320, 200);
        imagefilledrectangle(
            $image, 0, 0, 320, 200, (int) imagecolorallocate($image, random_int(0, 255), random_int(0, 255), 90),
        );
        header('Content-Type: image/jpeg');
        imagejpeg($image, null, 80);
    }

    private function picture(string $name): void
    {
        header('Content-Type: image/jpeg');
        readfile("$this->folder/p/$name");
    }

    private function missing(): void
    {
        http_response_code(404);
    }
}
