<?php

declare(strict_types=1);

namespace App\Archive;

use stdClass;
use Ylema\Csv;

/**
 * Writes the tag files that say what the files of a bag were: each as a list in JSON, one entry a line, and as a table.
 */
final class BagScribe
{
    private const LISTS = ['media-rows.json', 'proof.json', 'uses.json'];

    private const FLAGS =
        JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE;

    /** @var array<string, int> */
    private array $entries = ['media-rows.json' => 0, 'proof.json' => 0, 'uses.json' => 0];

    /** @param  array<string, resource>  $tags name → where it is written */
    public function __construct(private readonly array $tags)
    {
        $heads = [
            'files.csv' => [
                'payload',
                'path',
                'sha256',
                'bytes',
                'mode',
                'owner',
                'modified',
                'type',
                'width',
                'height',
                'title',
                'original',
            ],
            'media-rows.csv' => ['path', 'id', 'column', 'value'],
            'proof.csv' => ['path', 'source', 'says', 'sentence', 'at'],
            'uses.csv' => ['path', 'kind', 'key', 'title', 'field', 'address'],
        ];
        foreach ($heads as $name => $head) {
            fwrite($this->tags[$name], Csv::row($head));
        }
        foreach (self::LISTS as $name) {
            fwrite($this->tags[$name], '[');
        }
    }

    /** @param  stdClass  $row of bag_files */
    public function note(stdClass $row): void
    {
        $file = self::json($row->file);
        $text = static fn (mixed $value): string => is_scalar($value) ? (string) $value : '';
        $mode = is_int($file['mode'] ?? null) ? sprintf('%04o', $file['mode']) : '';
        $modified = is_int($file['modified'] ?? null) ? gmdate('Y-m-d\TH:i:s\Z', $file['modified']) : '';
        fwrite(
            $this->tags['files.csv'],
            Csv::row([
                (string) $row->payload,
                (string) $row->path,
                trim((string) $row->sha256),
                (int) $row->size,
                $mode,
                $text($file['owner'] ?? ''),
                $modified,
                (string) $row->mime,
                $row->width === null ? null : (int) $row->width,
                $row->height === null ? null : (int) $row->height,
                (string) $row->title,
                (string) $row->item,
            ]),
        );
        $path = (string) $row->path;
        $media = $row->row === null ? null : self::json($row->row);
        if ($media !== null) {
            $this->entry('media-rows.json', ['path' => $path, ...$media]);
            foreach (is_array($media['columns'] ?? null) ? $media['columns'] : [] as $column => $value) {
                $this->line('media-rows.csv', [
                    $path,
                    $text($media['id'] ?? ''),
                    (string) $column,
                    is_array($value)
                        ? (string) json_encode($value, self::FLAGS)
                        : ($value === null
                            ? null
                            : $text($value)),
                ]);
            }
        }
        $proof = self::json($row->proof);
        if ($proof !== []) {
            $this->entry('proof.json', ['path' => $path, 'proof' => $proof]);
        }
        foreach ($proof as $line) {
            if (is_array($line)) {
                $this->proof($path, $line, $text);
            }
        }
    }

    public function end(): void
    {
        foreach (self::LISTS as $name) {
            fwrite($this->tags[$name], "\n]\n");
        }
    }

    /**
     * @param  array<mixed>  $line
     * @param  callable(mixed): string  $text
     */
    private function proof(string $path, array $line, callable $text): void
    {
        $this->line('proof.csv', [
            $path,
            $text($line['source'] ?? ''),
            $text($line['says'] ?? ''),
            $text($line['sentence'] ?? ''),
            is_int($line['at'] ?? null) ? gmdate('Y-m-d\TH:i:s\Z', $line['at']) : '',
        ]);
        foreach (is_array($line['uses'] ?? null) ? $line['uses'] : [] as $use) {
            if (is_array($use)) {
                $this->entry('uses.json', ['path' => $path, ...$use]);
                $this->line('uses.csv', [
                    $path,
                    $text($use['kind'] ?? ''),
                    $text($use['key'] ?? ''),
                    $text($use['title'] ?? ''),
                    $text($use['field'] ?? ''),
                    $text($use['address'] ?? ''),
                ]);
            }
        }
    }

    /** @param  array<mixed>  $entry */
    private function entry(string $name, array $entry): void
    {
        fwrite($this->tags[$name], ($this->entries[$name]++ > 0 ? ',' : '')."\n".json_encode($entry, self::FLAGS));
    }

    /** @param  list<string|int|null>  $cells */
    private function line(string $name, array $cells): void
    {
        fwrite($this->tags[$name], Csv::row($cells));
    }

    /** @return array<mixed> */
    private static function json(mixed $text): array
    {
        $data = json_decode(is_string($text) ? $text : '', true);

        return is_array($data) ? $data : [];
    }
}
