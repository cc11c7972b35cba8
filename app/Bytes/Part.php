<?php

declare(strict_types=1);

namespace App\Bytes;

use Ylema\Sites\WriteRefused;

/**
 * The one way in which bytes get a name on this machine: written beside, on the disk, read back, with mode, owner and
 * time, and only then renamed; so that under a name there is the old file or the new one, whole, whenever anybody looks
 * or the machine loses its power.
 */
final class Part
{
    /** All that is under way ends so; it is never part of anything. */
    public const ENDING = '.ylema-part';

    private const CHUNK = 1 << 20;

    public static function is(string $name): bool
    {
        return str_ends_with($name, self::ENDING);
    }

    /** A name of its own, short enough wherever the target's is: two writers never write into each other's part. */
    public static function name(): string
    {
        return bin2hex(random_bytes(6)).self::ENDING;
    }

    /** @param  string  $path of the target; the part has the same folder */
    public static function beside(string $path): string
    {
        return (str_contains($path, '/') ? dirname($path).'/' : '').self::name();
    }

    /**
     * @param  string  $target where the file lies in the end
     * @param  resource|string  $bytes
     * @param  string  $said what the file is called where it cannot be written
     * @param  string|null  $sha256 that its bytes must have; null where nobody knows it before
     * @param  string|null  $aside a folder of the same file system for the part; null for the target's own
     * @param  int  $folders mode of folders that are missing on the way
     * @return string the SHA-256 of what lies there now
     *
     * @throws WriteRefused with what lay there before still there
     */
    public static function write(
        string $target,
        $bytes,
        Attributes $as,
        string $said,
        ?string $sha256 = null,
        ?string $aside = null,
        int $folders = 0o775,
    ): string {
        $warnings = new Warnings();
        foreach (array_unique([dirname($target), $aside ?? dirname($target)]) as $folder) {
            if (! is_dir($folder) && ! self::makeFolder($folder, $folders, $warnings)) {
                throw new WriteRefused($said, "its folder cannot be made: {$warnings->advice()}");
            }
        }
        [$part, $handle] = self::begin($aside ?? dirname($target), $said, $warnings);
        try {
            $sent = self::fill($handle, $bytes, $said, $warnings);
            if ($sha256 !== null && $sent !== $sha256) {
                throw new WriteRefused($said, 'what was read for it is not what was meant (another SHA-256). Nothing '
                    .'was changed; look at where it comes from');
            }
            if ($warnings->during(static fn (): bool => fflush($handle) && fsync($handle)) !== true) {
                throw new WriteRefused($said, $warnings->advice());
            }
            rewind($handle);
            $back = hash_init('sha256');
            hash_update_stream($back, $handle);
            if (hash_final($back) !== $sent) {
                throw new WriteRefused($said, 'what its disk gives back is not what was written. Look at the disk '
                    .'before anything else');
            }
            $as->putOn($part);
            if ($warnings->during(static fn (): bool => rename($part, $target)) !== true) {
                throw new WriteRefused($said, $warnings->advice());
            }
            clearstatcache(true, $target);

            return $sent;
        } finally {
            fclose($handle);
            if (is_file($part)) {
                @unlink($part);
            }
        }
    }

    /** Takes away what killed processes left in a folder; what somebody is still writing stays. */
    public static function sweep(string $folder): int
    {
        $names = is_dir($folder) ? @scandir($folder) : [];
        $gone = 0;
        foreach (is_array($names) ? $names : [] as $name) {
            $handle = self::is($name) ? @fopen("$folder/$name", 'r+b') : false;
            if ($handle !== false) {
                $gone += flock($handle, LOCK_EX | LOCK_NB) && @unlink("$folder/$name") ? 1 : 0;
                fclose($handle);
            }
        }

        return $gone;
    }

    /**
     * Locked as long as somebody writes it; a part without a lock is one that a killed process left.
     *
     * @return array{string, resource}
     */
    private static function begin(string $folder, string $said, Warnings $warnings): array
    {
        do {
            $part = "$folder/".self::name();
            $handle = $warnings->during(static fn () => fopen($part, 'x+b'));
            if (! is_resource($handle)) {
                throw new WriteRefused($said, $warnings->advice());
            }
            flock($handle, LOCK_EX);
            clearstatcache(true, $part);
            // Whoever sweeps may have come between the two, and then it is nobody's.
        } while (! is_file($part));

        return [$part, $handle];
    }

    private static function makeFolder(string $folder, int $mode, Warnings $warnings): bool
    {
        // Two that make it at one moment both have it.
        return $warnings->during(static fn (): bool => mkdir($folder, $mode, true)) || is_dir($folder);
    }

    /**
     * @param  resource  $handle
     * @param  resource|string  $bytes
     * @return string the SHA-256 of what went in
     */
    private static function fill($handle, $bytes, string $said, Warnings $warnings): string
    {
        $hash = hash_init('sha256');
        $length = 0;
        foreach (is_string($bytes) ? [$bytes] : self::chunks($bytes, $said) as $chunk) {
            $written = $warnings->during(static fn (): int|false => fwrite($handle, $chunk));
            $length += (int) $written;
            if ($written !== strlen($chunk)) {
                throw new WriteRefused($said, "only $length bytes went in: {$warnings->advice()}");
            }
            hash_update($hash, $chunk);
        }

        return hash_final($hash);
    }

    /**
     * @param  resource  $stream
     * @return iterable<string>
     */
    private static function chunks($stream, string $said): iterable
    {
        while (! feof($stream)) {
            $chunk = @fread($stream, self::CHUNK);
            if ($chunk === false) {
                throw new WriteRefused($said, 'where it comes from stopped in the middle. Try again');
            }
            yield $chunk;
        }
    }
}
