<?php

declare(strict_types=1);

namespace App\Changes\Verifying;

use App\Models\Change;
use App\Models\StepState;
use App\Outgoing\Visitor;
use App\Sites\OpenSite;
use Psr\Http\Message\ResponseInterface;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\DeleteFile;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\WriteFile;

/** The files that a change wrote, moved or took away, at their public addresses: their bytes, and how they are sent. */
final readonly class FileLook
{
    /** What a browser may keep for longer than this is worth a word: visitors keep the old file. Seconds. */
    private const KEPT = 86_400;

    /** What files of these endings must be sent as to be shown (MIME Sniffing, 6; CSS by its strict check, 5.3). */
    private const TYPES = [
        'jpg' => 'image/', 'jpeg' => 'image/', 'png' => 'image/', 'gif' => 'image/', 'webp' => 'image/',
        'avif' => 'image/', 'svg' => 'image/svg+xml', 'css' => 'text/css', 'pdf' => 'application/pdf',
        'mp4' => 'video/', 'webm' => 'video/', 'mp3' => 'audio/',
    ];

    public function __construct(private OpenSite $site, private Visitor $visitor)
    {
    }

    /** @return array{list<array<string, mixed>>, int} what was met of each, and how many there are in all */
    public function look(Change $change, int $limit): array
    {
        $steps = $change
            ->steps()
            ->whereIn('kind', [StepKind::WriteFile->value, StepKind::MoveFile->value, StepKind::DeleteFile->value])
            ->whereIn('state', [StepState::Done->value, StepState::Undone->value]);
        $wanted = $replaced = [];
        foreach ((clone $steps)->orderBy('position')->limit($limit)->get() as $row) {
            $step = $row->state === StepState::Undone ? $row->step()->inverse() : $row->step();
            if ($step instanceof WriteFile) {
                $wanted[$step->path] = $step->after->sha256;
                $replaced[$step->path] = $step->before !== null;
            } elseif ($step instanceof MoveFile) {
                $wanted[$step->to] = $step->file->sha256;
            } elseif ($step instanceof DeleteFile) {
                $wanted[$step->path] = null;
            }
        }
        $paths = array_map(strval(...), array_keys($wanted));
        $addresses = array_map($this->site->addresses->addressOf(...), $paths);
        $seen = [];
        $this->visitor->ask($addresses, 'GET', static function (
            int $i,
            ?ResponseInterface $response,
            ?string $error,
        ) use (&$seen, $paths, $addresses, $wanted, $replaced): void {
            [$verdict, $words] = $response === null
                ? ['unreachable', (string) $error]
                : self::verdict($response, $paths[$i], $wanted[$paths[$i]], $replaced[$paths[$i]] ?? false);
            $seen[$i] = [
                'path' => $paths[$i],
                'address' => $addresses[$i],
                'verdict' => $verdict,
                'words' => $words,
            ];
        });
        ksort($seen);

        return [array_values($seen), $steps->count()];
    }

    /** @return array{string, string} verdict and words */
    private static function verdict(ResponseInterface $response, string $path, ?string $hash, bool $replaced): array
    {
        $status = $response->getStatusCode();
        if ($hash === null && in_array($status, [404, 410], true)) {
            return ['fresh', ''];
        }
        if ($status >= 300 && $status < 400) {
            return ['unreachable', 'It leads on to an address that is not the site\'s own.'];
        }
        if ($status >= 500) {
            return ['unreachable', "It answers $status."];
        }
        if ($hash === null || $status >= 300 || hash('sha256', (string) $response->getBody()) !== $hash) {
            return [
                'stale',
                $status >= 400
                    ? "The public address answers $status, though the file is there; a cache in front of it may hold "
                        .'that, or the web server gives out another folder.'
                    : 'The public address still serves other bytes; a cache in front of it may hold them.',
            ];
        }

        return self::sent($response, $path, $replaced);
    }

    /** @return array{string, string} what the headers make of the right bytes */
    private static function sent(ResponseInterface $response, string $path, bool $replaced): array
    {
        $type = strtolower(trim($response->getHeaderLine('Content-Type')));
        $wanted = self::TYPES[strtolower(pathinfo($path, PATHINFO_EXTENSION))] ?? '';
        if ($type !== '' && ! str_starts_with($type, $wanted)) {
            return ['unclear', "The bytes are right, but they are sent as $type: a browser may not show them."];
        }
        $kept = preg_match('~(?:^|[,\s])max-age="?(\d{1,12})~i', $response->getHeaderLine('Cache-Control'), $m) === 1
            ? (int) $m[1]
            : 0;

        return [
            'fresh',
            $replaced && $kept > self::KEPT
                ? 'Browsers that have the file of before at this address may keep it for '
                    .number_format(intdiv($kept, 86_400)).' days (Cache-Control).'
                : '',
        ];
    }
}
