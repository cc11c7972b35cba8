<?php

declare(strict_types=1);

namespace Standin\Drawing;

/** What the observatory owns besides pictures: printed tables, drawings, a sound. */
final class Papers
{
    /** One page of text, as PDF 1.4 (ISO 32000-1, 7.5). */
    public static function pdf(string $title, int $seed): string
    {
        $lines = [
            "BT /F1 22 Tf 60 770 Td ($title) Tj ET",
            'BT /F1 10 Tf 60 748 Td (Korrin Bay Tidewater Observatory. Heights in metres above datum.) Tj ET',
        ];
        for ($day = 1; $day <= 31; $day++) {
            $high = 3.4 + sin(($day + $seed) / 2.3) * 0.9;
            $lines[] = sprintf(
                'BT /F1 11 Tf 60 %d Td (%02d    high %02d:%02d  %.1f m      low %02d:%02d  %.1f m) Tj ET',
                730 - $day * 21,
                $day,
                ($day * 49 + $seed) % 12,
                ($day * 37) % 60,
                $high,
                ($day * 49 + $seed + 6) % 24,
                ($day * 41) % 60,
                4.2 - $high,
            );
        }
        $text = implode("\n", $lines);
        $objects = [
            '<< /Type /Catalog /Pages 2 0 R >>',
            '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
            '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << /Font << /F1 5 0 '
            .'R >> >> >>',
            '<< /Length '.strlen($text)." >>\nstream\n$text\nendstream",
            '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
        ];
        $pdf = "%PDF-1.4\n";
        $offsets = '';
        foreach ($objects as $i => $object) {
            $offsets .= sprintf("%010d 00000 n \n", strlen($pdf));
            $pdf .= $i + 1 ." 0 obj\n$object\nendobj\n";
        }

        return $pdf
            .'xref'
            ."\n0 6\n0000000000 65535 f \n"
            .$offsets
            ."trailer << /Size 6 /Root 1 0 R >>\nstartxref\n"
            .strlen($pdf)
            ."\n%%EOF\n";
    }

    public static function svg(int $width, int $height, int $seed): string
    {
        $waves = '';
        for ($i = 0; $i < 4; $i++) {
            $y = $height * (0.35 + $i * 0.14);
            $waves .= sprintf(
                '<path d="M0 %1$.1f q %2$.1f -%3$.1f %4$.1f 0 t %4$.1f 0 t %4$.1f 0 t %4$.1f 0" fill="none" '
                    .'stroke="#1f5a68" stroke-width="%5$.1f" opacity="%6$.2f"/>',
                $y,
                $width / 8,
                $height / (6 + ($seed % 3)),
                $width / 4,
                6 - $i,
                1 - $i * 0.18,
            );
        }

        return "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"$width\" height=\"$height\" viewBox=\"0 0 $width "
            ."$height\"><rect width=\"$width\" height=\"$height\" fill=\"#eef3f0\"/>$waves</svg>\n";
    }

    /** A bell struck three times: 16 bits, one channel, 11,025 samples a second (RIFF/WAVE). */
    public static function wav(): string
    {
        $rate = 11025;
        $data = '';
        for ($i = 0; $i < $rate * 3; $i++) {
            $t = fmod($i / $rate, 1.0);
            $sound =
                exp(-4 * $t)
                * (sin(2 * M_PI * 523 * $t) + 0.5 * sin(2 * M_PI * 1245 * $t) + 0.25 * sin(2 * M_PI * 1976 * $t));
            $data .= pack('v', (int) round($sound * 14000) & 0xFFFF);
        }

        return 'RIFF'
            .pack('V', 36 + strlen($data))
            .'WAVEfmt '
            .pack('VvvVVvv', 16, 1, 1, $rate, $rate * 2, 2, 16)
            .'data'
            .pack('V', strlen($data))
            .$data;
    }
}
