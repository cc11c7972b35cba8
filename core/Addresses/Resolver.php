<?php

declare(strict_types=1);

namespace Ylema\Addresses;

use Normalizer;

/** Resolves addresses to the site's files, in batches, and says for each that fails what it most likely means. */
final readonly class Resolver
{
    /**
     * @param  list<string>  $mediaFolders below the root, such as `media/`; an address elsewhere on the site is a page unless it ends in a media type
     */
    public function __construct(
        private FileIndex $files,
        private RenditionNames $renditions,
        private array $mediaFolders,
    ) {
    }

    /** A spelling in which paths that people mistake for each other are equal: NFC, lower case, decoded once more. */
    public static function fold(string $path): string
    {
        $decoded = rawurldecode($path);
        $composed = Normalizer::normalize($decoded, Normalizer::FORM_C);

        return mb_strtolower(is_string($composed) ? $composed : $decoded, 'UTF-8');
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
            $place->path === null => $shown || $this->hasMediaType($place->url->path),
            default => $this->isMedia($place->path),
        };
    }

    /**
     * @param  array<array-key, Place|null>  $places null where the address was no address
     * @return array<array-key, Outcome> under the same keys
     */
    public function resolve(array $places): array
    {
        $own = $folds = $names = $originals = [];
        foreach ($places as $place) {
            if ($place?->path === null || $place->path === '') {
                continue;
            }
            $own[$place->path] = true;
        }
        $existing = $own === [] ? [] : $this->files->existing(array_map(strval(...), array_keys($own)));
        foreach (array_keys($own) as $path) {
            $path = (string) $path;
            if (! isset($existing[$path]) && $this->isMedia($path)) {
                $folds[self::fold($path)] = true;
                $names[self::foldName($path)] = true;
                $original = $this->renditions->originalOf($path);
                if ($original !== null) {
                    $originals[$original] = true;
                    $folds[self::fold($original)] = true;
                }
            }
        }
        $folded = $folds === [] ? [] : $this->files->folded(array_map(strval(...), array_keys($folds)));
        $named = $names === [] ? [] : $this->files->named(array_map(strval(...), array_keys($names)));

        return array_map(fn (?Place $place): Outcome => $this->decide($place, $existing, $folded, $named), $places);
    }

    /**
     * @param  array<string, true>  $existing
     * @param  array<string, list<string>>  $folded
     * @param  array<string, list<string>>  $named
     */
    private function decide(?Place $place, array $existing, array $folded, array $named): Outcome
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
            return new Outcome(match (true) {
                $place->whose === Whose::Former => OutcomeKind::FormerAddress,
                $place->insecure => OutcomeKind::InsecureScheme,
                default => OutcomeKind::Found,
            }, $path, asked: $path);
        }
        if (! $this->isMedia($path)) {
            return new Outcome(OutcomeKind::Page, asked: $path);
        }
        $near = $folded[self::fold($path)] ?? [];
        if ($near !== []) {
            $sameButCase = array_values(array_filter($near, static fn (string $file): bool => strcasecmp($file, $path) === 0
                || mb_strtolower($file, 'UTF-8') === mb_strtolower($path, 'UTF-8')));

            return new Outcome($sameButCase === [] ? OutcomeKind::UnicodeForm : OutcomeKind::LetterCase, $sameButCase[0] ?? $near[0], $near, $path);
        }
        $original = $this->renditions->originalOf($path);
        if ($original !== null && ($folded[self::fold($original)] ?? []) !== []) {
            $originals = $folded[self::fold($original)];

            return new Outcome(OutcomeKind::MissingRendition, in_array($original, $originals, true) ? $original : $originals[0], $originals, $path);
        }
        $sameName = $named[self::foldName($path)] ?? [];
        if ($sameName !== []) {
            return new Outcome(count($sameName) === 1 ? OutcomeKind::Moved : OutcomeKind::MissingFile, count($sameName) === 1 ? $sameName[0] : null, $sameName, $path);
        }

        return new Outcome(OutcomeKind::MissingFile, asked: $path);
    }

    private function isMedia(string $path): bool
    {
        foreach ($this->mediaFolders as $folder) {
            if (str_starts_with($path, $folder)) {
                return true;
            }
        }

        return $this->hasMediaType($path);
    }

    private function hasMediaType(string $path): bool
    {
        return preg_match('~\.(?:jpe?g|png|gif|webp|avif|svg|ico|bmp|tiff?|mp4|webm|ogv|mov|m4v|mp3|ogg|oga|wav|m4a|flac|pdf|docx?|xlsx?|pptx?|odt|ods|odp|zip|csv|epub)$~i', $path) === 1;
    }
}
