<?php

declare(strict_types=1);

namespace Standin\Content;

/**
 * The content of the Korrin Bay demo, as ten years of editors left it. Rows are arrays as the tables want them.
 */
final class Scenario
{
    public readonly GroundTruth $truth;

    /** @var array<string, list<array<string, scalar|null>>> table → rows */
    public array $tables = [];

    private const WORDS = [
        'The tide turned a little before six and left the flats shining as far as the old slipway.',
        'We counted from the hide for two hours, with the wind behind us and the light slowly coming up over '
        .'the point.',
        'Visitors often ask why the water leaves so fast here: the bay is shallow, wide and open to the west.',
        'Bring boots, a flask and something to kneel on; the best pools are found close to the ground.',
        'The wardens keep a notebook by the door, and every page of it has salt on it.',
        'Numbers were down on last year, but the young birds are strong and the food is there.',
        'From the pier you can watch the kelp move with the swell, and the wrasse that live under it.',
        'The walk takes about ninety minutes at an easy pace and is safe two hours either side of low water.',
        'Members can borrow a telescope at the desk; please bring it back dry.',
        'After the storm the strandline was thick with weed, and the turnstones made the most of it.',
        'Our boats have carried school classes, pipers, a wedding and once a very patient goat.',
        'The chart shows height above datum; the thin line is the forecast and the thick one what we measured.',
    ];

    private int $word = 0;

    public function __construct(public readonly Catalogue $media)
    {
        $this->truth = new GroundTruth();
        $this->banners();
        $this->sets();
        $this->slots();
        $this->galleries();
        $this->styles();
        $this->parts();
        $this->layouts();
        $this->settings();
        $this->pages();
        $this->posts();
        $this->versions();
        $this->redirects();
        $this->mediaRows();
        $left = $this->media->groups['left'];
        foreach (
            explode(' ', 'needed needed needed needed ask ask safe ask safe safe ask ask') as $n => $is
        ) {
            $this->truth->retire[$this->media->items[$left[$n]]->path] = $is;
        }
        $this->truth->retire['media/archive/unsorted-14.jpg'] = 'needed';
        $this->truth->stories = [
            'portrait on many pages' => 'media/people/maren-oake.jpg',
            'logo of before, still in posts' => 'media/brand/korrin-logo-2014.png',
            'logo in the header' => 'media/brand/korrin-logo.png',
            'banner in a set in a slot in the header' => $this->media->of('sponsors', 0)->path,
            'featured picture' => $this->media->of('lights', 0)->path,
            'never used' => $this->media->of('idle', 0)->path,
        ];
    }

    private function writer(string $kind, int|string $key, string $field): FieldWriter
    {
        return new FieldWriter($this->truth, $kind, (string) $key, $field);
    }

    private function paragraph(int $sentences = 3): string
    {
        $out = [];
        for ($i = 0; $i < $sentences; $i++) {
            $out[] = self::WORDS[($this->word += 5) % count(self::WORDS)];
        }

        return '<p>'.implode(' ', $out)."</p>\n";
    }

    /** @param  array<string, scalar|null>  $row */
    private function row(string $table, array $row): void
    {
        $this->tables[$table][] = $row;
    }

    private function banners(): void
    {
        for ($i = 1; $i <= 24; $i++) {
            $picture = $this->media->of('sponsors', $i - 1);
            $state = match (true) {
                $i >= 17 && $i <= 21 => ['2022-03-01', '2023-02-28'],
                $i >= 22 && $i <= 23 => ['2031-05-01', '2031-09-30'],
                default => ['2024-01-01', null],
            };
            $this->row('banners', [
                'id' => $i,
                'name' => $picture->label,
                'picture_id' => $this->writer('banner', $i, 'picture_id')->id($picture),
                'link' => 'https://'.Catalogue::slug($picture->label).'.example/',
                'starts_on' => $state[0],
                'ends_on' => $state[1],
                'view_cap' => $i % 4 === 0 ? 50000 : null,
                'views' => $i * 1371,
                'clicks' => $i * 17,
                'enabled' => $i !== 24,
            ]);
        }
    }

    private function sets(): void
    {
        $sets = [
            1 => ['Masthead partners', [1, 2, 4]],
            2 => ['Sidebar friends', [3, 6, 17]],
            3 => ['Home feature', [5, 7]],
            4 => ['Home lower row', [8, 10, 18]],
            5 => ['Journal aside', [9, 12]],
            6 => ['Footer sponsors', [11, 13, 14, 16]],
            7 => ['Members drive (old)', [19, 20, 21]],
        ];
        foreach ($sets as $id => [$name, $banners]) {
            foreach ($banners as $banner) {
                $this->truth->carries('banner-set', (string) $id, 'banner', (string) $banner);
            }
            $this->row('banner_sets', [
                'id' => $id,
                'name' => $name,
                'banners' => json_encode($banners, JSON_THROW_ON_ERROR),
                'mode' => $id % 2 ? 'in turn' : 'all',
                'seconds' => 8,
            ]);
        }
    }

    private function slots(): void
    {
        $slots = [
            ['masthead-strip', 'header', 1200, 240, 'set', 1],
            ['sidebar-top', 'sidebar', 600, 300, 'set', 2],
            ['sidebar-low', 'sidebar', 600, 300, 'banner', 15],
            ['home-feature', 'home', 1200, 240, 'set', 3],
            ['home-lower', 'home', 1200, 240, 'set', 4],
            ['journal-aside', 'sidebar', 600, 300, 'set', 5],
            ['footer-sponsors', 'footer', 1200, 240, 'set', 6],
            ['walk-note', 'text', 1200, 240, 'banner', 10],
            ['species-help', 'text', 600, 300, 'banner', 12],
            ['members-drive', 'text', 1200, 240, 'set', 7],
        ];
        foreach ($slots as $i => [$name, $region, $w, $h, $kind, $id]) {
            $this->truth->carries('slot', $name, $kind === 'set' ? 'banner-set' : 'banner', (string) $id);
            $this->row('slots', [
                'id' => $i + 1,
                'name' => $name,
                'region' => $region,
                'width' => $w,
                'height' => $h,
                'shows_kind' => $kind,
                'shows_id' => $id,
            ]);
        }
    }

    private function galleries(): void
    {
        $rows = [
            1 => ['Boats of the bay', 'boats', 8],
            2 => ['Harbour row', 'harbour', 9],
            3 => ['Waders', 'flocks', 7],
            4 => ['Below the pier', 'under', 6],
        ];
        foreach ($rows as $id => [$name, $group, $n]) {
            $writer = $this->writer('gallery', $id, 'items');
            $items = [];
            for ($i = 0; $i < $n; $i++) {
                $items[] = ['picture' => $writer->id($this->media->of($group, $i)), 'words' => 'No. '.($i + 1)];
            }
            $this->row('galleries', [
                'id' => $id,
                'name' => $name,
                'items' => json_encode($items, JSON_THROW_ON_ERROR),
            ]);
        }
    }

    private function styles(): void
    {
        $base = $this->writer('style-sheet', 'base', 'css');
        $css = (string) file_get_contents(__DIR__.'/../Site/base.css');
        $css .=
            "\n/* paper behind everything */\nbody { background-image: url("
            .$base->address($this->media->of('textures', 0), $this->media->of('textures', 0)->path)
            ."); }\n";
        $css .=
            "footer.site { background-image: url('"
            .$base->address($this->media->of('textures', 3), $this->media->of('textures', 3)->path)
            ."'); }\n";
        $css .= "/* .old { background: url(/media/style/never-there.png) } */\n";
        $home = $this->writer('style-sheet', 'home', 'css');
        $hero = $this->media->of('shore', 1);
        $homeCss =
            '.hero { background-image: linear-gradient(transparent 40%, rgb(10 30 40 / .72)), url("'
            .$home->address($hero, $hero->file(960))
            ."\"); }\n@media (min-width: 70em) { .hero { background-image: linear-gradient(transparent 40%, rgb(10 "
            .'30 40 / .72)), url("'
            .$home->address($hero, $hero->path)
            ."\"); } }\n";
        $journal = $this->writer('style-sheet', 'journal', 'css');
        $quill = $this->media->of('icons', 0);
        $journalCss =
            '.journal h1::before { content: url('
            .$journal->address($quill, $quill->path, 'former')
            ."); margin-right: .4em }\n.journal blockquote { background: url('"
            .$journal->address($this->media->of('icons', 1), $this->media->of('icons', 1)->path, 'absolute')
            ."') no-repeat 0 .3em; padding-left: 3.6em }\n";
        $print = $this->writer('style-sheet', 'print', 'css');
        $printCss =
            '@media print { header.site { background: url('
            .$print->address(
                $this->media->byPath('brand/korrin-logo-2014.png'),
                'media/brand/korrin-logo-2014.png',
                'query',
            )
            .") no-repeat; } }\n";
        $found = ['base' => $css, 'home' => $homeCss, 'journal' => $journalCss, 'print' => $printCss];
        foreach ($found as $name => $text) {
            $this->row('styles', ['name' => $name, 'css' => $text]);
        }
    }

    private function parts(): void
    {
        $header = $this->writer('page-part', 'header', 'body');
        $logo = $this->media->byPath('brand/korrin-logo.png');
        $links = ['visit' => 'Visit', 'tides' => 'Tides', 'walks' => 'Boat walks', 'species' => 'Species'];
        $links += ['journal' => 'Journal', 'members' => 'Members'];
        $link = static fn (string $to, string $words): string => "<a href=\"/$to\">$words</a>";
        $nav = array_map($link, array_keys($links), $links);
        $html =
            '<a class="home" href="/"><img src="'
            .$header->address($logo, $logo->file(480))
            .'" alt="Korrin Bay Tidewater Observatory" width="320" height="80"></a>'
            ."\n<nav>"
            .implode(' ', $nav)
            ."</nav>\n<div class=\"strip\">"
            .$header->slot('masthead-strip')
            ."</div>\n";
        $footer = $this->writer('page-part', 'footer', 'body');
        $mark = $this->media->byPath('brand/korrin-mark.png');
        $footerHtml =
            '<p class="sponsors">'
            .$footer->slot('footer-sponsors')
            .'</p><p><img src="'
            .$footer->address($mark, $mark->square(), 'absolute')
            .'" alt="" width="60" height="60"> Korrin Bay Tidewater Observatory, Pilot Steps 3, Korrin</p>'
            ."\n";
        $sidebar = $this->writer('page-part', 'sidebar', 'body');
        $sign = $this->media->of('icons', 2);
        $sidebarHtml =
            '<h2><img src="'
            .$sidebar->address($sign, $sign->path)
            .'" alt="" width="24" height="24"> Friends of the bay</h2>'
            .$sidebar->slot('sidebar-top')
            .$sidebar->slot('sidebar-low')
            ."\n";
        $aside = $this->writer('page-part', 'journal-sidebar', 'body');
        $who = $this->media->byPath('people/tobin-vale.jpg');
        $asideHtml =
            '<div class="who"><img src="'
            .$aside->address($who, $who->square())
            .'" alt="Tobin Vale" width="96" height="96"><p>Tobin Vale keeps the journal.</p></div>'
            .$aside->slot('journal-aside')
            ."\n";
        $home = $this->writer('page-part', 'home-feature', 'body');
        $homeHtml =
            '<section class="feature">'
            .$home->slot('home-feature')
            .'</section><section class="lower">'
            .$home->slot('home-lower')
            .$home->gallery(2)
            ."</section>\n";
        $entries = [
            'header' => $html,
            'footer' => $footerHtml,
            'sidebar' => $sidebarHtml,
            'journal-sidebar' => $asideHtml,
            'home-feature' => $homeHtml,
        ];
        foreach ($entries as $name => $body) {
            $this->row('parts', ['name' => $name, 'body' => $body]);
        }
    }

    private function layouts(): void
    {
        foreach (
            [
                'home' => [['header', 'home-feature', 'footer'], ['base', 'home', 'print']],
                'page' => [['header', 'sidebar', 'footer'], ['base', 'print']],
                'post' => [['header', 'journal-sidebar', 'footer'], ['base', 'journal']],
                'plain' => [['header', 'footer'], ['base']],
            ] as $name => [$parts, $styles]
        ) {
            foreach ($parts as $part) {
                $this->truth->carries('layout', $name, 'page-part', $part);
            }
            foreach ($styles as $style) {
                $this->truth->carries('layout', $name, 'style-sheet', $style);
            }
            $this->row('layouts', [
                'name' => $name,
                'parts' => json_encode($parts, JSON_THROW_ON_ERROR),
                'styles' => json_encode($styles, JSON_THROW_ON_ERROR),
            ]);
        }
    }

    private function settings(): void
    {
        $icon = $this->media->byPath('brand/favicon.png');
        $share = $this->media->of('shore', 3);
        $this->row('settings', [
            'name' => 'tab-icon',
            'value' => $this->writer('setting', 'tab-icon', 'value')->address($icon, $icon->path),
        ]);
        $this->row('settings', [
            'name' => 'share-picture',
            'value' => $this->writer('setting', 'share-picture', 'value')->address(
                $share,
                $share->file(960),
                'absolute',
            ),
        ]);
        $this->row('settings', ['name' => 'site-name', 'value' => 'Korrin Bay Tidewater Observatory']);
    }

    /**
     * @param  array<string, mixed>|null  $extras
     * @param  list<array<string, mixed>>|null  $blocks
     */
    private function entry(
        int $id,
        string $type,
        string $slug,
        string $title,
        string $body,
        string $layout,
        ?MediaItem $featured,
        string $state = 'published',
        ?array $extras = null,
        ?array $blocks = null,
        ?string $published = null,
        ?string $expires = null,
    ): void {
        $this->truth->carries($type, (string) $id, 'layout', $layout);
        $this->row('entries', [
            'id' => $id,
            'type' => $type,
            'slug' => $slug,
            'title' => $title,
            'body' => $body,
            'layout' => $layout,
            'featured_id' => $featured === null ? null : $this->writer($type, $id, 'featured_id')->id($featured),
            'extras' => $extras === null ? null : serialize($extras),
            'blocks' => $blocks === null
                    ? null
                    : json_encode(
                        $blocks,
                        $id % 2
                            ? JSON_THROW_ON_ERROR
                            : JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE,
                    ),
            'state' => $state,
            'published_at' => $published
                ?? sprintf('20%02d-%02d-%02d 09:00:00+00', 15 + ($id % 9), ($id % 12) + 1, ($id % 27) + 1),
            'expires_at' => $expires,
        ]);
    }

    private function pages(): void
    {
        $m = $this->media;
        $id = 0;
        $plain = [
            ['', 'Korrin Bay', 'home', 'shore'],
            ['visit', 'Visit the observatory', 'page', 'harbour'],
            ['visit/opening-hours', 'Opening hours', 'page', 'lights'],
            ['visit/getting-here', 'Getting here', 'page', 'harbour'],
            ['visit/prices', 'Prices', 'plain', 'harbour'],
            ['tides', 'The tides', 'page', 'charts'],
            ['tides/tables', 'Tide tables', 'page', 'charts'],
            ['tides/how-they-work', 'How the tides work', 'page', 'shore'],
            ['boats', 'Our boats', 'page', 'boats'],
            ['people', 'People', 'page', 'people'],
            ['events', 'Events', 'page', 'posters'],
            ['members', 'Members', 'page', 'shore'],
            ['members/join', 'Join us', 'page', 'boats'],
            ['members/newsletter', 'The newsletter', 'plain', 'flocks'],
            ['history', 'History', 'page', 'lights'],
            ['press', 'For the press', 'plain', 'harbour'],
            ['contact', 'Contact', 'plain', 'harbour'],
            ['imprint', 'Imprint', 'plain', 'shore'],
            ['walks', 'Boat walks', 'page', 'maps'],
            ['species', 'Species guide', 'page', 'species'],
            ['library', 'The library', 'page', 'harbour'],
            ['pier', 'The pier', 'page', 'under'],
            ['volunteer', 'Volunteer', 'page', 'flocks'],
            ['schools', 'For schools', 'page', 'boats'],
        ];
        foreach ($plain as $n => [$slug, $title, $layout, $group]) {
            $id++;
            $w = $this->writer('page', $id, 'body');
            $body =
                $this->paragraph(2).$w->figure($m->of($group, $n), $m->of($group, $n)->title).$this->paragraph();
            $body .= '<h2>'.['What to see', 'Good to know', 'From the log'][$n % 3]."</h2>\n".$this->paragraph();
            $body .= match ($slug) {
                'boats' => $w->gallery(1),
                'pier' => $w->gallery(4).$w->film($m->of('films', 0), $m->of('under', 0)),
                'volunteer' => $w->gallery(3),
                'members' => $w->slot('members-drive'),
                'people' => implode(
                    '',
                    array_map(
                        fn (int $k): string => $w->aligned(
                            $m->of('people', $k),
                            $k % 2 ? 'right' : 'left',
                            $k % 5 === 3 ? 'absolute' : 'root',
                            160,
                        ),
                        range(0, 17),
                    ),
                ),
                'events' => implode(
                    '',
                    array_map(
                        fn (int $k): string => $w->linked($m->of('posters', $k), $k % 6 === 5 ? 'former' : 'root'),
                        range(0, 13),
                    ),
                ),
                'tides/tables' => implode(
                    '',
                    array_map(fn (int $k): string => $w->lazy($m->of('charts', $k)), range(6, 17)),
                )
                    .$w->paper($m->of('documents', 1), 'former')
                    .$w->paper($m->of('documents', 2))
                    .$w->paper($m->of('documents', 3), 'absolute'),
                'history' => $w->aligned($m->byPath('brand/korrin-logo-2014.png'), 'left')
                    .$w->figure($m->byPath('2016/mud flats.jpg'), 'The flats before the wall')
                    .'<img src="'
                    .$w->gone('founders.jpg')
                    .'" alt="The founders">'
                    .$w->aligned($m->byPath('2016/Möwe über dem Kai.jpg'), 'right', 'nfd')
                    .$w->aligned($m->byPath('2016/mud flats.jpg'), 'left', 'twice')
                    .$w->aligned($m->of('lights', 3), 'right', 'extension'),
                'schools' => $w->sound($m->of('sounds', 0)),
                'visit/getting-here' => $w->aligned($m->of('drawings', 1), 'left', 'root', 480)
                    .$w->aligned($m->of('drawings', 0), 'right', 'root', 240),
                'press' => $w->linked($m->byPath('brand/korrin-logo.png'), 'insecure')
                    .$w->linked($m->byPath('brand/korrin-logo-2014.png'), 'insecure'),
                '' => $w->chosen($m->of('huge', 0), $m->of('shore', 5)),
                default => $n % 3 === 0 ? $w->band($m->of('shore', $n + 6), 'See you at low water.') : '',
            };
            $extras =
                $n % 2 === 0
                    ? [
                        'hero' => [
                            'picture' => $this->writer('page', $id, 'extras')->address(
                                $m->of('shore', $n),
                                $m->of('shore', $n)->file(960),
                                $n % 6 === 4 ? 'former' : 'root',
                            ),
                            'strap' => 'Größe zählt nicht – tide by tide',
                        ],
                        'order' => $n,
                    ]
                    : null;
            $this->entry(
                $id,
                'page',
                $slug,
                $title,
                $body,
                $layout,
                $n % 4 === 1 ? $m->of('lights', intdiv($n, 4)) : null,
                extras: $extras,
            );
        }
        for ($n = 0; $n < 12; $n++) {
            $id++;
            $w = $this->writer('page', $id, 'body');
            $map = $m->of('maps', $n);
            $place = substr($map->label, strpos($map->label, ': ') + 2);
            $body =
                $this->paragraph()
                .$w->figure($map, 'The way is marked in red')
                .$w->aligned($m->of('shore', $n * 5), 'left', ['root', 'case', 'size', 'absolute'][$n % 4])
                .$this->paragraph(4)
                .($n % 3 === 0 ? $w->slot('walk-note') : '')
                .$w->aligned($m->of('boats', $n + 3), 'right')
                .$this->paragraph();
            $this->entry(
                $id,
                'page',
                'walks/'.Catalogue::slug($place),
                'Walk '.($n + 1).": $place",
                $body,
                'page',
                $m->of('shore', $n * 5 + 1),
            );
        }
        for ($n = 0; $n < 28; $n++) {
            $id++;
            $w = $this->writer('page', $id, 'body');
            $plate = $m->of('species', $n);
            $body =
                '<h2>'
                .$plate->title.
                "</h2>\n"
                .$w->figure($plate, "<em>{$plate->title}</em>, plate ".($n + 1))
                .$this->paragraph()
                .($n % 5 === 0 ? $w->slot('species-help') : '');
            $wb = $this->writer('page', $id, 'blocks');
            $blocks = [
                [
                    'type' => 'picture',
                    'picture' => $wb->id($m->of('under', $n)),
                    'words' => 'Below the pier, "'.($n + 1).'"',
                ],
                [
                    'type' => 'text',
                    'html' => '<p>Seen with: '
                        .$wb->aligned($m->of('species', $n + 7), 'left', $n % 7 === 2 ? 'former' : 'root', 160)
                        .'</p>',
                ],
            ];
            $this->entry(
                $id,
                'page',
                'species/'.Catalogue::slug($plate->title),
                $plate->title,
                $body,
                'page',
                null,
                $n === 26 ? 'draft' : ($n === 27 ? 'bin' : 'published'),
                blocks: $blocks,
            );
        }
    }

    private function posts(): void
    {
        $m = $this->media;
        $maren = $m->byPath('people/maren-oake.jpg');
        $old = $m->byPath('brand/korrin-logo-2014.png');
        for ($n = 0; $n < 144; $n++) {
            $id = 101 + $n;
            $w = $this->writer('post', $id, 'body');
            $age = $n < 60 ? 'old' : ($n < 100 ? 'middle' : 'new');
            $manner = match (true) {
                $age === 'old' && $n % 3 === 0 => 'former',
                $age === 'old' && $n % 7 === 1 => 'former-http',
                $n % 19 === 5 => 'case',
                $n % 17 === 3 => 'size',
                $n % 13 === 7 => 'absolute',
                $n % 23 === 9 => 'bare',
                default => 'root',
            };
            $one = $m->of(['shore', 'boats', 'birds', 'flocks', 'harbour', 'birds2'][$n % 6], $n);
            $two = $m->of(['birds', 'harbour', 'lights', 'shore', 'under'][$n % 5], $n + 3);
            $body = $this->paragraph(2);
            $body .=
                $age === 'new'
                    ? $w->figure($one, $one->title, $manner)
                    : $w->aligned($one, $n % 2 ? 'left' : 'right', $manner);
            $body .= $this->paragraph(4);
            $body .= match ($n % 4) {
                0 => $w->linked($two, $age === 'old' && $n % 8 === 0 ? 'former' : 'root'),
                1 => $age === 'new' ? $w->chosen($two, $one) : $w->aligned($two, 'right'),
                2 => $age === 'middle' ? $w->lazy($two) : '',
                default => '',
            };
            if ($n % 11 === 4) {
                $body .= "<blockquote>A quiet week, and all the better for it.</blockquote>\n";
            }
            if ($n % 6 === 2) {
                $body .=
                    '<div class="author"><img src="'
                    .$w->address($maren, $maren->square(), $n < 40 ? 'former' : ($n % 12 === 2 ? 'absolute' : 'root'))
                    .'" alt="Maren Oake" class="round" width="72" height="72"><p>Maren Oake counts birds and '
                    .'visitors.</p></div>'
                    ."\n";
            }
            if ($n % 15 === 6) {
                $body .= '<p class="sign">'.$w->aligned($old, 'left', $n % 2 ? 'root' : 'former', 160)."</p>\n";
            }
            if ($n % 16 === 8) {
                $body .=
                    '<p><img src="'.$w->foreign("$n-".$n % 5 .'.jpg')."\" alt=\"From a visitor's log\"></p>\n";
            }
            if ($n % 24 === 10) {
                $body .= '<img src="'.$w->gone("count-$n.jpg")."\" alt=\"The count board\">\n";
            }
            if ($n === 50) {
                $body .=
                    $w->aligned($m->byPath('2017/Sturmflut-März.jpg'), 'left')
                    .$w->aligned($m->byPath('2019/tea & talk (hall).jpg'), 'right');
            }
            if ($n === 51) {
                $body .=
                    $w->aligned($m->byPath('2015/open-day.jpg'), 'left')
                    .$w->aligned($m->byPath('2022/team.jpg'), 'left');
            }
            if ($n === 52) {
                $body .=
                    $w->aligned($m->byPath('2022/open-day.jpg'), 'left')
                    .$w->aligned($m->byPath('2015/sunset.jpg'), 'left', 'raw');
            }
            if ($n === 53) {
                $body .= $w->aligned($m->of('lights', 9), 'left', 'moved');
            }
            if ($n % 30 === 12) {
                $body .=
                    '<p class="full"><img src="'
                    .$w->address($m->of('huge', intdiv($n, 30)), $m->of('huge', intdiv($n, 30))->path)
                    ."\" alt=\"\" width=\"600\"></p>\n";
            }
            $state = match (true) {
                $n >= 136 && $n < 140 => 'draft',
                $n >= 140 && $n < 142 => 'bin',
                default => 'published',
            };
            // Pictures that only a draft, the bin or a past notice still holds.
            if ($state !== 'published') {
                $body .= $w->aligned($m->of('idle', $n - 136), 'left');
            }
            $extras =
                $n % 9 === 2
                    ? [
                        'card' => [
                            'html' => '<p>'
                                .$this->writer('post', $id, 'extras')->aligned(
                                    $m->of('flocks', $n),
                                    'left',
                                    $n % 18 === 2 ? 'former' : 'root',
                                )
                                .'Größe: ½</p>',
                        ],
                        'related' => [
                            $this->writer('post', $id, 'extras')->id($m->of('birds', $n)),
                            $this->writer('post', $id, 'extras')->id($m->of('shore', $n + 1)),
                        ],
                    ]
                    : null;
            if ($n % 6 === 2 && $n >= 6) {
                // The one before of its kind: by its full address now and then, in one by the address before the move.
                $root = match (true) {
                    $n === 14 => 'https://www.korrin-observatory.example/bay/',
                    $n % 4 === 0 => 'https://korrinbay.example/',
                    default => '/',
                };
                $before = 'journal/'.Catalogue::slug(self::postTitle($n - 6));
                $body .=
                    $n === 14
                        ? $w->lost("$root$before", 'The hide before this one', 'former-address', $before)
                        : "<p><a href=\"$root$before\">The hide before this one</a></p>\n";
            }
            $body .= $this->lostLinks($n, $w).$this->odd($n, $w);
            $featured = $n % 3 === 1 ? $m->of($n % 2 ? 'lights' : 'flocks', intdiv($n, 3)) : null;
            $title = self::postTitle($n);
            $this->entry(
                $id,
                'post',
                'journal/'.Catalogue::slug($title),
                $title,
                $body,
                'post',
                $featured,
                $state,
                $extras,
                published: $n >= 142 ? '2031-02-0'.($n - 139).' 09:00:00+00' : null,
                expires: $n >= 130 && $n < 133 ? '2024-12-31 23:59:00+00' : null,
            );
        }
    }

    /** Links to pages that moved, or that nobody finds any more. */
    private function lostLinks(int $n, FieldWriter $w): string
    {
        $former = 'https://www.korrin-observatory.example/bay/';
        $draft = 'species/'.Catalogue::slug($this->media->of('species', 26)->title);

        return match ($n) {
            20 => $w->lost('/journal/the-great-storm', 'The great storm', 'dead-link', null),
            21 => $w->lost('/visit/times#winter', 'When we are open', 'by-redirect', 'visit/opening-hours'),
            22 => $w->lost("{$former}old-hours?from=log", 'The hours', 'former-address', 'visit/opening-hours'),
            27 => $w->lost("/$draft", 'What it was', 'dead-link', null),
            28 => $w->lost('/shop', 'The shop', 'dead-link', null),
            33 => $w->lost("{$former}journal/harbour-letter/", 'The letter', 'dead-link', null),
            39 => $w->lost('/journal/storm-of-2014', 'That storm', 'by-redirect', 'history'),
            default => '',
        };
    }

    /** Pictures of other hosts that are no longer what they were, and one that lies in the text itself. */
    private function odd(int $n, FieldWriter $w): string
    {
        $names = ['slow.jpg', 'moved.jpg', 'page.jpg', 'script.svg', 'vast.png', 'new.jpg', 'round.jpg', 'away.jpg'];

        return match (true) {
            $n >= 70 && $n < 78 => '<p><img src="'
                .$w->foreign('odd/'.$names[$n - 70])
                ."\" alt=\"Seen elsewhere\"></p>\n",
            $n === 79 || $n === 80 => '<p><img src="'.$w->pasted()."\" alt=\"A sketch of the slipway\"></p>\n",
            default => '',
        };
    }

    private function redirects(): void
    {
        $rows = [
            ['/visit/times', '/visit/opening-hours', 301],
            ['/old-hours', '/visit/times', 301],
            ['/journal/storm-of-2014', '/history', 301],
            ['/tides/pdf', '/tides/tables', 302],
            ['/shop', '', 410],
            ['/friends', '/supporters', 301],
            ['/supporters', '/friends', 301],
            ['/summer-camp', '/schools/camp', 301],
        ];
        foreach ($rows as $i => [$from, $to, $code]) {
            $this->row('redirects', ['id' => $i + 1, 'old_path' => $from, 'new_path' => $to, 'code' => $code]);
        }
    }

    private static function postTitle(int $n): string
    {
        return sprintf(
            [
                'Bird count, week %d',
                'Log of the Petrel, trip %d',
                'From the hide, no. %d',
                'Notes on the ebb, %d',
                'Harbour letter %d',
                'Members\' evening %d',
            ][$n % 6],
            $n + 1,
        );
    }

    private function versions(): void
    {
        for ($n = 0; $n < 18; $n++) {
            $id = $n + 1;
            $w = $this->writer('version', $id, 'body');
            $this->row('revisions', [
                'id' => $id,
                'entry_id' => 101 + $n * 3,
                'made_at' => sprintf('2021-04-%02d 12:00:00+00', $n + 1),
                'body' => $this->paragraph(2)
                    .$w->aligned(
                        $n < 6 ? $this->media->of('idle', 7 + $n) : $this->media->of('shore', $n * 2),
                        'left',
                        $n % 4 === 0 ? 'former' : 'root',
                    ),
            ]);
        }
    }

    private function mediaRows(): void
    {
        // Rows whose files somebody deleted by hand.
        foreach (Catalogue::LOST as $n => $name) {
            $this->row('media', [
                'id' => 9001 + $n,
                'path' => "media/lost/$name.jpg",
                'title' => ucfirst(strtr($name, '-', ' ')),
                'alt' => '',
                'caption' => '',
                'credit' => '',
                'folder' => 'media/lost',
                'tags' => '[]',
                'width' => 1200,
                'height' => 800,
                'renditions' => '[]',
                'focus_x' => null,
                'focus_y' => null,
            ]);
        }
        foreach ($this->media->items as $item) {
            if (in_array($item->id, $this->media->groups['strays'], true)) {
                continue;
            }
            $list = [];
            foreach ($item->renditions as $path => [$w, $h]) {
                $list[] = ['path' => $path, 'width' => $w, 'height' => $h];
            }
            $this->row('media', [
                'id' => $item->id,
                'path' => $item->path,
                'title' => $item->title,
                'alt' => $item->alt,
                'caption' => $item->id % 5 === 0 ? $item->title.'.' : '',
                'credit' => $item->credit,
                'folder' => dirname($item->path),
                'tags' => json_encode($item->tags, JSON_THROW_ON_ERROR),
                'width' => $item->width === 0 ? null : $item->width,
                'height' => $item->height === 0 ? null : $item->height,
                'renditions' => json_encode(
                    $list,
                    JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE,
                ),
                'focus_x' => $item->motif === 'portrait' ? 0.5 : null,
                'focus_y' => $item->motif === 'portrait' ? 0.4 : null,
            ]);
        }
    }
}
