<?php

declare(strict_types=1);

namespace Standin\Mill;

use PDO;

/** The public pages of the mill, made from its tables as its own code would. */
final readonly class MillPages
{
    public function __construct(private PDO $content)
    {
    }

    /** @return array{int, string} status and markup */
    public function render(string $path): array
    {
        $path = trim($path, '/');
        [$lang, $rest] = preg_match('~^de/(.+)$~', $path, $found) === 1 ? ['de', $found[1]] : ['en', $path];
        if ($path === '') {
            return [200, $this->page('Hollin Mill', '<p>Welcome to the mill.</p>', '')];
        }
        if (preg_match('~^events/([\w-]+)$~', $path, $found) === 1) {
            return $this->event($found[1]);
        }
        [$section, $slug] = [...explode('/', $rest, 2), ''];
        $text = $this->one(
            'select t.*, n.section, n.author_id from hm_node_text t join hm_node n on n.nid = t.nid '
                .'where t.lang = ? and t.slug = ? and n.section = ? and n.status = 1 and n.deleted_at is null',
            [$lang, $slug, $section],
        );

        return $text === null
            ? [404, $this->page('Not here', '<p>Nothing is called so.</p>', '')]
            : [200, $this->page((string) $text['title'], $this->node($text), $section)];
    }

    /** @return array{int, string} */
    private function event(string $slug): array
    {
        $event = $this->one('select * from hm_event where slug = ? and cancelled = 0', [$slug]);
        if ($event === null) {
            return [404, $this->page('Not here', '<p>Nothing is called so.</p>', '')];
        }
        $text = preg_replace('~!\[([^\]]*)\]\(([^)]+)\)~', '<img src="$2" alt="$1">', (string) $event['text']) ?? '';
        $poster =
            $event['poster'] === null
                ? ''
                : '<img class="poster" src="/files/'.self::encoded((string) $event['poster']).'">';

        return [200, $this->page((string) $event['title'], $poster.$text, '')];
    }

    /** @param  array<string, scalar|null>  $text */
    private function node(array $text): string
    {
        $html = $text['teaser'].$this->expanded((string) $text['body']);
        foreach ($this->all('select * from hm_node_meta where nid = ?', [$text['nid']]) as $meta) {
            $value = (string) $meta['value'];
            $html .= match ($meta['name']) {
                'hero' => $this->picture((int) $value),
                'slides' => implode(
                    '',
                    array_map($this->picture(...), unserialize($value, ['allowed_classes' => false])),
                ),
                'aside' => $value,
                'layout' => implode(
                    '',
                    array_map(
                        fn (array $block): string => $block['html'] ?? $this->picture($block['media']),
                        json_decode($value, true),
                    ),
                ),
                default => '',
            };
        }
        foreach (
            $this->all('select media_id from hm_node_media where nid = ? order by position', [$text['nid']]) as $placed
        ) {
            $html .= $this->picture((int) $placed['media_id']);
        }
        foreach ($this->all('select body from hm_comment where nid = ? and approved = 1', [$text['nid']]) as $comment) {
            $html .= '<blockquote>'.$comment['body'].'</blockquote>';
        }
        $author = $this->one('select avatar from hm_user where id = ?', [$text['author_id']]);
        $avatar = $author['avatar'] ?? null;

        return $html.
            ($avatar === null ? '' : '<img class="by" src="/files/'.self::encoded((string) $avatar).'">');
    }

    private function expanded(string $body): string
    {
        $body =
            preg_replace_callback(
                '~\[\[figure id="(\d+)"[^\]]*\]\]~',
                fn (array $m): string => $this->picture((int) $m[1]),
                $body,
            ) ?? $body;

        return preg_replace_callback(
            '~\[\[gallery:(\d+)\]\]~',
            fn (array $m): string => implode(
                '',
                array_map(
                    fn (array $item): string => $this->picture((int) $item['media_id']),
                    $this->all(
                        'select i.media_id from hm_gallery_item i join hm_gallery g on g.id = i.gallery_id '
                            .'where g.id = ? and g.open = 1',
                        [$m[1]],
                    ),
                ),
            ),
            $body,
        ) ?? $body;
    }

    private function page(string $title, string $main, string $section): string
    {
        $settings = array_column($this->all('select name, value from hm_setting'), 'value', 'name');
        $theme = unserialize((string) $settings['theme'], ['allowed_classes' => false]);
        $menu = '';
        foreach ($this->all('select * from hm_menu order by sort') as $entry) {
            $menu .= "<a href=\"{$entry['link']}\"><img src=\"{$entry['icon']}\" alt=\"\"> {$entry['label']}</a>";
        }
        $banners = '';
        $shown = $this->all(
            'select b.* from hm_banner b join hm_set_banner s on s.banner_id = b.id '
                ."join hm_section c on c.set_id = s.set_id where c.code = ? and b.active = 'y' "
                .'and b.starts <= unix_timestamp() and (b.ends = 0 or b.ends > unix_timestamp())',
            [$section],
        );
        foreach ($shown as $banner) {
            $banners .= $this->picture((int) $banner['image_id']);
        }

        return "<!doctype html><html><head><title>$title</title>"
            ."<link rel=\"icon\" href=\"{$settings['favicon']}\"></head><body><header>"
            .$this->picture((int) $settings['site_logo'])
            ."$menu</header><main><h1>$title</h1>$main</main>"
            ."<aside>$banners</aside><footer>{$settings['footer']}<img src=\"{$theme['badge']}\"></footer>"
            .'</body></html>';
    }

    private function picture(int $id): string
    {
        $media = $this->one('select folder, file from hm_media where id = ?', [$id]);

        return $media === null ? '' : '<img src="/files/'.self::encoded("{$media['folder']}/{$media['file']}").'">';
    }

    private static function encoded(string $path): string
    {
        return implode('/', array_map(rawurlencode(...), explode('/', $path)));
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

        /** @var list<array<string, scalar|null>> */
        return $statement->fetchAll(PDO::FETCH_ASSOC);
    }
}
