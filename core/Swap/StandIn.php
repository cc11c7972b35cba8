<?php

declare(strict_types=1);

namespace Ylema\Swap;

use Ylema\Addresses\MediaPages;
use Ylema\Addresses\SiteAddresses;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\RenditionChoice;
use Ylema\Plan\MediaFacts;
use Ylema\Reading\Names;
use Ylema\Reading\Reference;

/** What stands in for an item at each of its places: which file, and how the place says it. */
final readonly class StandIn
{
    public function __construct(
        private SiteAddresses $addresses,
        private ?MediaPages $pages,
        private MediaFacts $from,
        private MediaFacts $to,
    ) {
    }

    /**
     * @param  string|null  $path the file that the reference means now
     * @return string|null the reference's new value; null where it says an id that nobody knows yet
     */
    public function value(Reference $reference, ?string $path): ?string
    {
        if ($reference->names === Names::MediaItem) {
            return $this->to->id === '' ? null : $this->to->id;
        }
        // A link to the item's page goes on leading to a page.
        if ($path === null && $this->pages?->withId($reference->value, '0') !== null) {
            return $this->to->id === '' ? null : $this->pages->withId($reference->value, $this->to->id);
        }

        return $this->addresses->writeLike(
            $reference->value,
            $path === null ? $this->to->original()->path : $this->file($path)->path,
        );
    }

    /**
     * The file that stands in for the one at a path; a path that is no file of the item (a missing size) gets the
     * original.
     */
    public function file(string $path): PictureFile
    {
        $old = $this->from->file($path);

        return $old === null ? $this->to->original() : RenditionChoice::for($old, $this->to->files);
    }
}
