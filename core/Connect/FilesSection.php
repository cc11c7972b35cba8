<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** What a map says of a site's files: where they lie, how smaller ones are called, what addresses of its own mean. */
final readonly class FilesSection
{
    /** Names that many sites give the smaller pictures which they make by themselves. */
    private const RENDITIONS = [
        '{name}.w{width}.{ext}' => '~^(.+)\.w\d+(\.[a-z0-9]+)$~i',
        '{name}-{width}x{height}.{ext}' => '~^(.+)-\d+x\d+(\.[a-z0-9]+)$~i',
        '{name}_{width}x{height}.{ext}' => '~^(.+)_\d+x\d+(\.[a-z0-9]+)$~i',
        '{name}-{width}w.{ext}' => '~^(.+)-\d+w(\.[a-z0-9]+)$~i',
        '{name}_{width}.{ext}' => '~^(.+)_\d{2,4}(\.[a-z0-9]+)$~i',
        '{name}@{scale}x.{ext}' => '~^(.+)@\dx(\.[a-z0-9]+)$~i',
        '{name}_thumb.{ext}' => '~^(.+)_thumb(\.[a-z0-9]+)$~i',
        '{name}-thumb.{ext}' => '~^(.+)-thumb(\.[a-z0-9]+)$~i',
        '{name}_small.{ext}' => '~^(.+)_small(\.[a-z0-9]+)$~i',
        '{name}.{ext}.webp' => '~^(.+)(\.(?:jpe?g|png))\.webp$~i',
    ];

    public function __construct(private FileLookup $files, private OwnAddresses $own)
    {
    }

    /** @return array<string, mixed> as a map says it */
    public function said(): array
    {
        return array_filter(
            [
                'folders' => $this->folders(),
                'renditions' => $this->renditions(),
                'schemes' => array_map(self::folder(...), $this->own->schemes()),
                'scripts' => array_map(self::folder(...), $this->own->scripts()),
            ],
            static fn (array $own): bool => $own !== [],
        );
    }

    /** A folder as a map says it; the root is a dot. */
    private static function folder(string $folder): string
    {
        return rtrim($folder, '/') ?: '.';
    }

    /** @return list<string> */
    private function folders(): array
    {
        $roots = array_filter($this->files->roots(), static fn (string $root): bool => $root !== '');

        return $roots === []
            ? ['.']
            : array_values(array_map(static fn (string $root): string => rtrim($root, '/'), $roots));
    }

    /** @return list<string> */
    private function renditions(): array
    {
        $found = [];
        foreach (self::RENDITIONS as $name => $pattern) {
            if ($this->files->madeFrom($pattern) >= 3) {
                $found[] = $name;
            }
        }
        foreach ($this->files->marksOfMade() as $mark) {
            $found[] = "{folder}/$mark{name}.{ext}";
        }

        return $found;
    }
}
