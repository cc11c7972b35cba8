<?php

declare(strict_types=1);

namespace Standin\Content;

/** All media items of the demo, the same ones each time. */
final class Catalogue
{
    private const PLACES = [
        'Gull Skerry',
        'North Sands',
        'Old Slipway',
        'Tern Spit',
        'Lantern Point',
        'Wrack Cove',
        'Pilot Steps',
        'Ebb Pool',
        'Harrow Reef',
        'Saltmarsh Gate',
        'Bell Rock',
        'Curlew Flats',
    ];

    private const MOODS = [
        'at first light',
        'after the storm',
        'at low water',
        'in late summer',
        'on a grey noon',
        'under a half moon',
        'before the fog',
        'at spring tide',
        'in April',
        'on a calm evening',
    ];

    private const BIRDS = [
        'Ringed plover',
        'Curlew',
        'Redshank',
        'Oystercatcher',
        'Dunlin',
        'Turnstone',
        'Sanderling',
        'Bar-tailed godwit',
        'Common sandpiper',
        'Whimbrel',
        'Grey heron',
        'Kittiwake',
        'Sandwich tern',
        'Eider',
        'Knot',
        'Greenshank',
    ];

    private const SPECIES = [
        'Knotted wrack',
        'Sugar kelp',
        'Sea oak',
        'Dulse',
        'Common starfish',
        'Sunstar',
        'Brittle star',
        'Shore crab',
        'Edible crab',
        'Velvet crab',
        'King scallop',
        'Queen scallop',
        'Cockle',
        'Dog whelk',
        'Corkwing wrasse',
        'Shanny',
        'Butterfish',
        'Sea bass',
        'Grey mullet',
        'Thongweed',
        'Bladder wrack',
        'Oarweed',
        'Cushion star',
        'Hermit crab',
        'Razor clam',
        'Limpet',
        'Goldsinny',
        'Pollack',
    ];

    private const PEOPLE = [
        'Maren Oake',
        'Tobin Vale',
        'Isla Ferrant',
        'Henning Brae',
        'Priya Sandell',
        'Callum Wherry',
        'Odile Marsh',
        'Jonas Tarn',
        'Fenella Quay',
        'Amadou Reeve',
        'Lise Holm',
        'Gareth Combe',
        'Nadia Strand',
        'Ewan Pike',
        'Suri Dell',
        'Tomas Weir',
        'Ada Lorne',
        'Bram Skell',
    ];

    private const SPONSORS = [
        'Quayside Chandlery',
        'Lantern Bakery',
        'Wrack & Rope',
        'Pilot Coffee',
        'Bay Cycle Hire',
        'Seal Rock Inn',
        'Korrin Books',
        'Ebb Yoga',
        'Tern Travel',
        'Drift Pottery',
        'Old Net Loft',
        'Harbour Ices',
        'Spindrift Sails',
        'Saltbox Homes',
        'Gannet Ferries',
        'Marsh Garden',
        'Compass Optics',
        'Blue Door Gallery',
        'Kelp Kitchen',
        'Fathom Diving',
        'Low Tide Radio',
        'Anchor Bank',
        'Reed Thatchers',
        'Bell Buoy Cafe',
    ];

    private const EVENTS = [
        'Night of the Lanterns',
        'Rockpool Ramble',
        'Big Bird Count',
        'Harbour Open Day',
        'Moon and Tide Talk',
        'Seaweed Supper',
        'Knots for Beginners',
        'Winter Wader Walk',
        'Beach Clean Sunday',
        'Fog Horn Concert',
        'Junior Tide Club',
        'Herring Feast',
    ];

    /** Widths of the renditions that the site made at each upload, whether asked for or not. */
    private const WIDTHS = [160, 480, 960];

    /** Rows whose files somebody deleted by hand. */
    public const LOST = ['founders-day', 'old-slipway-plan'];

    /** @var array<int, MediaItem> */
    public array $items = [];

    /** @var array<string, list<int>> role in the scenario → ids */
    public array $groups = [];

    public function __construct()
    {
        $years = ['2014', '2015', '2016', '2017', '2019', '2020', '2022', '2023', '2024'];
        for ($i = 0; $i < 60; $i++) {
            $place = self::PLACES[$i % 12];
            $mood = self::MOODS[($i * 7) % 10];
            $this->add(
                'shore',
                $years[$i % 9].'/'.self::slug("$place $mood").'.jpg',
                'shore',
                1200,
                800,
                "$place $mood",
                "The shore at $place $mood",
                tags: ['shore', self::slug($place)],
            );
        }
        for ($i = 0; $i < 36; $i++) {
            $name = ['The Petrel', 'Kittiwake II', 'Sea Thrift', 'Old Margit', 'The Sandpiper', 'Brightwater'][$i % 6];
            $this->add(
                'boats',
                'boats/'.self::slug($name).'-'.($i + 1).'.jpg',
                'boat',
                1200,
                800,
                "$name, trip ".($i + 1),
                "$name under sail in the bay",
                tags: ['boats'],
            );
        }
        foreach (self::BIRDS as $i => $bird) {
            $this->add(
                'birds',
                'birds/'.self::slug($bird).'.jpg',
                'bird',
                1000,
                750,
                $bird,
                "$bird standing among reeds",
                credit: self::PEOPLE[$i % 6],
                tags: ['birds'],
            );
            if ($i < 14) {
                $this->add(
                    'birds2',
                    $years[$i % 9].'/'.self::slug($bird).'-count.webp',
                    'bird',
                    1000,
                    750,
                    "$bird, count day",
                    "$bird during the count",
                    tags: ['birds', 'count'],
                );
            }
        }
        for ($i = 0; $i < 16; $i++) {
            $this->add(
                'flocks',
                'birds/flock-'.sprintf('%02d', $i + 1).'.jpg',
                'flock',
                1200,
                675,
                'Waders in flight '.($i + 1),
                'A flock of waders over the bay',
                tags: ['birds'],
            );
        }
        foreach (self::SPECIES as $i => $name) {
            $this->add(
                'species',
                'species/'.self::slug($name).'.png',
                'species',
                900,
                675,
                $name,
                "$name, drawn from a specimen",
                $name,
                tags: ['species'],
            );
        }
        foreach (self::PEOPLE as $i => $name) {
            $this->add(
                'people',
                'people/'.self::slug($name).'.jpg',
                'portrait',
                800,
                800,
                $name,
                "Portrait of $name",
                tags: ['people'],
                seed: 509 + $i * 3,
            );
        }
        for ($i = 0; $i < 18; $i++) {
            $month = [
                'January',
                'February',
                'March',
                'April',
                'May',
                'June',
                'July',
                'August',
                'September',
                'October',
                'November',
                'December',
            ][$i % 12];
            $year = 2023 + intdiv($i, 12);
            $this->add(
                'charts',
                'charts/tides-'.$year.'-'.sprintf('%02d', ($i % 12) + 1).'.png',
                'chart',
                1200,
                720,
                "Tide curve $month $year",
                "Curve of high and low water in $month $year",
                "$month $year",
                tags: ['tides'],
            );
        }
        foreach (self::PLACES as $i => $place) {
            $this->add(
                'maps',
                'maps/walk-'.($i + 1).'-'.self::slug($place).'.png',
                'map',
                1100,
                800,
                'Map of walk '.($i + 1),
                "Map of the walk to $place",
                'Walk '.($i + 1).": $place",
                tags: ['walks'],
            );
        }
        for ($i = 0; $i < 20; $i++) {
            $event = self::EVENTS[$i % 12];
            $this->add(
                'posters',
                'events/'.self::slug($event).'-'.(2021 + intdiv($i, 12)).'.jpg',
                'poster',
                800,
                1100,
                "$event ".(2021 + intdiv($i, 12)),
                "Poster for $event",
                $event,
                tags: ['events'],
            );
        }
        foreach (self::SPONSORS as $i => $sponsor) {
            [$w, $h] = $i % 3 === 2 ? [600, 300] : [1200, 240];
            $this->add(
                'sponsors',
                'banners/'.self::slug($sponsor).'.jpg',
                'sponsor',
                $w,
                $h,
                "Banner $sponsor",
                $sponsor,
                $sponsor,
                tags: ['banners'],
            );
        }
        for ($i = 0; $i < 18; $i++) {
            $this->add(
                'harbour',
                $years[$i % 9].'/harbour-'.($i + 1).'.jpg',
                'harbour',
                1200,
                800,
                'The harbour row '.($i + 1),
                'Painted houses along the harbour',
                tags: ['harbour'],
            );
        }
        for ($i = 0; $i < 12; $i++) {
            $this->add(
                'under',
                'species/below-'.($i + 1).'.jpg',
                'underwater',
                1200,
                800,
                'Below the pier '.($i + 1),
                'Fish between the kelp below the pier',
                tags: ['species'],
            );
        }
        for ($i = 0; $i < 10; $i++) {
            $this->add(
                'lights',
                $years[$i % 9].'/lantern-point-light-'.($i + 1).'.jpg',
                'lighthouse',
                1200,
                900,
                'The light at Lantern Point '.($i + 1),
                'The striped lighthouse at Lantern Point',
                tags: ['lighthouse'],
            );
        }
        // The brand: the logo of now, those of before, and the small signs.
        $this->add(
            'brand',
            'brand/korrin-logo.png',
            'logo',
            960,
            240,
            'Korrin Bay logo',
            'Korrin Bay Tidewater Observatory',
            seed: 4,
        );
        $this->add(
            'brand',
            'brand/korrin-logo-2014.png',
            'logo',
            960,
            240,
            'Korrin Bay logo of 2014',
            'Korrin Bay Tidewater Observatory',
            seed: 2,
        );
        $this->add(
            'brand',
            'brand/korrin-mark.png',
            'logo',
            512,
            512,
            'Korrin Bay mark',
            'The mark of the observatory',
            seed: 4,
        );
        $this->add('brand', 'brand/favicon.png', 'icon', 64, 64, 'Tab icon', '', seed: 9);
        for ($i = 0; $i < 8; $i++) {
            $this->add('icons', 'brand/icon-'.($i + 1).'.png', 'icon', 48, 48, 'Sign '.($i + 1), '');
        }
        for ($i = 0; $i < 5; $i++) {
            $this->add('textures', 'style/paper-'.($i + 1).'.png', 'texture', 1600, 900, 'Paper '.($i + 1), '');
        }
        // Far larger than any box of the site shows them.
        for ($i = 0; $i < 8; $i++) {
            $this->add(
                'huge',
                '2024/IMG_'.(4410 + $i * 3).'.jpg',
                ['shore', 'boat', 'harbour', 'lighthouse'][$i % 4],
                4200,
                2800,
                'IMG '.(4410 + $i * 3),
                '',
                tags: ['unsorted'],
            );
        }
        // Names that servers and people spell in several ways.
        $this->add('odd', '2016/mud flats.jpg', 'shore', 1200, 800, 'Mud flats', 'The mud flats at low water');
        $this->add(
            'odd',
            '2016/Möwe über dem Kai.jpg',
            'flock',
            1200,
            675,
            'Gulls over the quay',
            'Gulls over the quay',
        );
        $this->add(
            'odd',
            '2017/Sturmflut-März.jpg',
            'lighthouse',
            1200,
            900,
            'Storm tide in March',
            'Waves at the foot of the light',
        );
        $this->add('odd', '2019/tea & talk (hall).jpg', 'harbour', 1200, 800, 'Tea and talk', 'The hall on the quay');
        // The same file name in two folders.
        foreach (['2015', '2022'] as $year) {
            $this->add(
                'twins',
                "$year/open-day.jpg",
                'harbour',
                1200,
                800,
                "Open day $year",
                "Visitors on the open day of $year",
            );
            $this->add(
                'twins',
                "$year/team.jpg",
                'boat',
                1200,
                800,
                "The team $year",
                "The team of $year on the Petrel",
            );
            $this->add('twins', "$year/sunset.jpg", 'shore', 1200, 800, "Sunset $year", 'Sunset over the bay');
        }
        // Exact and near duplicates.
        foreach (array_slice($this->groups['shore'], 0, 5) as $n => $id) {
            $this->add(
                'copies',
                'archive/copy-of-'.basename($this->items[$id]->path),
                'shore',
                1200,
                800,
                'Copy of '.$this->items[$id]->title,
                '',
                copyOf: $id,
            );
        }
        foreach (array_slice($this->groups['boats'], 0, 5) as $n => $id) {
            $this->add(
                'recoded',
                'archive/'.pathinfo($this->items[$id]->path, PATHINFO_FILENAME).'-small-version.jpg',
                'boat',
                900,
                600,
                $this->items[$id]->title.' (small)',
                '',
                copyOf: $id,
                recoded: true,
            );
        }
        // What is no picture: tide tables to print, drawings, a film, a sound.
        foreach (['2022', '2023', '2024', '2025'] as $year) {
            $this->add(
                'documents',
                "documents/tide-table-$year.pdf",
                'document',
                0,
                0,
                "Tide table $year",
                '',
                "Tide table $year",
                tags: ['tides', 'print'],
            );
        }
        $this->add(
            'drawings',
            'brand/tide-mark.svg',
            'drawing',
            240,
            120,
            'Tide mark',
            'A wave over the words Korrin Bay',
            tags: ['brand'],
        );
        $this->add(
            'drawings',
            'maps/pier-plan.svg',
            'drawing',
            480,
            240,
            'Plan of the pier',
            'The pier seen from above',
            tags: ['maps'],
        );
        $this->add('films', 'films/flood-tide.webm', 'film', 0, 0, 'The flood tide', '', tags: ['film']);
        $this->add('sounds', 'sounds/bell-buoy.wav', 'sound', 0, 0, 'The bell buoy', '', tags: ['sound']);
        // Never used by anything.
        for ($i = 0; $i < 14; $i++) {
            $this->add(
                'idle',
                'archive/unsorted-'.sprintf('%02d', $i + 1).'.jpg',
                self::pickMotif($i),
                1200,
                800,
                'Unsorted '.($i + 1),
                '',
                tags: ['unsorted'],
            );
        }
        // Left over: what they are needed for, if anything, stands in no record.
        for ($i = 0; $i < 12; $i++) {
            $this->add(
                'left',
                'archive/left-'.sprintf('%02d', $i + 1).'.jpg',
                self::pickMotif($i + 3),
                600,
                400,
                'Left over '.($i + 1),
                '',
                tags: ['unsorted'],
            );
        }
        // Parts of others, cut out and made smaller.
        foreach (array_slice($this->groups['harbour'], 0, 3) as $id) {
            $this->add(
                'crops',
                'archive/'.pathinfo($this->items[$id]->path, PATHINFO_FILENAME).'-cut.jpg',
                'harbour',
                480,
                480,
                $this->items[$id]->title.' (cut)',
                '',
                copyOf: $id,
                cut: true,
            );
        }
        // Sent by hand, past the site's own list.
        for ($i = 0; $i < 3; $i++) {
            $this->add('strays', 'loose/stray-'.($i + 1).'.jpg', self::pickMotif($i), 600, 400, '', '');
        }
    }

    public static function slug(string $words): string
    {
        return trim(preg_replace('~[^a-z0-9]+~', '-', strtolower($words)) ?? '', '-');
    }

    public function byPath(string $path): MediaItem
    {
        foreach ($this->items as $item) {
            if ($item->path === "media/$path") {
                return $item;
            }
        }

        throw new \LogicException("No item lies at media/$path.");
    }

    /** The $n-th item of a group, counted round. */
    public function of(string $group, int $n): MediaItem
    {
        $ids = $this->groups[$group];

        return $this->items[$ids[$n % count($ids)]];
    }

    private static function pickMotif(int $i): string
    {
        return ['harbour', 'underwater', 'flock', 'shore', 'lighthouse', 'boat'][$i % 6];
    }

    /** @param  list<string>  $tags */
    private function add(
        string $group,
        string $path,
        string $motif,
        int $width,
        int $height,
        string $title,
        string $alt,
        string $label = '',
        string $credit = '',
        array $tags = [],
        ?int $seed = null,
        ?int $copyOf = null,
        bool $recoded = false,
        bool $cut = false,
    ): void {
        $id = count($this->items) + 1;
        $item = new MediaItem(
            $id,
            "media/$path",
            $motif,
            $seed ?? 1000 + $id * 17,
            $width,
            $height,
            $title,
            $alt,
            $label,
            $credit,
            $tags,
            $copyOf,
            $recoded,
            $cut,
        );
        $name = substr($item->path, 0, (int) strrpos($item->path, '.'));
        if (
            ! in_array($group, ['icons', 'textures', 'copies', 'recoded', 'drawings', 'crops', 'strays'], true)
            && $width > 100
        ) {
            foreach (self::WIDTHS as $w) {
                if ($w < $width) {
                    $h = (int) round(($height * $w) / $width);
                    $item->renditions["$name.w$w.".$item->extension()] = [$w, $h];
                }
            }
            $item->renditions["$name.w150.".$item->extension()] = [150, 150];
        }
        $this->items[$id] = $item;
        $this->groups[$group][] = $id;
    }
}
