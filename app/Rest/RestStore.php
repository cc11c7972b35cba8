<?php

declare(strict_types=1);

namespace App\Rest;

use App\Bytes\Place;
use App\Sites\OnThisMachine;
use App\Sites\OpenSite;
use Illuminate\Contracts\Filesystem\Filesystem;
use Illuminate\Support\Facades\Storage;
use Throwable;
use Ylema\Sites\FileState;
use Ylema\Sites\WriteRefused;

/**
 * Where the files of all sites rest, outside of what visitors can reach. A file lies there under a name that is made of
 * its path and its bytes, so that two of the same path do not meet.
 *
 * On one file system a file is moved, which no crash can cut in half, and keeps its mode, owner and time by itself.
 * Elsewhere it is copied, read back, and only then taken away.
 */
final class RestStore
{
    /** @var array<string, int|false> folder → the device it lies on */
    private array $devices = [];

    /** @var array<string, true> folders that are known to be there */
    private array $folders = [];

    public function __construct(private readonly Copies $copies)
    {
    }

    public function has(int $site, string $path, FileState $file): bool
    {
        return $this->disk()->exists(self::key($site, $path, $file));
    }

    /**
     * Takes a file out of the public tree. Whoever asks has seen that it is the one that is meant.
     *
     * @param  string  $at where it lies; `$path` is what it rests as
     *
     * @throws RestTrouble|WriteRefused when it cannot; then it lies where it lay
     */
    public function take(OpenSite $site, string $at, string $path, FileState $file): void
    {
        $key = self::key($site->id, $path, $file);
        $target = $this->local($key);
        $source = $site->files instanceof OnThisMachine ? $site->files->fileAt($at) : null;
        if ($site->files instanceof OnThisMachine && $source === null) {
            throw RestTrouble::link($at);
        }
        if ($source !== null && $this->areTogether(dirname($source), dirname($target))) {
            if (@rename($source, $target)) {
                // Of two links to the same bytes, a move takes neither away (POSIX, rename).
                clearstatcache(true, $source);
                if (file_exists($source)) {
                    @unlink($source);
                }

                return;
            }
            throw RestTrouble::full($at, error_get_last()['message'] ?? 'it cannot be moved');
        }
        $this->copyIn($site, $at, $key, $source, $file);
        $site->files->delete($at);
    }

    /**
     * Gives a file back to the public tree, with the mode, owner and time that it had.
     *
     * @throws RestTrouble|WriteRefused when it cannot; then it rests on
     */
    public function give(OpenSite $site, string $path, FileState $file, string $at): void
    {
        $key = self::key($site->id, $path, $file);
        $source = $this->local($key);
        $target = $site->files instanceof OnThisMachine ? $site->files->fileAt($at) : null;
        if ($target !== null) {
            if (@hash_file('sha256', $source) !== $file->sha256) {
                throw is_file($source)
                    ? RestTrouble::damaged($path, $this->copies->of($site->id, $file->sha256))
                    : RestTrouble::lost($path);
            }
            $folder = dirname($target);
            if (! is_dir($folder) && ! @mkdir($folder, 0o775, true) && ! is_dir($folder)) {
                throw RestTrouble::back($at, error_get_last()['message'] ?? 'its folder cannot be made');
            }
            // A link to the same bytes refuses where something came meanwhile; a move would write over it.
            if ($this->areTogether($folder, dirname($source)) && @link($source, $target)) {
                @unlink($source);

                return;
            }
        }
        if (! $this->disk()->exists($key)) {
            throw RestTrouble::lost($path);
        }
        try {
            $bytes = (string) $this->disk()->get($key);
            if (hash('sha256', $bytes) !== $file->sha256) {
                throw RestTrouble::damaged($path, $this->copies->of($site->id, $file->sha256));
            }
            $site->files->write($at, $bytes, $file);
            $this->disk()->delete($key);
        } catch (RestTrouble $e) {
            throw $e;
        } catch (Throwable $e) {
            throw RestTrouble::back($at, $e);
        }
    }

    /**
     * @return resource of its bytes
     *
     * @throws RestTrouble
     */
    public function stream(int $site, string $path, FileState $file)
    {
        $stream = $this->disk()->exists(self::key($site, $path, $file))
            ? $this->disk()->readStream(self::key($site, $path, $file))
            : null;

        return is_resource($stream) ? $stream : throw RestTrouble::lost($path);
    }

    /** What rests is kept somewhere else now. */
    public function drop(int $site, string $path, FileState $file): void
    {
        $this->disk()->delete(self::key($site, $path, $file));
    }

    /**
     * Puts bytes to rest that lay elsewhere, such as in a bag.
     *
     * @param  resource  $stream
     *
     * @throws RestTrouble
     */
    public function put(int $site, string $path, FileState $file, $stream): void
    {
        $this->write($path, self::key($site, $path, $file), $stream, $file, $file);
    }

    private function copyIn(OpenSite $site, string $at, string $key, ?string $source, FileState $file): void
    {
        $stream = $source === null ? null : @fopen($source, 'rb');
        if ($source !== null && ! is_resource($stream)) {
            throw RestTrouble::full($at, error_get_last()['message'] ?? 'it cannot be read');
        }
        if (! is_resource($stream)) {
            $stream = fopen('php://temp', 'w+b') ?: throw RestTrouble::full($at, 'there is no room');
            fwrite($stream, $site->files->read($at));
            rewind($stream);
        }
        $this->write($at, $key, $stream, $file, $site->files->state($at) ?? $file);
    }

    /**
     * @param  resource  $stream
     * @param  FileState  $as mode, owner and time that it gets before it is there under its name
     */
    private function write(string $path, string $key, $stream, FileState $file, FileState $as): void
    {
        try {
            Place::of('rest')->write($key, $stream, $file->sha256, $as);
        } catch (WriteRefused $e) {
            throw RestTrouble::full($path, $e);
        } finally {
            if (is_resource($stream)) {
                fclose($stream);
            }
        }
    }

    private function areTogether(string $one, string $other): bool
    {
        return $this->device($one) !== false && $this->device($one) === $this->device($other);
    }

    private function device(string $folder): int|false
    {
        if (! isset($this->devices[$folder])) {
            $stat = @stat($folder);
            $this->devices[$folder] = is_array($stat) ? (int) $stat['dev'] : false;
        }

        return $this->devices[$folder];
    }

    /**
     * @return string where a key lies, its folder made and looked up
     *
     * @throws WriteRefused where the whole place is not what it should be
     */
    private function local(string $key): string
    {
        $file = Place::of('rest')->place($key);
        $folder = dirname($file);
        if (! isset($this->folders[$folder])) {
            if (! is_dir($folder) && ! @mkdir($folder, 0o770, true) && ! is_dir($folder)) {
                throw RestTrouble::full($key, error_get_last()['message'] ?? 'its folder cannot be made');
            }
            $this->folders[$folder] = true;
        }

        return $file;
    }

    private function disk(): Filesystem
    {
        return Storage::disk('rest');
    }

    private static function key(int $site, string $path, FileState $file): string
    {
        $name = hash('sha256', "$path\0$file->sha256");

        return "$site/".substr($name, 0, 2)."/$name";
    }
}
