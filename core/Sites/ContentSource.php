<?php

declare(strict_types=1);

namespace Ylema\Sites;

/**
 * Where a site's records and media rows are read and written.
 *
 * Reading streams; writing replaces whole fields of one record, and only if the record still is what
 * the caller saw.
 */
interface ContentSource
{
    /** @return list<string> the kinds of record that the field map names */
    public function kinds(): array;

    /** @throws SourceUnavailable */
    public function count(string $kind): int;

    /**
     * Cuts the records of a kind into ranges of about $size, in the order of their keys.
     *
     * @return iterable<KeyRange>
     *
     * @throws SourceUnavailable
     */
    public function ranges(string $kind, int $size): iterable;

    /**
     * @return iterable<SourceRecord>
     *
     * @throws SourceUnavailable
     */
    public function records(string $kind, KeyRange $range): iterable;

    /**
     * @param  list<string>  $keys
     * @return iterable<SourceRecord> those that exist, in any order
     *
     * @throws SourceUnavailable
     */
    public function find(string $kind, array $keys): iterable;

    /**
     * Compare-and-set, in one transaction of the source.
     *
     * @param  string  $expected the content hash that the caller saw (SourceRecord::$contentHash)
     * @param  array<string, string>  $fields field name → whole new text
     * @return string the record's content hash after the write
     *
     * @throws RecordChanged when the record is not what the caller saw; nothing is written
     * @throws SourceUnavailable
     */
    public function replace(string $kind, string $key, string $expected, array $fields): string;

    /**
     * @return iterable<SourceMedia>
     *
     * @throws SourceUnavailable
     */
    public function media(): iterable;

    /**
     * Sets an id aside for a media row that a plan will add, so that the plan can already name it.
     *
     * @throws SourceUnavailable
     */
    public function newMediaId(): string;

    /**
     * Adds a media row for files that the plan stores.
     *
     * @throws SourceUnavailable
     */
    public function addMedia(NewMedia $media): void;

    /** Whether a media row with this id exists. */
    public function hasMedia(string $id): bool;

    /** Removes a media row that addMedia() made; the way back of an undone swap. */
    public function removeMedia(string $id): void;
}
