<?php

declare(strict_types=1);

namespace Ylema\Repair;

use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\Resolver;
use Ylema\Imaging\MediaType;
use Ylema\Plan\Finding;

/** Which cure each finding has. */
final readonly class Cures
{
    /** Types that pictures can be drawn as. */
    private const DRAWABLE = ['jpg', 'jpeg', 'png', 'gif', 'webp', 'avif'];

    /** Words that cameras, programs and hurried people give to any picture; two files called so may differ. */
    private const TELLING_NOTHING = '~\b(?:images?|img|imag|photos?|pictures?|pics?|bild|foto|dsc[nf]?|scan|screenshot|'
        .'logo|header|banner|title|cover|default|index|untitled|unnamed|download|copy|new|old|final|test|thumb|main|'
        .'file)\b~';

    /** Letters that a name must have beside those words, to tell a file that was moved from another of its name. */
    private const LETTERS = 6;

    public function __construct(private RenditionNames $renditions)
    {
    }

    public function of(Finding $finding): Cure
    {
        $path = $finding->path;
        if ($path === null) {
            return Cure::open($finding->candidates);
        }

        return match ($finding->kind) {
            OutcomeKind::FormerAddress,
            OutcomeKind::InsecureScheme,
            OutcomeKind::ByRedirect,
            OutcomeKind::DeadLink => Cure::named($path),
            OutcomeKind::LetterCase,
            OutcomeKind::UnicodeForm,
            OutcomeKind::Encoding,
            OutcomeKind::ChangedExtension => $this->only($finding),
            OutcomeKind::SameBytes => $this->sameBytes($finding, $path),
            OutcomeKind::Moved => $this->isTelling((string) $finding->asked)
                ? $this->only($finding)
                : Cure::open($finding->candidates),
            OutcomeKind::MissingRendition => $this->rendition($finding, $path),
            default => Cure::open($finding->candidates),
        };
    }

    private function only(Finding $finding): Cure
    {
        return count($finding->candidates) === 1
            ? Cure::named($finding->candidates[0])
            : Cure::open($finding->candidates);
    }

    /** Bytes are the surest evidence; where several files have them, the one of the same name is meant. */
    private function sameBytes(Finding $finding, string $path): Cure
    {
        $name = Resolver::foldName((string) $finding->asked);
        $named = array_filter(
            $finding->candidates,
            static fn (string $file): bool => Resolver::foldName($file) === $name,
        );

        return count($finding->candidates) === 1 || count($named) === 1
            ? Cure::named($path)
            : Cure::open($finding->candidates);
    }

    private function rendition(Finding $finding, string $original): Cure
    {
        $isDrawable = in_array(MediaType::extension($original), self::DRAWABLE, true)
            && in_array(MediaType::extension((string) $finding->asked), self::DRAWABLE, true);

        return $isDrawable && $this->renditions->sizeIn((string) $finding->asked) !== null
            ? Cure::drawn($original)
            : Cure::open([$original]);
    }

    private function isTelling(string $path): bool
    {
        $words = strtr(pathinfo(Resolver::foldName($path), PATHINFO_FILENAME), ['_' => ' ', '-' => ' ', '.' => ' ']);
        $left = preg_replace([self::TELLING_NOTHING, '~[^\p{L}]~u'], '', $words) ?? '';

        return mb_strlen($left) >= self::LETTERS;
    }
}
