<?php

declare(strict_types=1);

namespace Standin\Site;

use PDO;

/**
 * The demo site's own code: turns its content into pages the way a small home-grown system would.
 * It knows nothing of Ylema.
 */
final readonly class PageRenderer
{
    public function __construct(private PDO $content)
    {
    }

    /** @return array{int, string, string}|null status, type and body; null where there is no such page */
    public function render(string $path): ?array
    {
        if (preg_match('~^styles/([\w-]+)\.css$~', $path, $m) === 1) {
            $style = $this->one('select css from styles where name = ?', [$m[1]]);

            return $style === null ? null : [200, 'text/css; charset=utf-8', (string) $style['css']];
        }
        if ($path === 'journal') {
            return [200, 'text/html; charset=utf-8', $this->page($this->journal(), 'plain')];
        }
        $entry = $this->one(
            "select * from entries where slug = ? and state = 'published' and published_at <= now() and (expires_at "
                .'is null or expires_at > now())',
            [trim($path, '/')],
        );
        if ($entry === null) {
            return null;
        }

        return [200, 'text/html; charset=utf-8', $this->page($entry, (string) $entry['layout'])];
    }

    /** @return array{int, string}|null where visitors of a page that is elsewhere now are sent: status and address */
    public function sentOn(string $path): ?array
    {
        $row = $this->one('select code, new_path from redirects where old_path = ?', ['/'.trim($path, '/')]);

        return $row === null ? null : [(int) $row['code'], (string) $row['new_path']];
    }

    /** @return array<string, scalar|null> */
    private function journal(): array
    {
        $list = '';
        foreach (
            $this->all(
                "select slug, title from entries where type = 'post' and state = 'published' and "
                    .'published_at <= now() and (expires_at is null or expires_at > now()) order by published_at desc',
            ) as $post
        ) {
            $list .= '<li><a href="/'.$post['slug'].'">'.htmlspecialchars((string) $post['title']).'</a></li>';
        }

        return [
            'type' => 'page',
            'title' => 'Journal',
            'body' => "<ul>$list</ul>",
            'featured_id' => null,
            'extras' => null,
            'blocks' => null,
        ];
    }

    /** @param  array<string, scalar|null>  $entry */
    private function page(array $entry, string $layoutName): string
    {
        $layout = $this->one('select * from layouts where name = ?', [$layoutName]) ?? [
            'parts' => '[]',
            'styles' => '[]',
        ];
        $styles = '';
        foreach ($this->list((string) $layout['styles']) as $style) {
            $styles .= '<link rel="stylesheet" href="/styles/'.$style.'.css">';
        }
        $icon = $this->one("select value from settings where name = 'tab-icon'");
        $share = $this->one("select value from settings where name = 'share-picture'");
        $parts = [];
        foreach ($this->list((string) $layout['parts']) as $name) {
            $part = $this->one('select body from parts where name = ?', [$name]);
            $parts[$name] = $part === null ? '' : $this->expand((string) $part['body']);
        }
        $side = $parts['sidebar'] ?? ($parts['journal-sidebar'] ?? null);
        $main = $this->main($entry);
        $hero =
            $layoutName === 'home'
                ? '<div class="hero"><h1>'.htmlspecialchars((string) $entry['title']).'</h1></div>'
                : '';

        return '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" '
            .'content="width=device-width">'
            .'<title>'
            .htmlspecialchars((string) $entry['title'])
            .' · Korrin Bay</title>'
            .'<link rel="icon" href="'
            .htmlspecialchars((string) ($icon['value'] ?? ''))
            .'"><meta property="og:image" content="'
            .htmlspecialchars((string) ($share['value'] ?? ''))
            .'">'
            .$styles
            .'</head><body class="'
            .($entry['type'] === 'post' ? 'journal' : 'page')
            .'">'
            .'<header class="site">'
            .($parts['header'] ?? '')
            .'</header>'
            .$hero
            .($parts['home-feature'] ?? '')
            .'<div class="columns'
            .($side === null ? ' wide' : '')
            .'"><main>'
            .($hero === '' ? '<h1>'.htmlspecialchars((string) $entry['title']).'</h1>' : '')
            .$main
            .'</main>'
            .($side === null ? '' : "<aside>$side</aside>")
            .'</div>'
            .'<footer class="site">'
            .($parts['footer'] ?? '')
            .'</footer>'
            .'<script>for(const i of '
            .'document.querySelectorAll("img[data-src]"))i.src=i.dataset.src</script></body></html>';
    }

    /** @param  array<string, scalar|null>  $entry */
    private function main(array $entry): string
    {
        $html = '';
        if ($entry['featured_id'] !== null) {
            $picture = $this->one('select * from media where id = ?', [$entry['featured_id']]);
            if ($picture !== null) {
                $html .=
                    '<img class="featured" src="'
                    .$this->address($this->size($picture, 960))
                    .'" alt="'
                    .htmlspecialchars((string) $picture['alt'])
                    .'">';
            }
        }
        $extras = $entry['extras'] === null ? [] : unserialize((string) $entry['extras'], ['allowed_classes' => false]);
        if (is_array($extras) && is_array($extras['hero'] ?? null)) {
            $html .=
                '<div class="band" style="background-image:url('
                .htmlspecialchars((string) $extras['hero']['picture'])
                .')"><p>'
                .htmlspecialchars((string) $extras['hero']['strap'])
                .'</p></div>';
        }
        $html .= $this->expand((string) $entry['body']);
        if (($entry['slug'] ?? '') === 'imprint') {
            // Somebody wrote this into the code in 2018, and no editor knows of it.
            $html .= '<p><img src="/media/archive/unsorted-14.jpg" alt="The seal of the trust" width="160"></p>';
        }
        foreach ($entry['blocks'] === null ? [] : (array) json_decode((string) $entry['blocks'], true) as $block) {
            if (! is_array($block)) {
                continue;
            }
            if (isset($block['html'])) {
                $html .= $this->expand((string) $block['html']);
            } elseif (isset($block['picture'])) {
                $html .= $this->picture((int) $block['picture'], 480, (string) ($block['words'] ?? ''));
            }
        }
        if (is_array($extras) && is_array($extras['card'] ?? null)) {
            $html .= $this->expand((string) $extras['card']['html']);
        }
        if (is_array($extras) && is_array($extras['related'] ?? null)) {
            $html .=
                '<div class="gallery">'
                .implode('', array_map(fn (mixed $id): string => $this->picture((int) $id, 160), $extras['related']))
                .'</div>';
        }

        return $html;
    }

    /** Replaces the site's own inline tokens, slots inside parts included. */
    private function expand(string $html): string
    {
        return preg_replace_callback(
            '~%(slot|gallery):([a-z0-9-]+)%~',
            fn (array $m): string => $m[1] === 'slot' ? $this->slot($m[2]) : $this->gallery((int) $m[2]),
            $html,
        ) ?? $html;
    }

    private function slot(string $name): string
    {
        $slot = $this->one('select * from slots where name = ?', [$name]);
        if ($slot === null) {
            return '';
        }
        $ids = [(int) $slot['shows_id']];
        if ($slot['shows_kind'] === 'set') {
            $set = $this->one('select banners from banner_sets where id = ?', [$slot['shows_id']]);
            $ids = $set === null ? [] : $this->list((string) $set['banners']);
        }
        $html = '';
        foreach ($ids as $id) {
            $banner = $this->one(
                'select b.*, m.path, m.alt from banners b join media m on m.id = b.picture_id where b.id = ? and '
                    .'b.enabled and (b.starts_on is null or b.starts_on <= current_date) and (b.ends_on is null or '
                    .'b.ends_on >= current_date)',
                [$id],
            );
            if ($banner !== null) {
                $html .=
                    '<a href="'
                    .htmlspecialchars((string) $banner['link'])
                    .'"><img src="'
                    .$this->address((string) $banner['path'])
                    .'" alt="'
                    .htmlspecialchars((string) $banner['alt'])
                    .'"></a>';
            }
        }

        return $html === '' ? '' : '<div class="slot" data-slot="'.$name.'">'.$html.'</div>';
    }

    private function gallery(int $id): string
    {
        $gallery = $this->one('select items from galleries where id = ?', [$id]);
        $html = '';
        foreach ((array) json_decode((string) ($gallery['items'] ?? '[]'), true) as $item) {
            $html .= is_array($item) ? $this->picture((int) $item['picture'], 480) : '';
        }

        return '<div class="gallery">'.$html.'</div>';
    }

    private function picture(int $id, int $width, string $words = ''): string
    {
        $row = $this->one('select * from media where id = ?', [$id]);

        return $row === null
            ? ''
            : '<img src="'
                    .$this->address($this->size($row, $width))
                    .'" alt="'
                    .htmlspecialchars((string) $row['alt'])
                    .'" title="'
                    .htmlspecialchars($words)
                    .'">';
    }

    /** @param  array<string, scalar|null>  $row of media */
    private function size(array $row, int $width): string
    {
        $best = (string) $row['path'];
        $bestWidth = (int) $row['width'];
        foreach ((array) json_decode((string) $row['renditions'], true) as $rendition) {
            if (
                is_array($rendition)
                && $rendition['width'] >= $width
                && $rendition['width'] < $bestWidth
                && $rendition['width'] !== $rendition['height']
            ) {
                $best = (string) $rendition['path'];
                $bestWidth = (int) $rendition['width'];
            }
        }

        return $best;
    }

    private function address(string $path): string
    {
        return htmlspecialchars('/'.implode('/', array_map(rawurlencode(...), explode('/', $path))));
    }

    /** @return list<int|string> */
    private function list(string $json): array
    {
        $list = json_decode($json, true);

        return is_array($list)
            ? array_values(array_filter($list, static fn (mixed $x): bool => is_int($x) || is_string($x)))
            : [];
    }

    /**
     * @param  list<scalar|null>  $values
     * @return array<string, scalar|null>|null
     */
    private function one(string $sql, array $values = []): ?array
    {
        return $this->all($sql, $values)[0] ?? null;
    }

    /**
     * @param  list<scalar|null>  $values
     * @return list<array<string, scalar|null>>
     */
    private function all(string $sql, array $values = []): array
    {
        $statement = $this->content->prepare($sql);
        $statement->execute($values);
        /** @var list<array<string, scalar|null>> $rows */
        $rows = $statement->fetchAll(PDO::FETCH_ASSOC);

        return $rows;
    }
}
