<?php

declare(strict_types=1);

namespace Ylema\Plan;

use Ylema\Sites\MediaRow;

/** An item, or some files of one, that may be laid to rest. */
final readonly class Idle
{
    /**
     * @param  int  $item its number in the index
     * @param  string  $path of its original
     * @param  list<IdleFile>  $files that would rest, the original first where it is among them; none for a row whose
     *       file is gone
     * @param  MediaRow|null  $row of the site's own list of media; null where it has none, or keeps it
     * @param  string|null  $why why it must not rest, or only after somebody was asked; null where it is safe
     * @param  bool  $isNeeded whether nobody may say otherwise
     * @param  list<array<string, mixed>>  $proof as ProofSheet::toArray() says it
     */
    public function __construct(
        public int $item,
        public string $path,
        public string $title,
        public array $files,
        public ?MediaRow $row,
        public ?string $why,
        public bool $isNeeded,
        public array $proof,
    ) {
    }

    /** @return list<string> of the files that would rest */
    public function paths(): array
    {
        return array_map(static fn (IdleFile $file): string => $file->path, $this->files);
    }

    /** @param  list<array<string, mixed>>  $proof */
    public function with(array $proof): self
    {
        return new self(
            $this->item,
            $this->path,
            $this->title,
            $this->files,
            $this->row,
            $this->why,
            $this->isNeeded,
            $proof,
        );
    }
}
