<?php

declare(strict_types=1);

namespace App\Sites;

use App\Sites\Sql\Connection;
use Ylema\Sites\ContentSource;
use Ylema\Sites\KeyRange;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceRedirect;
use Ylema\Sites\SourceUnavailable;

/** A content database behind PDO (PostgreSQL, MySQL, MariaDB, SQLite), read and written by its field map. */
final class PdoContentSource implements Checkable, ContentSource, Rehearses
{
    private readonly Connection $database;

    private readonly PdoMedia $list;

    private readonly PdoRedirects $redirects;

    private readonly PdoWriter $writer;

    private ?PdoRecords $records = null;

    /** @param  string  $root the path of the site's root on its host, such as `/` */
    public function __construct(
        private readonly FieldMap $map,
        string $dsn,
        string $user,
        string $password,
        private readonly string $root = '/',
    ) {
        $this->database = new Connection($map, $dsn, $user, $password);
        $this->list = new PdoMedia($map, $this->database);
        $this->redirects = new PdoRedirects($map, $this->database);
        $this->writer = new PdoWriter($map, $this->database);
    }

    /** @throws FieldMapError|SourceUnavailable when the database is not as the map says */
    public function check(): void
    {
        (new SourceCheck($this->map, $this->database))->run();
    }

    public function kinds(): array
    {
        return array_keys(array_filter($this->map->kinds, static fn (KindMap $kind): bool => ! $kind->isOfFiles()));
    }

    public function count(string $kind, ?int $most = null): int
    {
        return $this->reader()->count($kind, $most);
    }

    public function first(string $kind, int $count): iterable
    {
        return $this->reader()->first($kind, $count);
    }

    public function ranges(string $kind, int $size): iterable
    {
        return $this->reader()->ranges($kind, $size);
    }

    public function records(string $kind, KeyRange $range): iterable
    {
        return $this->reader()->within($kind, $range);
    }

    public function find(string $kind, array $keys): iterable
    {
        return $this->reader()->find($kind, $keys);
    }

    public function replaceMany(string $kind, array $replacements): array
    {
        return $this->writer->replaceMany($kind, $replacements);
    }

    public function rehearse(string $kind, Replacement $replacement): array
    {
        return $this->writer->rehearse($kind, $replacement);
    }

    public function stamps(string $kind): array
    {
        return $this->writer->stamps($kind);
    }

    public function media(): iterable
    {
        return $this->list->all();
    }

    public function findMedia(array $ids): iterable
    {
        return $this->list->find($ids);
    }

    public function addMedia(NewMedia|MediaRow $media): MediaRow
    {
        return $this->list->add($media);
    }

    public function mediaRow(string $id): ?MediaRow
    {
        return $this->list->row($id);
    }

    public function mediaMadeFrom(NewMedia $media): ?MediaRow
    {
        return $this->list->madeFrom($media);
    }

    public function changeMedia(string $id, array $before, array $after): void
    {
        $this->list->change($id, $before, $after);
    }

    public function removeMedia(MediaRow $row): void
    {
        $this->list->remove($row);
    }

    public function removeAllMedia(array $rows): void
    {
        $this->list->removeAll($rows);
    }

    public function addAllMedia(array $rows): void
    {
        $this->list->addAll($rows);
    }

    public function mediaRows(array $ids): iterable
    {
        return $this->list->rows($ids);
    }

    public function keepsRedirects(): bool
    {
        return $this->map->redirects !== null;
    }

    public function redirects(): iterable
    {
        return $this->redirects->all();
    }

    public function redirectsFrom(array $spellings): array
    {
        return $this->redirects->from($spellings);
    }

    public function addRedirect(SourceRedirect $redirect): void
    {
        $this->redirects->add($redirect);
    }

    public function removeRedirect(SourceRedirect $redirect): void
    {
        $this->redirects->remove($redirect);
    }

    /** What ids of media look like depends on their column, so the database is asked before anything is read. */
    private function reader(): PdoRecords
    {
        return $this->records ??= new PdoRecords(
            $this->map,
            $this->database,
            new RecordMaker(
                $this->map->rules($this->root)->with(idsAreWords: $this->list->idsAreWords()),
                $this->root,
                $this->map->named(),
            ),
        );
    }
}
