<?php

declare(strict_types=1);

namespace Ylema\Addresses;

use Normalizer;

/** Resolves addresses to the site's files, in batches, and says for each that fails what it most likely means. */
final readonly class Resolver
{
    /**
     * @param  list<string>  $mediaFolders below the root, such as `media/`; an address elsewhere on the site is a page
     *       unless it ends in a media type
     */
    public function __construct(
        private FileIndex $files,
        private RenditionNames $renditions,
        private array $mediaFolders,
        private ?MediaPages $pages = null,
    ) {
    }

    /**
     * A spelling in which paths that people mistake for each other are equal: NFC, lower case, decoded once more, in
     * UTF-8.
     */
    public static function fold(string $path): string
    {
        return mb_strtolower(self::composed(self::respelt($path)), 'UTF-8');
    }

    /** A folded path without its extension. */
    public static function stem(string $path): string
    {
        return preg_replace('~\.[^./]*$~', '', self::fold($path)) ?? '';
    }

    public static function foldName(string $path): string
    {
        $slash = strrpos($path, '/');

        return self::fold($slash === false ? $path : substr($path, $slash + 1));
    }

    /**
     * Whether an address can be one of a media file at all, or is plainly a link to a page.
     *
     * @param  bool  $shown whether the place shows what it names (a picture, a background), rather than leading to it
     */
    public function concerns(?Place $place, bool $shown): bool
    {
        return match (true) {
            $place === null => $shown,
            $place->whose === Whose::None => false,
            $this->pages?->idOf($place) !== null => true,
            $place->path === null => $shown || self::hasMediaType($place->url->path),
            default => $this->isMedia($place->path),
        };
    }

    /**
     * @param  array<array-key, Place|null>  $places null where the address was no address
     * @return array<array-key, Outcome> under the same keys
     */
    public function resolve(array $places): array
    {
        $own = [];
        foreach ($places as $place) {
            if ($place?->path !== null && $place->path !== '') {
                $own[$place->path] = true;
            }
        }
        $existing = $own === [] ? [] : $this->files->existing(array_map(strval(...), array_keys($own)));
        $missing = array_values(
            array_filter(
                array_map(strval(...), array_keys($own)),
                fn (string $path): bool => ! isset($existing[$path]) && $this->isMedia($path),
            ),
        );
        $evidence = $missing === [] ? null : $this->evidence($missing);

        return array_map(fn (?Place $place): Outcome => $this->decide($place, $existing, $evidence), $places);
    }

    /**
     * All that the index knows about files that are not there, asked for many at once.
     *
     * @param  non-empty-list<string>  $missing
     */
    private function evidence(array $missing): Evidence
    {
        $folds = $names = $stems = [];
        foreach ($missing as $path) {
            $folds[self::fold($path)] = true;
            $names[self::foldName($path)] = true;
            $stems[self::stem($path)] = true;
            foreach ($this->renditions->originalsOf($path) as $original) {
                $folds[self::fold($original)] = true;
            }
        }
        $keys = static fn (array $set): array => array_map(strval(...), array_keys($set));

        return new Evidence(
            $this->files->folded($keys($folds)),
            $this->files->named($keys($names)),
            $this->files->stemmed($keys($stems)),
            $this->files->listed($missing),
            $this->files->sameBytes($missing),
        );
    }

    /** @param  array<string, int>  $existing path → bytes */
    private function decide(?Place $place, array $existing, ?Evidence $evidence): Outcome
    {
        if ($place === null) {
            return new Outcome(OutcomeKind::Unreadable);
        }
        if ($place->whose === Whose::None) {
            return new Outcome(OutcomeKind::Elsewhere);
        }
        $path = $place->path;
        if ($path === null) {
            return new Outcome(OutcomeKind::ForeignHost, asked: (string) $place->url);
        }
        if (isset($existing[$path])) {
            return new Outcome(
                match (true) {
                    $existing[$path] === 0 => OutcomeKind::EmptyFile,
                    $place->whose === Whose::Former => OutcomeKind::FormerAddress,
                    $place->insecure => OutcomeKind::InsecureScheme,
                    default => OutcomeKind::Found,
                },
                $path,
                asked: $path,
            );
        }
        $item = $this->pages?->idOf($place);
        if ($item !== null) {
            return new Outcome(OutcomeKind::MediaPage, asked: $path, item: $item);
        }
        if ($evidence === null || ! $this->isMedia($path)) {
            return new Outcome(OutcomeKind::Page, asked: $path);
        }

        return $this->nearMiss($path, $evidence);
    }

    /** What a path means that no file has, from the surest evidence to the weakest. */
    private function nearMiss(string $path, Evidence $evidence): Outcome
    {
        $near = $evidence->folded[self::fold($path)] ?? [];
        foreach (
            [
                [OutcomeKind::LetterCase, static fn (string $p): string => mb_strtolower($p, 'UTF-8')],
                [OutcomeKind::UnicodeForm, static fn (string $p): string => mb_strtolower(self::composed($p), 'UTF-8')],
                [OutcomeKind::Encoding, self::fold(...)],
            ] as [$kind, $spelling]
        ) {
            $alike = array_values(
                array_filter($near, static fn (string $file): bool => $spelling($file) === $spelling($path)),
            );
            if ($alike !== []) {
                return new Outcome($kind, $alike[0], $near, $path);
            }
        }
        $same = $evidence->sameBytes[$path] ?? [];
        if ($same !== []) {
            // The bytes are the same wherever they lie; the one with the same name is the likeliest.
            $named = array_values(
                array_filter($same, static fn (string $file): bool => self::foldName($file) === self::foldName($path)),
            );

            return new Outcome(OutcomeKind::SameBytes, $named[0] ?? $same[0], $same, $path);
        }
        $listed = $evidence->listed[$path] ?? null;
        if ($listed !== null) {
            return new Outcome(OutcomeKind::MissingRendition, $listed, [$listed], $path);
        }
        foreach ($this->renditions->originalsOf($path) as $original) {
            $originals = $evidence->folded[self::fold($original)] ?? [];
            if ($originals !== []) {
                return new Outcome(
                    OutcomeKind::MissingRendition,
                    in_array($original, $originals, true) ? $original : $originals[0],
                    $originals,
                    $path,
                );
            }
        }
        $stemmed = $evidence->stemmed[self::stem($path)] ?? [];
        if ($stemmed !== []) {
            return new Outcome(OutcomeKind::ChangedExtension, $stemmed[0], $stemmed, $path);
        }
        $sameName = $evidence->named[self::foldName($path)] ?? [];

        return count($sameName) === 1
            ? new Outcome(OutcomeKind::Moved, $sameName[0], $sameName, $path)
            : new Outcome(OutcomeKind::MissingFile, null, $sameName, $path);
    }

    private static function composed(string $path): string
    {
        $composed = Normalizer::normalize($path, Normalizer::FORM_C);

        return is_string($composed) ? $composed : $path;
    }

    /**
     * Decoded once more, as where an encoded address was encoded again; and in UTF-8, where it was written in one byte
     * a character.
     */
    private static function respelt(string $path): string
    {
        $decoded = rawurldecode($path);

        return mb_check_encoding($decoded, 'UTF-8')
            ? $decoded
            : (string) mb_convert_encoding($decoded, 'UTF-8', 'Windows-1252');
    }

    private function isMedia(string $path): bool
    {
        foreach ($this->mediaFolders as $folder) {
            // The root itself holds pages as well, so there the name must tell.
            if ($folder !== '' && str_starts_with($path, $folder)) {
                return true;
            }
        }

        return self::hasMediaType($path);
    }

    /** Whether a file is called by a hash, without an ending, as in stores that know its type otherwise. */
    public static function isNamedByHash(string $path): bool
    {
        return preg_match('~(?:^|/)[0-9a-f]{16,128}$~Di', $path) === 1;
    }

    /** Whether a path ends as the files do that sites show, rather than as pages, styles and code do. */
    public static function hasMediaType(string $path): bool
    {
        return preg_match(
            '~\.(?:jpe?g|png|gif|webp|avif|svg|ico|bmp|tiff?|mp4|webm|ogv|mov|m4v|mp3|ogg|oga|wav|m4a|flac|'
                .'pdf|docx?|xlsx?|pptx?|odt|ods|odp|zip|csv|epub)$~i',
            $path,
        ) === 1;
    }
}
