<?php

declare(strict_types=1);

namespace Ylema\Sites;

use Ylema\Failure;

/**
 * Where a site's records and media rows are read and written.
 *
 * Reading streams; writing edits the fields of records, and only of those that still are what the caller saw.
 */
interface ContentSource
{
    /** @return list<string> the kinds of record that the field map names */
    public function kinds(): array;

    /**
     * @param  int|null  $most counting ends there
     *
     * @throws SourceUnavailable
     */
    public function count(string $kind, ?int $most = null): int;

    /**
     * Some records, those whose keys come first, without looking at the others.
     *
     * @return iterable<SourceRecord>
     *
     * @throws SourceUnavailable
     */
    public function first(string $kind, int $count): iterable;

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
     * Compare-and-set for many records of one kind, each read back inside the source's transaction. One that is refused
     * leaves the others alone; one that is already as it shall be counts as done.
     *
     * @param  list<Replacement>  $replacements
     * @return array<int, Failure|null> under the keys of the list: null where it is done, else why nothing was written
     *       to it
     *
     * @throws SourceUnavailable when the source does not answer; each record is wholly before or wholly after then
     */
    public function replaceMany(string $kind, array $replacements): array;

    /**
     * What moves by itself when a record of a kind is written, and is not kept by the field map.
     *
     * @return list<string> sentences
     *
     * @throws SourceUnavailable
     */
    public function stamps(string $kind): array;

    /**
     * @return iterable<SourceMedia>
     *
     * @throws SourceUnavailable
     */
    public function media(): iterable;

    /**
     * @param  list<string>  $ids
     * @return iterable<SourceMedia> those that exist, in any order
     *
     * @throws SourceUnavailable
     */
    public function findMedia(array $ids): iterable;

    /**
     * Adds a media row; the source itself gives it its id. A row with an id is put back as it was, column for column.
     *
     * @throws WriteRefused|SourceUnavailable
     */
    public function addMedia(NewMedia|MediaRow $media): MediaRow;

    /** @throws SourceUnavailable */
    public function mediaRow(string $id): ?MediaRow;

    /**
     * @return MediaRow|null the row with a path that could have been made from this
     *
     * @throws SourceUnavailable
     */
    public function mediaMadeFrom(NewMedia $media): ?MediaRow;

    /**
     * Other words or places in a media row, if it has those of before.
     *
     * @param  array<string, string>  $before title, alt, caption, credit, path, folder or renditions → text
     * @param  array<string, string>  $after the same keys
     *
     * @throws RecordChanged|WriteRefused|SourceUnavailable
     */
    public function changeMedia(string $id, array $before, array $after): void;

    /**
     * Removes a media row if it is still this one, column for column.
     *
     * @throws RecordChanged|WriteRefused|SourceUnavailable
     */
    public function removeMedia(MediaRow $row): void;

    /**
     * Removes media rows, all in one transaction, or none where one of them is another by now.
     *
     * @param  list<MediaRow>  $rows
     *
     * @throws RecordChanged|WriteRefused|SourceUnavailable
     */
    public function removeAllMedia(array $rows): void;

    /**
     * Puts media rows back as they were, all in one transaction, or none where one of them cannot be.
     *
     * @param  list<MediaRow>  $rows
     *
     * @throws WriteRefused|SourceUnavailable
     */
    public function addAllMedia(array $rows): void;

    /**
     * @param  list<string>  $ids
     * @return iterable<MediaRow> those that exist
     *
     * @throws SourceUnavailable
     */
    public function mediaRows(array $ids): iterable;

    /** Whether the site has a table of redirects that may be written. */
    public function keepsRedirects(): bool;

    /**
     * @return iterable<SourceRedirect> none where the site has no table of them
     *
     * @throws SourceUnavailable
     */
    public function redirects(): iterable;

    /**
     * @param  list<string>  $spellings in which the table may say one address
     * @return list<SourceRedirect>
     *
     * @throws SourceUnavailable
     */
    public function redirectsFrom(array $spellings): array;

    /** @throws WriteRefused|SourceUnavailable */
    public function addRedirect(SourceRedirect $redirect): void;

    /**
     * Removes what is exactly this.
     *
     * @throws WriteRefused|SourceUnavailable
     */
    public function removeRedirect(SourceRedirect $redirect): void;
}
