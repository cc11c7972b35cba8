<?php

declare(strict_types=1);

namespace App\Archive;

use App\Bytes\Part;
use App\Bytes\Place;
use App\Models\Site;
use App\Retire\Keeping;
use Illuminate\Contracts\Filesystem\Filesystem;
use Illuminate\Support\Facades\Storage;
use Throwable;
use Ylema\Sites\WriteRefused;

/** One bag on the disk of its site's choice. */
final readonly class BagDisk
{
    private function __construct(private Filesystem $disk, private Place $place, public string $bag)
    {
    }

    public static function of(int $site, string $bag): self
    {
        $folder = Keeping::of(Site::query()->findOrFail($site))->bags;

        return $folder === null
            ? new self(Storage::disk('bags'), Place::of('bags'), $bag)
            : new self(
                Storage::build(['driver' => 'local', 'root' => $folder, 'throw' => true]),
                Place::ofBags($site, $folder),
                $bag,
            );
    }

    public function has(string $path): bool
    {
        return $this->disk->exists("$this->bag/$path");
    }

    /**
     * @param  resource|string  $bytes
     * @param  string|null  $sha256 that they must have
     *
     * @throws BagTrouble
     */
    public function put(string $path, $bytes, ?string $sha256 = null): void
    {
        try {
            $this->place->write("$this->bag/$path", $bytes, $sha256);
        } catch (WriteRefused $e) {
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
                    static fn (string $path): bool => ! Part::is($path),
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
