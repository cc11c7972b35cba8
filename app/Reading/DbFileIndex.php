<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\MediaFile;
use Ylema\Addresses\FileIndex;

/** The resolver's questions, answered from the index of files: one statement for each batch. */
final readonly class DbFileIndex implements FileIndex
{
    public function __construct(private int $siteId)
    {
    }

    public function existing(array $paths): array
    {
        $found = MediaFile::query()->where('site_id', $this->siteId)->whereIn('path', self::valid($paths))->pluck('path');

        return array_fill_keys($found->all(), true);
    }

    public function folded(array $folds): array
    {
        return $this->grouped('fold', $folds);
    }

    public function named(array $names): array
    {
        return $this->grouped('name_fold', $names);
    }

    /**
     * @param  list<string>  $values
     * @return array<string, list<string>>
     */
    private function grouped(string $column, array $values): array
    {
        $grouped = [];
        foreach (MediaFile::query()->where('site_id', $this->siteId)->whereIn($column, self::valid($values))->orderBy('path')->get([$column, 'path']) as $file) {
            $grouped[(string) $file->getAttribute($column)][] = $file->path;
        }

        return $grouped;
    }

    /**
     * An address may decode to bytes that are no text; no file of the index is spelt so.
     *
     * @param  list<string>  $values
     * @return list<string>
     */
    private static function valid(array $values): array
    {
        return array_values(array_filter($values, static fn (string $v): bool => mb_check_encoding($v, 'UTF-8') && ! str_contains($v, "\0")));
    }
}
