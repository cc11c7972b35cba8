<?php

declare(strict_types=1);

namespace Standin\Site;

/** Keeps a finished page until it is purged or its time is over (RFC 9111: Age, max-age; RFC 9110: ETag). */
final readonly class PageCache
{
    public function __construct(private string $folder, public int $seconds = 600)
    {
    }

    /** @return array{type: string, body: string, made: int}|null */
    public function get(string $path): ?array
    {
        $file = $this->file($path);
        $made = @filemtime($file);
        if ($made === false || $made + $this->seconds < time()) {
            return null;
        }
        $kept = @file_get_contents($file);
        if ($kept === false || ($line = strpos($kept, "\n")) === false) {
            return null;
        }

        return ['type' => substr($kept, 0, $line), 'body' => substr($kept, $line + 1), 'made' => $made];
    }

    public function put(string $path, string $type, string $body): void
    {
        @mkdir($this->folder, 0o775, true);
        $beside = $this->file($path).'.'.getmypid();
        file_put_contents($beside, "$type\n$body");
        rename($beside, $this->file($path));
    }

    /** @return bool whether something was kept */
    public function purge(string $path): bool
    {
        return @unlink($this->file($path));
    }

    public function purgeAll(): int
    {
        $files = glob("$this->folder/*") ?: [];
        array_map(unlink(...), $files);

        return count($files);
    }

    private function file(string $path): string
    {
        return "$this->folder/".hash('xxh128', $path);
    }
}
