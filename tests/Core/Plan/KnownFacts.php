<?php

declare(strict_types=1);

namespace Tests\Core\Plan;

use Ylema\Addresses\MediaPages;
use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\SiteAddresses;
use Ylema\Imaging\UploadRefused;
use Ylema\Plan\Drawing;
use Ylema\Plan\Facts;
use Ylema\Plan\HeldFile;
use Ylema\Plan\Idle;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\KeptFile;
use Ylema\Plan\LostSize;
use Ylema\Plan\MediaFacts;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\Places;
use Ylema\Plan\RecordUses;
use Ylema\Plan\Resting;
use Ylema\Plan\RestingQuestion;
use Ylema\Sites\FileState;

/** A site that fits into a test: all that a planner may ask, known beforehand, and what it asked for. */
final class KnownFacts implements Facts
{
    /** @var list<Drawing> */
    public array $drawn = [];

    /** @var array<string, KeptFile> originals that are kept otherwise than their files say */
    public array $originals = [];

    /** @var list<int> how many records each batch of uses had */
    public array $batches = [];

    /**
     * @param  array<int, MediaFacts>  $media
     * @param  list<RecordUses>  $uses
     * @param  array<string, FileState>  $files
     * @param  array<string, KeptFile>  $uploads
     * @param  list<\Ylema\Plan\PlacedBox>  $boxes
     * @param  array<string, \Ylema\Plan\Steps\Redirect>  $redirects
     * @param  array<string, true>  $livePages
     * @param  list<HeldFile>  $held
     * @param  array<int, \Ylema\Plan\MediaPlaces>  $places
     * @param  list<\Ylema\Plan\ForeignPicture>  $foreign
     * @param  array<string, string>  $here hash → path
     * @param  array<string, FileState>  $kept files that can be put back
     */
    public function __construct(
        public array $media = [],
        public array $uses = [],
        public array $files = [],
        public array $uploads = [],
        public ?MediaPages $pages = null,
        public string $pattern = '{name}.w{width}.{ext}',
        public array $boxes = [],
        public array $redirects = [],
        public array $livePages = [],
        public array $held = [],
        public array $places = [],
        public array $foreign = [],
        public array $here = [],
        public array $kept = [],
    ) {
    }

    public function addresses(): SiteAddresses
    {
        return new SiteAddresses('https://korrinbay.example/', ['https://old.example/bay/']);
    }

    public function renditionNames(): RenditionNames
    {
        return $this->pattern === '' ? new RenditionNames() : new RenditionNames($this->pattern);
    }

    public function mediaPages(): ?MediaPages
    {
        return $this->pages;
    }

    public function media(array $items): array
    {
        return array_intersect_key($this->media, array_flip($items));
    }

    public function words(?array $items): iterable
    {
        return [];
    }

    public function uses(int $item, Places $places): iterable
    {
        foreach (array_chunk($this->uses, 2) as $batch) {
            $this->batches[] = count($batch);
            yield $batch;
        }
    }

    public function findings(array $kinds): iterable
    {
        foreach (array_chunk($this->uses, 2) as $batch) {
            yield array_map(
                static fn (RecordUses $uses): RecordUses => new RecordUses(
                    $uses->kind,
                    $uses->key,
                    $uses->title,
                    $uses->contentHash,
                    array_values(
                        array_filter(
                            $uses->uses,
                            static fn (PlacedUse $use): bool => in_array($use->finding?->kind, $kinds, true),
                        ),
                    ),
                    $uses->record,
                ),
                $batch,
            );
        }
    }

    public function boxes(int $item, Places $places): iterable
    {
        return $this->boxes;
    }

    public function records(string $kind, array $keys): iterable
    {
        return [];
    }

    public function files(array $paths): array
    {
        return array_intersect_key($this->files, array_flip($paths));
    }

    public function taken(array $paths): array
    {
        return array_fill_keys(array_intersect($paths, array_keys($this->files)), true);
    }

    public function original(MediaFacts $media): ?KeptFile
    {
        $file = $this->files[$media->path] ?? null;
        if (isset($this->originals[$media->path])) {
            return $this->originals[$media->path];
        }

        return $file === null
            ? null
            : new KeptFile(
                $file->sha256,
                $file->size,
                basename($media->path),
                pathinfo($media->path, PATHINFO_EXTENSION),
                $media->original()->size,
                true,
            );
    }

    public function upload(string $token): KeptFile
    {
        return $this->uploads[$token] ??
            throw new UploadRefused('The uploaded picture is no longer here. Send it again.');
    }

    public function draw(Drawing $drawing): FileState
    {
        $this->drawn[] = $drawing;

        return new FileState("drawn $drawing->size $drawing->type", 100);
    }

    public function stamps(string $kind): array
    {
        return $kind === 'stamped' ? ['It moves.'] : [];
    }

    public function redirects(array $addresses): array
    {
        return array_intersect_key($this->redirects, array_flip($addresses));
    }

    public function pages(array $addresses): array
    {
        return array_intersect_key($this->livePages, array_flip($addresses));
    }

    public function keepsRedirects(): bool
    {
        return $this->redirects !== [];
    }

    public function redirectsTo(array $addresses): array
    {
        $found = [];
        foreach ($this->redirects as $redirect) {
            if (in_array(ltrim($redirect->to, '/'), $addresses, true)) {
                $found[] = [ltrim($redirect->to, '/'), $redirect];
            }
        }

        return $found;
    }

    public function unreadNames(string $path): array
    {
        return ['items' => 0, 'places' => 0, 'example' => ''];
    }

    public function mediaFolders(): array
    {
        return ['media/'];
    }

    public function filesAt(string $path): iterable
    {
        $held = array_filter(
            $this->held,
            static fn (HeldFile $file): bool => str_ends_with($path, '/') ? str_starts_with($file->path, $path) : true,
        );
        foreach (array_chunk($held, 2) as $batch) {
            yield $batch;
        }
    }

    public function mediaPlaces(array $items): iterable
    {
        return array_values(array_intersect_key($this->places, array_flip($items)));
    }

    public function usesAt(string $path): iterable
    {
        return [$this->uses];
    }

    public function usesBelow(string $address): iterable
    {
        return [$this->uses];
    }

    public function foreignPictures(array $hosts): iterable
    {
        return $this->foreign === [] ? [] : [$this->foreign];
    }

    public function foreignUses(array $hosts, bool $pasted): iterable
    {
        return [$this->uses];
    }

    public function sameBytes(array $hashes): array
    {
        return array_intersect_key($this->here, array_flip($hashes));
    }

    public function keep(string $bytes, string $name): KeptFile
    {
        return str_starts_with($bytes, 'bad')
            ? throw new UploadRefused("\"$name\" is no picture.")
            : new KeptFile(hash('sha256', $bytes), strlen($bytes), $name, 'png', null, false);
    }

    public function homeFolder(): string
    {
        return 'media/2026/';
    }

    public function usualWidths(): array
    {
        return [160, 480];
    }

    public function known(array $paths): array
    {
        return array_intersect_key($this->livePages, array_flip($paths)) +
            array_fill_keys(array_intersect($paths, array_keys($this->files)), true);
    }

    public function recover(array $paths): array
    {
        return array_intersect_key($this->kept, array_flip($paths));
    }

    public function idsOf(array $paths): array
    {
        $ids = [];
        foreach ($this->media as $media) {
            if (in_array($media->path, $paths, true)) {
                $ids[$media->path] = $media->id;
            }
        }

        return $ids;
    }

    /** @var list<list<Idle>> */
    public array $idle = [];

    /** @var list<list<Resting>> */
    public array $resting = [];

    public function idle(IdleQuestion $question): iterable
    {
        return $this->idle;
    }

    public function usesOf(array $items): iterable
    {
        foreach ($items as $item) {
            yield from $this->uses($item, new Places([]));
        }
    }

    /** @var list<LostSize> */
    public array $lost = [];

    /** @var array<string, bool> path → whether it can be drawn again */
    public array $redraws = [];

    /** @var list<int>|null */
    public ?array $widths = null;

    public function lostSizes(?int $item, ?int $width): iterable
    {
        return [$this->lost];
    }

    public function canRedraw(Idle $rendition): ?bool
    {
        return $this->redraws[$rendition->files[0]->path] ?? null;
    }

    public function chosenWidths(): ?array
    {
        return $this->widths;
    }

    public function newBag(): string
    {
        return 'bag-1';
    }

    public function restsUntil(): string
    {
        return '2031-03-01';
    }

    public function resting(RestingQuestion $question): iterable
    {
        return $this->resting;
    }
}
