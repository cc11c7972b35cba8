<?php

declare(strict_types=1);

namespace App\Media;

/**
 * The colours of the web (IEC 61966-2-1, "sRGB") as a colour profile (ICC.1:2022, version 4), for what is converted
 * into them.
 */
final class ScreenProfile
{
    public static function bytes(): string
    {
        $text = static fn (string $words): string => "mluc\0\0\0\0".pack('NN', 1, 12).'enUS'
            .pack('NN', 2 * strlen($words), 28)
            .mb_convert_encoding($words, 'UTF-16BE', 'ASCII');
        $point = static fn (float ...$values): string => "XYZ \0\0\0\0"
            .implode('', array_map(self::fixed(...), $values));
        // The function of type 3: a line near black, a power above it (10.18).
        $curve = "para\0\0\0\0".pack('nn', 3, 0)
            .implode('', array_map(self::fixed(...), [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045]));
        // The primaries, adapted to D50, the light that profiles are written for (annex E).
        $tags = [
            'desc' => $text('sRGB'),
            'cprt' => $text('Free of rights'),
            'wtpt' => $point(0.9642, 1.0, 0.8249),
            'rXYZ' => $point(0.4360, 0.2225, 0.0139),
            'gXYZ' => $point(0.3851, 0.7169, 0.0971),
            'bXYZ' => $point(0.1431, 0.0606, 0.7141),
            'rTRC' => $curve,
            'gTRC' => $curve,
            'bTRC' => $curve,
        ];
        $table = pack('N', count($tags));
        $data = '';
        $start = 128 + 4 + 12 * count($tags);
        foreach ($tags as $name => $tag) {
            $table .= $name.pack('NN', $start + strlen($data), strlen($tag));
            $data .= str_pad($tag, strlen($tag) + (4 - strlen($tag) % 4) % 4, "\0");
        }
        $head = pack('N', $start + strlen($data))."\0\0\0\0\x04\x40\0\0mntrRGB XYZ "
            .pack('n6', 2026, 1, 1, 0, 0, 0)
            .'acsp'.str_repeat("\0", 28)
            .implode('', array_map(self::fixed(...), [0.9642, 1.0, 0.8249]));

        return str_pad($head, 128, "\0").$table.$data;
    }

    /** 15 bits before the point, 16 behind it (4.6). */
    private static function fixed(float $value): string
    {
        return pack('N', (int) round($value * 65536) & 0xFFFFFFFF);
    }
}
