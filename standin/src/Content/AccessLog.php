<?php

declare(strict_types=1);

namespace Standin\Content;

/**
 * Three months of the demo site's access log, as its web server would have left it: the days of now plain, those of
 * before packed. Addresses of visitors are of the ranges for documentation (RFC 5737).
 */
final readonly class AccessLog
{
    private const DAYS = 92;

    private const DAY = 86_400;

    private const BROWSERS = [
        'Mozilla/5.0 (X11; Linux x86_64; rv:131.0) Gecko/20100101',
        'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko)',
        'Mozilla/5.0 (Macintosh; Intel Mac OS X 14_6) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/17.6',
        'Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Mobile',
    ];

    private const ROBOTS = [
        'Mozilla/5.0 (compatible; tidecrawler/2.1; +https://tidecrawler.example/about)',
        'shorebot/0.9 (+https://shorebot.example/)',
        'curl/7.88.1',
        '-',
    ];

    public function __construct(private Catalogue $media)
    {
    }

    /** @param  int  $now seconds since 1970; the log ends a moment before */
    public function write(string $folder, int $now): void
    {
        @mkdir($folder, 0o775, true);
        foreach (glob("$folder/access.log*") ?: [] as $old) {
            unlink($old);
        }
        $months = [];
        for ($day = self::DAYS; $day >= 0; $day--) {
            $month = intdiv($day, 31);
            $months[$month] = ($months[$month] ?? '').$this->day($day, $now - $day * self::DAY - 3600);
        }
        file_put_contents("$folder/access.log", $months[0] ?? '');
        for ($n = 1; isset($months[$n]); $n++) {
            file_put_contents("$folder/access.log.$n.gz", gzencode($months[$n], 6));
        }
        foreach (glob("$folder/access.log*") ?: [] as $file) {
            touch($file, $now - 3600);
        }
    }

    private function day(int $day, int $at): string
    {
        $lines = '';
        for ($n = 0; $n < 40; $n++) {
            $seed = $day * 40 + $n;
            $item = $this->media->of(['shore', 'boats', 'birds', 'lights', 'people', 'harbour'][$seed % 6], $seed);
            $lines .= $this->line(
                $seed,
                $at - 30_000 + $n * 600,
                '/'.$this->encoded($item->file([480, 960][$seed % 2])),
                200,
                'https://korrinbay.example/walks',
                self::BROWSERS[$seed % 4],
            );
        }
        // Robots take everything, in use or not.
        foreach (['left', 'idle', 'copies'] as $group) {
            $item = $this->media->of($group, $day);
            // What something rests on shall be asked for by robots alone.
            if (! in_array($item->path, ['media/archive/left-09.jpg'], true)) {
                $lines .= $this->line($day, $at - 500, '/'.$item->path, 200, '-', self::ROBOTS[$day % 4]);
            }
        }
        $left = fn (int $n): string => '/'.$this->media->of('left', $n - 1)->path;
        if ($day % 9 === 4) {
            $lines .= $this->line(
                $day,
                $at - 400,
                $left(5),
                200,
                "https://tidewatchers.example/links/bay.html?reader=$day",
                self::BROWSERS[$day % 4],
            );
            $lines .= $this->line($day, $at - 300, $left(6), 200, '-', 'HarbourMail/2.1 (mail; Linux)');
        }
        if ($day === 20 || $day === 48) {
            $lines .= $this->line($day, $at - 200, $left(8).'?from=poster', 200, '-', self::BROWSERS[0]);
        }
        if ($day % 40 === 7) {
            $lines .= "192.0.2.9 - - [$day/broken\n\x16\x03\x01 nonsense\n";
        }

        return $lines;
    }

    private function line(int $seed, int $at, string $target, int $status, string $referrer, string $agent): string
    {
        $who = ['192.0.2.', '198.51.100.', '203.0.113.'][$seed % 3].(1 + (($seed * 13) % 250));
        $when = gmdate('d/M/Y:H:i:s', $at).' +0000';
        $host = $seed % 5 === 0 ? 'korrinbay.example:443 ' : '';

        return "$host$who - - [$when] \"GET $target HTTP/1.1\" $status "
            .(4000 + (($seed * 37) % 90_000))
            ." \"$referrer\" \"$agent\"\n";
    }

    private function encoded(string $path): string
    {
        return implode('/', array_map(rawurlencode(...), explode('/', $path)));
    }
}
