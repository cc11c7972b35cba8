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
        $isText = mb_check_encoding($slug, 'UTF-8') && ! str_contains($slug, "\0");
        $site = $isText ? Site::query()->where('slug', $slug)->first() : null;
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
        $path = ltrim($path, '/');
        // As it is written first: a percent sign may be part of a name.
        foreach (array_unique([$path, ltrim(rawurldecode($path), '/')]) as $spelling) {
            if (! mb_check_encoding($spelling, 'UTF-8') || str_contains($spelling, "\0")) {
                continue;
            }
            $file = MediaFile::query()->where('site_id', $site->id)->where('path', $spelling)->first();
            $item =
                $file === null
                    ? MediaItem::query()->where('site_id', $site->id)->where('path', $spelling)->first()
                    : MediaItem::query()->find($file->media_item_id);
            if ($item !== null) {
                return $item;
            }
        }
        $path = mb_scrub(strtr($path, ["\0" => '']));
        $near = $path === '' ? '' : MediaItem::query()
            ->where('site_id', $site->id)
            ->where('path', 'ilike', '%'.addcslashes(basename($path), '%_\\').'%')
            ->limit(3)
            ->pluck('path')
            ->implode(', ');
        $this->error(
            "No media item of \"{$site->slug}\" has a file $path.".($near === '' ? '' : " Did you mean $near?"),
        );

        return null;
    }
}
