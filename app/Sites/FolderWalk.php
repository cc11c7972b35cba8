<?php

declare(strict_types=1);

namespace App\Sites;

/**
 * All files below a folder of this machine. Links are followed as long as they stay inside of the site's folders; what
 * leads out, cannot be listed or is no file is said, since nobody looked there.
 */
final readonly class FolderWalk
{
    /** What tools of versions keep: packed, and given out to nobody. */
    private const VERSIONS = ['.git', '.svn', '.hg', '.bzr'];

    /** @param  list<string>  $roots folders that count as the site's own, beside this one */
    public function __construct(private string $folder, private array $roots = [])
    {
    }

    /** @return iterable<string, string|NotSearched> path below the folder → where it lies, or why not */
    public function files(): iterable
    {
        if (! is_dir($this->folder)) {
            yield '' => new NotSearched($this->folder, 'The folder is not there. Mount or restore it.');

            return;
        }
        yield from $this->under('', []);
    }

    /**
     * @param  array<string, true>  $within real paths of the folders that lead here
     * @return iterable<string, string|NotSearched>
     */
    private function under(string $folder, array $within): iterable
    {
        $at = rtrim("$this->folder/$folder", '/');
        $real = realpath($at);
        if ($real === false || isset($within[$real])) {
            return;
        }
        $within[$real] = true;
        $entries = @scandir($at);
        if ($entries === false) {
            yield $folder => new NotSearched(
                $folder === '' ? $this->folder : $folder,
                'The folder cannot be listed. Give this user the right to read it.',
            );

            return;
        }
        foreach ($entries as $name) {
            $path = $folder === '' ? $name : "$folder/$name";
            $file = "$this->folder/$path";
            if ($name === '.' || $name === '..' || in_array($name, self::VERSIONS, true)) {
                continue;
            }
            if (is_link($file) && ! $this->isInside($file)) {
                yield $path => new NotSearched($path, file_exists($file)
                    ? 'It is a link that leads out of the site’s folder ('.readlink($file).'), and was not followed. '
                        .'Name that folder under “code” or “roots”, or put its files here.'
                    : 'It is a link that leads nowhere.');
            } elseif (is_dir($file)) {
                yield from $this->under($path, $within);
            } elseif (is_file($file)) {
                yield $path => is_readable($file)
                    ? $file
                    : new NotSearched($path, 'The file cannot be read. Give this user the right.');
            }
        }
    }

    private function isInside(string $link): bool
    {
        $real = realpath($link);
        foreach ($real === false ? [] : [$this->folder, ...$this->roots] as $root) {
            $root = realpath($root);
            if ($root !== false && str_starts_with("$real/", rtrim($root, '/').'/')) {
                return true;
            }
        }

        return false;
    }
}
