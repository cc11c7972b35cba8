<?php

declare(strict_types=1);

namespace App\Bytes;

use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use Ylema\Sites\FileState;
use Ylema\Sites\WriteRefused;

/** One of Ylema's own folders: the vault, the rest, bags, or what waits for a plan. */
final readonly class Place
{
    /** Parts have a folder of their own, so that whoever sweeps need not look through all that is kept. */
    public const PARTS = 'parts';

    public Root $root;

    /**
     * @param  string  $name as it is called in sentences, after "the"
     * @param  bool  $isMarked whether the installation knows its folder again (see Marks)
     * @param  string  $of whose it is, where there are several of that name
     */
    public function __construct(
        public string $name,
        string $folder,
        public bool $isMarked = false,
        private string $of = '',
    ) {
        $this->root = new Root($folder, "the folder of the $name");
    }

    /** @param  'vault'|'rest'|'bags'|'work'  $disk */
    public static function of(string $disk): self
    {
        return new self($disk, rtrim(Storage::disk($disk)->path(''), '/'), $disk !== 'work');
    }

    /** The bags of one site, in a folder that its owner chose. */
    public static function ofBags(int $site, string $folder): self
    {
        return new self('bags', $folder, true, (string) $site);
    }

    /** In sentences, with its folder. */
    public function title(): string
    {
        return "The $this->name ({$this->root->folder})";
    }

    /** As commands and the database name it. */
    public function key(): string
    {
        return $this->of === '' ? $this->name : "$this->name-$this->of";
    }

    /**
     * @param  string  $path below its folder
     * @param  resource|string  $bytes
     * @param  string|null  $sha256 that they must have
     * @param  FileState|null  $as mode, owner and time of a file that will be given back
     * @return string their SHA-256
     *
     * @throws WriteRefused with what to do
     */
    public function write(string $path, $bytes, ?string $sha256 = null, ?FileState $as = null): string
    {
        return Part::write(
            $this->place($path),
            $bytes,
            Attributes::of($as, null, 0o600),
            $this->title(),
            $sha256,
            $this->root->folder.'/'.self::PARTS,
            0o770,
        );
    }

    /**
     * @return string where a path lies, at this very moment
     *
     * @throws WriteRefused
     */
    public function place(string $path): string
    {
        if (! is_dir($this->root->folder)) {
            @mkdir($this->root->folder, 0o700, true);
        }

        if ($this->isMarked) {
            app(Marks::class)->expect($this);
        }

        return $this->root->place($path);
    }

    /** @return list<self> those of this installation, and each folder that a site has for its bags */
    public static function all(): array
    {
        $own = array_map(self::of(...), ['vault', 'rest', 'bags', 'work']);
        $bags = DB::table('sites')->whereRaw("keeping ->> 'bags' <> ''")->selectRaw("id, keeping ->> 'bags' as folder");
        foreach ($bags->pluck('folder', 'id') as $site => $folder) {
            $own[] = self::ofBags((int) $site, (string) $folder);
        }

        return $own;
    }

    /** @return int how many beginnings of killed processes went */
    public function sweep(): int
    {
        return Part::sweep($this->root->folder.'/'.self::PARTS);
    }
}
