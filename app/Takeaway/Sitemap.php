<?php

declare(strict_types=1);

namespace App\Takeaway;

use App\Models\Site;
use App\Usage\UsageIndex;
use Generator;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** The public pages of a site with the pictures that each shows, as an XML sitemap (sitemaps.org, 0.9) with images. */
final readonly class Sitemap
{
    /** A sitemap has no more pages than this (sitemaps.org, 0.9), and a page no more pictures. */
    public const PAGES = 50_000;

    /** And no more bytes: 50 MB, with room for its ends. */
    public const BYTES = 52_428_800 - 1000;

    private const PICTURES = 1000;

    public function __construct(private Site $site, private int $bytes = self::BYTES)
    {
    }

    /**
     * @param  int  $part from 1
     * @return Generator<string>
     *
     * @throws NoSuchPart before anything is yielded
     */
    public function xml(int $part = 1): Generator
    {
        $at = 1;
        $pages = $bytes = 0;
        foreach ($this->elements() as $element) {
            if ($pages === self::PAGES || ($pages > 0 && $bytes + strlen($element) > $this->bytes)) {
                if ($at === $part) {
                    yield "</urlset>\n<!-- There are more pages: they are in part ".($part + 1).". -->\n";

                    return;
                }
                $at++;
                $pages = $bytes = 0;
            }
            if ($at === $part) {
                if ($pages === 0) {
                    yield from self::head();
                }
                yield $element;
            }
            $pages++;
            $bytes += strlen($element);
        }
        if ($at < $part) {
            throw NoSuchPart::of($part, $at);
        }
        if ($pages === 0) {
            yield from self::head();
        }
        yield "</urlset>\n";
    }

    /** @return Generator<string> */
    private static function head(): Generator
    {
        yield '<?xml version="1.0" encoding="UTF-8"?>'
            ."\n"
            .'<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"'
            .' xmlns:image="http://www.google.com/schemas/sitemap-image/1.1">'
            ."\n";
    }

    /** @return Generator<string> one element for each page */
    private function elements(): Generator
    {
        [$own, $everywhere, $paths] = $this->pictures();
        $addresses = $this->site->addresses();
        $rows = $this->pages()
            ->orderBy('id')
            ->select('id', 'address');
        foreach ($rows->cursor() as $page) {
            $element = "  <url>\n    <loc>".self::text($addresses->addressOfPage((string) $page->address))."</loc>\n";
            $files = array_unique([
                ...isset($own[$page->id]) ? (unpack('V*', $own[$page->id]) ?: []) : [],
                ...$everywhere,
            ]);
            foreach (array_slice($files, 0, self::PICTURES) as $file) {
                $element .= '    <image:image><image:loc>'
                    .self::text($addresses->addressOf($paths[$file] ?? ''))
                    ."</image:loc></image:image>\n";
            }
            yield "$element  </url>\n";
        }
    }

    private function pages(): Builder
    {
        return DB::table('records')->where('site_id', $this->site->id)->where('is_page', true)->where('state', 0);
    }

    /**
     * Which files each page shows, four bytes a file, so that a million uses take some megabytes.
     *
     * @return array{array<int, string>, list<int>, array<int, string>} page → numbers of files; those that every page
     *     shows; and number → path
     */
    private function pictures(): array
    {
        $graph = (new UsageIndex($this->site->id))->graph();
        $all = $this->pages()->count();
        $own = $everywhere = $paths = [];
        $uses = DB::table('media_references as m')
            ->leftJoin('addresses as a', 'a.id', '=', 'm.address_id')
            ->join('files as f', 'f.media_item_id', '=', 'm.media_item_id')
            ->where('m.site_id', $this->site->id)
            ->where('f.mime', 'like', 'image/%')
            ->where(
                fn ($q) => $q
                    ->whereColumn('f.id', 'a.file_id')
                    ->orWhere(fn ($o) => $o->whereNull('a.file_id')->where('f.is_original', true)),
            )
            ->whereNotIn('m.fetch', ['when-followed', 'never'])
            ->groupBy('m.record_id', 'f.id', 'f.path')
            ->orderBy('m.record_id')
            ->select('m.record_id', 'f.id', 'f.path');
        $record = null;
        $pages = [];
        foreach ($uses->cursor() as $use) {
            if ($record !== $use->record_id) {
                $record = $use->record_id;
                $pages = $graph->pagesOf([$record]);
            }
            $paths[(int) $use->id] = (string) $use->path;
            if ($all > 1 && count($pages) === $all) {
                $everywhere[] = (int) $use->id;

                continue;
            }
            foreach ($pages as $page) {
                $own[$page] = ($own[$page] ?? '').pack('V', $use->id);
            }
        }

        return [$own, array_values(array_unique($everywhere)), $paths];
    }

    private static function text(string $text): string
    {
        return htmlspecialchars($text, ENT_XML1 | ENT_QUOTES, 'UTF-8');
    }
}
