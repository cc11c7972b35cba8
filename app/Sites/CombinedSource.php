<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Sites\ContentSource;
use Ylema\Sites\KeyRange;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceRedirect;

/** Content of two kinds as one: a database, whose list of media and redirects are the site's, and files beside it. */
final readonly class CombinedSource implements Checkable, ContentSource, NamesFiles, Rehearses
{
    public function __construct(private PdoContentSource $database, private FolderContentSource $files)
    {
    }

    public function check(): void
    {
        $this->database->check();
        $this->files->check();
    }

    public function kinds(): array
    {
        return [...$this->database->kinds(), ...$this->files->kinds()];
    }

    public function named(string $from, string $said): ?string
    {
        return $this->files->named($from, $said);
    }

    public function count(string $kind, ?int $most = null): int
    {
        return $this->of($kind)->count($kind, $most);
    }

    public function first(string $kind, int $count): iterable
    {
        return $this->of($kind)->first($kind, $count);
    }

    public function ranges(string $kind, int $size): iterable
    {
        return $this->of($kind)->ranges($kind, $size);
    }

    public function records(string $kind, KeyRange $range): iterable
    {
        return $this->of($kind)->records($kind, $range);
    }

    public function find(string $kind, array $keys): iterable
    {
        return $this->of($kind)->find($kind, $keys);
    }

    public function replaceMany(string $kind, array $replacements): array
    {
        return $this->of($kind)->replaceMany($kind, $replacements);
    }

    public function rehearse(string $kind, Replacement $replacement): array
    {
        $source = $this->of($kind);

        return $source instanceof Rehearses ? $source->rehearse($kind, $replacement) : [];
    }

    public function stamps(string $kind): array
    {
        return $this->of($kind)->stamps($kind);
    }

    public function media(): iterable
    {
        return $this->database->media();
    }

    public function findMedia(array $ids): iterable
    {
        return $this->database->findMedia($ids);
    }

    public function addMedia(NewMedia|MediaRow $media): MediaRow
    {
        return $this->database->addMedia($media);
    }

    public function mediaRow(string $id): ?MediaRow
    {
        return $this->database->mediaRow($id);
    }

    public function mediaMadeFrom(NewMedia $media): ?MediaRow
    {
        return $this->database->mediaMadeFrom($media);
    }

    public function changeMedia(string $id, array $before, array $after): void
    {
        $this->database->changeMedia($id, $before, $after);
    }

    public function removeMedia(MediaRow $row): void
    {
        $this->database->removeMedia($row);
    }

    public function removeAllMedia(array $rows): void
    {
        $this->database->removeAllMedia($rows);
    }

    public function addAllMedia(array $rows): void
    {
        $this->database->addAllMedia($rows);
    }

    public function mediaRows(array $ids): iterable
    {
        return $this->database->mediaRows($ids);
    }

    public function keepsRedirects(): bool
    {
        return $this->database->keepsRedirects();
    }

    public function redirects(): iterable
    {
        return $this->database->redirects();
    }

    public function redirectsFrom(array $spellings): array
    {
        return $this->database->redirectsFrom($spellings);
    }

    public function addRedirect(SourceRedirect $redirect): void
    {
        $this->database->addRedirect($redirect);
    }

    public function removeRedirect(SourceRedirect $redirect): void
    {
        $this->database->removeRedirect($redirect);
    }

    private function of(string $kind): ContentSource
    {
        return in_array($kind, $this->files->kinds(), true) ? $this->files : $this->database;
    }
}
