<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\MediaFile;
use App\Models\MediaItem;
use App\Models\Site;

/** What the commands share: a site by its short name, an item by the path of any of its files. */
trait FindsSites
{
    private function site(): ?Site
    {
        $slug = $this->word('site');
        $site = Site::query()->where('slug', $slug)->first();
        if ($site === null) {
            $known = Site::query()->orderBy('slug')->pluck('slug')->implode(', ');
            $this->error("There is no site \"$slug\". Known: ".($known === '' ? 'none yet' : $known).'.');
        }

        return $site;
    }

    private function word(string $argument): string
    {
        $value = $this->argument($argument);

        return is_string($value) ? $value : '';
    }

    private function item(Site $site, string $path): ?MediaItem
    {
        $path = ltrim(rawurldecode($path), '/');
        $file = MediaFile::query()->where('site_id', $site->id)->where('path', $path)->first();
        $item =
            $file === null
                ? MediaItem::query()->where('site_id', $site->id)->where('path', $path)->first()
                : MediaItem::query()->find($file->media_item_id);
        if ($item === null) {
            $near = MediaItem::query()
                ->where('site_id', $site->id)
                ->where('path', 'ilike', '%'.addcslashes(basename($path), '%_\\').'%')
                ->limit(3)
                ->pluck('path')
                ->implode(', ');
            $this->error(
                "No media item of \"{$site->slug}\" has a file $path.".($near === '' ? '' : " Did you mean $near?"),
            );
        }

        return $item;
    }
}
