<?php

declare(strict_types=1);

namespace App\Sites;

use Generator;
use Symfony\Component\Finder\Glob;
use Ylema\Change\EditConflict;
use Ylema\Failure;
use Ylema\Sites\ContentSource;
use Ylema\Sites\FileMissing;
use Ylema\Sites\FileState;
use Ylema\Sites\KeyRange;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;
use Ylema\Sites\RecordChanged;
use Ylema\Sites\Replacement;
use Ylema\Sites\SourceRecord;
use Ylema\Sites\SourceRedirect;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\WriteRefused;

/** A folder of files as content: pages, style sheets, templates, data. Each file is a record, named by its path. */
final class FolderContentSource implements Checkable, ContentSource, NamesFiles, Rehearses
{
    /** Bytes; of what is larger, only the name is read. */
    private const LARGEST = 16 * 1024 * 1024;

    /** What tools keep for themselves beside a site. */
    private const BESIDE = ['node_modules', 'vendor'];

    private readonly FolderStore $files;

    private readonly RecordMaker $maker;

    /** @var array<string, list<string>> kind → expressions of the paths of its files */
    private array $expressions = [];

    /** @param  string  $root the path of the site's root on its host, such as `/` */
    public function __construct(private readonly FieldMap $map, private readonly string $folder, string $root = '/')
    {
        $this->files = new FolderStore($folder, [''], false);
        $this->maker = new RecordMaker($map->rules($root), $root);
        foreach ($map->kinds as $kind) {
            if ($kind->isOfFiles()) {
                $this->expressions[$kind->kind] = array_map(
                    static fn (string $pattern): string => Glob::toRegex(ltrim($pattern, '/')),
                    $kind->patterns,
                );
            }
        }
    }

    public function check(): void
    {
        if (! is_dir($this->folder)) {
            throw new SourceUnavailable(
                "The folder of the site's content ($this->folder) is not there. Mount or restore it, then try again.",
                where: $this->folder,
            );
        }
        foreach (array_keys($this->expressions) as $kind) {
            if ($this->count($kind, 1) === 0) {
                throw $this->map->wrong(
                    "records.$kind.files",
                    "no file in $this->folder has such a path. Correct the pattern, or take the kind out.",
                );
            }
        }
    }

    public function kinds(): array
    {
        return array_map(strval(...), array_keys($this->expressions));
    }

    public function count(string $kind, ?int $most = null): int
    {
        $count = 0;
        foreach ($this->paths($kind, new KeyRange(null, null)) as $path) {
            if (++$count === $most) {
                break;
            }
        }

        return $count;
    }

    public function first(string $kind, int $count): iterable
    {
        foreach ($this->records($kind, new KeyRange(null, null)) as $record) {
            if ($count-- <= 0) {
                break;
            }
            yield $record;
        }
    }

    public function ranges(string $kind, int $size): iterable
    {
        $after = null;
        $n = 0;
        foreach ($this->sorted($kind) as $path) {
            if (++$n % max(1, $size) === 0) {
                yield new KeyRange($after, $path);
                $after = $path;
            }
        }
        yield new KeyRange($after, null);
    }

    public function records(string $kind, KeyRange $range): iterable
    {
        foreach ($this->paths($kind, $range) as $path) {
            $record = $this->record($kind, $path);
            if ($record !== null) {
                yield $record;
            }
        }
    }

    public function find(string $kind, array $keys): iterable
    {
        foreach ($keys as $key) {
            $record = $this->kindOf($key) === $kind ? $this->record($kind, $key) : null;
            if ($record !== null) {
                yield $record;
            }
        }
    }

    public function replaceMany(string $kind, array $replacements): array
    {
        return array_map(fn (Replacement $replacement): ?Failure => $this->replace($kind, $replacement), $replacements);
    }

    public function rehearse(string $kind, Replacement $replacement): array
    {
        return $this->map->kind($kind)->isKept
            ? ["refused: the field map says that it is never written (records.$kind.read_only)"]
            : ["write $replacement->key beside it, then rename; its mode, owner and time stay"];
    }

    public function stamps(string $kind): array
    {
        return [];
    }

    public function media(): iterable
    {
        return [];
    }

    public function findMedia(array $ids): iterable
    {
        return [];
    }

    public function addMedia(NewMedia|MediaRow $media): MediaRow
    {
        throw self::noList();
    }

    public function mediaRow(string $id): ?MediaRow
    {
        return null;
    }

    public function mediaMadeFrom(NewMedia $media): ?MediaRow
    {
        return null;
    }

    public function changeMedia(string $id, array $before, array $after): void
    {
        throw self::noList();
    }

    public function removeMedia(MediaRow $row): void
    {
        throw self::noList();
    }

    public function removeAllMedia(array $rows): void
    {
        if ($rows !== []) {
            throw self::noList();
        }
    }

    public function addAllMedia(array $rows): void
    {
        if ($rows !== []) {
            throw self::noList();
        }
    }

    public function mediaRows(array $ids): iterable
    {
        return [];
    }

    public function keepsRedirects(): bool
    {
        return false;
    }

    public function redirects(): iterable
    {
        return [];
    }

    public function redirectsFrom(array $spellings): array
    {
        return [];
    }

    public function addRedirect(SourceRedirect $redirect): void
    {
        throw new WriteRefused('A redirect', 'a folder of files has no table of them. Export them for the web server');
    }

    public function removeRedirect(SourceRedirect $redirect): void
    {
        throw new WriteRefused('A redirect', 'a folder of files has no table of them');
    }

    private static function noList(): WriteRefused
    {
        return new WriteRefused('A media row', 'this site has no list of media; its files are all there is');
    }

    /** Written beside and renamed, with mode, owner and time as they were, and read back. */
    private function replace(string $kind, Replacement $replacement): ?Failure
    {
        $map = $this->map->kind($kind);
        $what = "The $kind \"$replacement->key\"";
        if ($map->isKept) {
            return new WriteRefused($what, "the field map says that it is never written (records.$kind.read_only)");
        }
        try {
            $text = $this->files->read($replacement->key);
        } catch (FileMissing) {
            return RecordChanged::gone($kind, $replacement->key);
        }
        $hash = SourceRecord::hashOf([FileRow::TEXT => $text]);
        if ($hash === $replacement->wanted) {
            return null;
        }
        if ($hash !== $replacement->expected) {
            return RecordChanged::since($kind, $replacement->key);
        }
        try {
            $edits = $replacement->fields[FileRow::TEXT] ?? null;
            $before = $this->files->state($replacement->key);
            if ($edits !== null && $before !== null) {
                $new = $edits->applyTo($text);
                $this->files->write(
                    $replacement->key,
                    $new,
                    new FileState(hash('sha256', $new), strlen($new), $before->modified, $before->mode, $before->owner),
                );
                if (
                    SourceRecord::hashOf([FileRow::TEXT => $this->files->read($replacement->key)]) !==
                    $replacement->wanted
                ) {
                    $this->files->write($replacement->key, $text, $before);

                    return WriteRefused::notReadBack($what, 'The old text was put back.');
                }
            }
        } catch (EditConflict|WriteRefused $e) {
            return $e;
        }

        return null;
    }

    private function record(string $kind, string $path): ?SourceRecord
    {
        $size = $this->files->exists($path) ? @filesize("$this->folder/$path") : false;
        if ($size === false) {
            return null;
        }
        // What cannot be read is there all the same, or what it shows would look as if nothing used it.
        if ($size > self::LARGEST) {
            $most = self::LARGEST / 1_048_576;
            $why = "It has more than $most MB, which nobody wrote by hand; it was not read.";

            return $this->unread($kind, $path, $why);
        }
        if (! @is_readable("$this->folder/$path")) {
            return $this->unread($kind, $path, 'It cannot be read by the user that Ylema runs as. Give it the right.');
        }
        try {
            return $this->maker->record($this->map->kind($kind), FileRow::of($path, $this->files->read($path)));
        } catch (FileMissing) {
            return null;
        }
    }

    private function unread(string $kind, string $path, string $why): SourceRecord
    {
        $record = $this->maker->record($this->map->kind($kind), FileRow::of($path, ''));

        return new SourceRecord(
            $record->kind,
            $record->key,
            $record->title,
            $record->address,
            $record->state,
            [],
            $record->facts,
            unread: $why,
        );
    }

    public function named(string $from, string $said): ?string
    {
        $folder = dirname($from) === '.' ? '' : dirname($from).'/';
        foreach (str_starts_with($said, '/') ? [''] : [$folder, ''] as $before) {
            $path = self::plain($before.ltrim($said, '/'));
            if ($path !== null && $this->kindOf($path) !== null && $this->files->exists($path)) {
                return $path;
            }
        }

        return null;
    }

    /** Without `.` and `..`; null where it would leave the folder. */
    private static function plain(string $path): ?string
    {
        $parts = [];
        foreach (explode('/', $path) as $part) {
            if ($part === '..') {
                if (array_pop($parts) === null) {
                    return null;
                }
            } elseif ($part !== '' && $part !== '.') {
                $parts[] = $part;
            }
        }

        return $parts === [] ? null : implode('/', $parts);
    }

    /** The first kind of the map whose patterns a path fits. */
    private function kindOf(string $path): ?string
    {
        foreach ($this->expressions as $kind => $expressions) {
            foreach ($expressions as $expression) {
                if (preg_match($expression, $path) === 1) {
                    return (string) $kind;
                }
            }
        }

        return null;
    }

    /** @return list<string> */
    private function sorted(string $kind): array
    {
        $paths = iterator_to_array($this->paths($kind, new KeyRange(null, null)), false);
        sort($paths, SORT_STRING);

        return $paths;
    }

    /** @return Generator<string> */
    private function paths(string $kind, KeyRange $range): Generator
    {
        foreach ($this->under('', $range) as $path) {
            if (
                ($range->after === null || strcmp($path, $range->after) > 0)
                && ($range->to === null || strcmp($path, $range->to) <= 0)
                && $this->kindOf($path) === $kind
            ) {
                yield $path;
            }
        }
    }

    /**
     * A part of the paths is found without looking into folders that have none of it.
     *
     * @return Generator<string>
     */
    private function under(string $folder, KeyRange $range): Generator
    {
        foreach (@scandir("$this->folder/$folder") ?: [] as $name) {
            if ($name === '' || $name[0] === '.' || in_array($name, self::BESIDE, true)) {
                continue;
            }
            $path = $folder === '' ? $name : "$folder/$name";
            $file = "$this->folder/$path";
            // A link is another name of what lies elsewhere; what lies inside is met there.
            if (is_link($file)) {
                continue;
            }
            if (! is_dir($file)) {
                yield $path;
            } elseif (
                ($range->to === null || strcmp("$path/", $range->to) <= 0)
                && ($range->after === null || strcmp("$path/\xFF", $range->after) > 0)
            ) {
                yield from $this->under($path, $range);
            }
        }
    }
}
