<?php

declare(strict_types=1);

namespace App\Media;

/** What goes to and fro between an open picture and its process: the length of each part, facts as JSON, bytes. */
final class PictureMessage
{
    /** @param  array<string, mixed>  $facts */
    public static function pack(array $facts, string $bytes): string
    {
        $json = json_encode($facts, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);

        return pack('NN', strlen($json), strlen($bytes)).$json.$bytes;
    }

    /**
     * @param  callable(int): string  $read so many bytes, fewer where the other side is gone
     * @return array{array<string, mixed>, string}|null null where it is gone
     */
    public static function from(callable $read): ?array
    {
        $head = $read(8);
        $lengths = strlen($head) === 8 ? unpack('N2', $head) : false;
        if ($lengths === false) {
            return null;
        }
        $facts = json_decode($read((int) $lengths[1]), true);
        $bytes = $read((int) $lengths[2]);

        return is_array($facts) && strlen($bytes) === $lengths[2] ? [$facts, $bytes] : null;
    }
}
