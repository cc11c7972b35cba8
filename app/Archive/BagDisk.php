<?php

declare(strict_types=1);

namespace App\Archive;

use App\Models\Site;
use App\Retire\Keeping;
use Illuminate\Contracts\Filesystem\Filesystem;
use Illuminate\Support\Facades\Storage;
use Throwable;

/** One bag on the disk of its site's choice. */
final readonly class BagDisk
{
    private const BESIDE = '.ylema-part';

    private function __construct(private Filesystem $disk, public string $bag)
    {
    }

    public static function of(int $site, string $bag): self
    {
        $folder = Keeping::of(Site::query()->findOrFail($site))->bags;

        return new self(
            $folder === null
                ? Storage::disk('bags')
                : Storage::build(['driver' => 'local', 'root' => $folder, 'throw' => true]),
            $bag,
        );
    }

    public function has(string $path): bool
    {
        return $this->disk->exists("$this->bag/$path");
    }

    /**
     * Written beside and renamed, so that what has a name in a bag is whole.
     *
     * @param  resource|string  $bytes
     *
     * @throws BagTrouble
     */
    public function put(string $path, $bytes): void
    {
        $part = "$this->bag/$path".self::BESIDE;
        try {
            is_string($bytes) ? $this->disk->put($part, $bytes) : $this->disk->writeStream($part, $bytes);
            if ($this->disk->exists("$this->bag/$path")) {
                $this->disk->delete("$this->bag/$path");
            }
            $this->disk->move($part, "$this->bag/$path");
        } catch (Throwable $e) {
            throw BagTrouble::unwritten($this->bag, $e);
        }
    }

    /**
     * @return resource
     *
     * @throws BagTrouble
     */
    public function stream(string $path)
    {
        try {
            $stream = $this->has($path) ? $this->disk->readStream("$this->bag/$path") : null;
        } catch (Throwable $e) {
            throw BagTrouble::damaged($this->bag, "$path cannot be read ({$e->getMessage()})");
        }

        return is_resource($stream) ? $stream : throw BagTrouble::damaged($this->bag, "$path is missing");
    }

    public function delete(string $path): void
    {
        $this->disk->delete("$this->bag/$path");
    }

    /** The bag with all that is in it. */
    public function destroy(): void
    {
        $this->disk->deleteDirectory($this->bag);
    }

    /** @return list<string> every file of the bag, from its own folder, without those that are still written */
    public function files(): array
    {
        return array_values(
            array_map(
                fn (string $path): string => substr($path, strlen($this->bag) + 1),
                array_filter(
                    $this->disk->allFiles($this->bag),
                    static fn (string $path): bool => ! str_ends_with($path, self::BESIDE),
                ),
            ),
        );
    }

    /**
     * @param  list<string>  $algorithms
     * @return array<string, string> algorithm → hash of a file, read once for all
     *
     * @throws BagTrouble
     */
    public function hashes(string $path, array $algorithms): array
    {
        $stream = $this->stream($path);
        $contexts = array_map(hash_init(...), array_combine($algorithms, $algorithms));
        while (! feof($stream)) {
            $bytes = fread($stream, 1 << 20);
            if ($bytes === false) {
                throw BagTrouble::damaged($this->bag, "$path cannot be read");
            }
            foreach ($contexts as $context) {
                hash_update($context, $bytes);
            }
        }
        fclose($stream);

        return array_map(hash_final(...), $contexts);
    }
}
