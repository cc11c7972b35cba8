<?php

declare(strict_types=1);

namespace Tests\App\Connect;

/** A shop with habits of its own: words run together, ids that are words, whole addresses, pairs of type and id. */
final class Shop extends ForeignSite
{
    private const TABLES = [
        'assets (uuid varchar(36) primary key, storagePath varchar(200), mimeType varchar(50), altText varchar(100))',
        'asset_variants (id integer primary key, assetUuid varchar(36), width int, filename varchar(200))',
        'articles (id integer primary key, slug varchar(100), heading varchar(100), leadImageUrl varchar(300), '.
        'htmlContent text, publishedOn date, isPublished boolean)',
        'homepage_blocks (id integer primary key, position int, blockType varchar(20), payload text)',
        'site_options (option_key varchar(60) primary key, option_value text)',
        'products (id integer primary key, name varchar(60), urlKey varchar(60), descriptionHtml text, '.
        'primaryAssetId varchar(36), deletedAt datetime)',
        'product_images (productId int, assetId varchar(36), sortOrder int, primary key (productId, assetId))',
        'testimonials (id integer primary key, quote text, authorPhoto varchar(100), productId int)',
        'navigation (id integer primary key, parentId int, label varchar(60), url varchar(200), iconUrl varchar(200))',
        'popups (id integer primary key, html text, startDate date, endDate date, enabled int)',
        'attachments (id integer primary key, ownerType varchar(20), ownerId int, filePath varchar(200))',
        'page_views (id integer primary key, url varchar(200), at datetime)',
    ];

    protected function write(): void
    {
        foreach (self::TABLES as $table) {
            $this->pdo->exec("create table $table");
        }
        $ids = $paths = $small = [];
        foreach (range(1, 60) as $n) {
            $ids[$n] = sprintf('%08x-aaaa-4bbb-8ccc-%012x', crc32("asset $n"), $n);
            $paths[$n] = $this->file('uploads/'.(2015 + ($n % 8))."/photo_$n.jpg");
            $small[$n] = $this->file('uploads/cache/'.md5("small $n").'.jpg');
            $this->add('assets', [$ids[$n], $paths[$n], 'image/jpeg', "Alt $n"]);
            $this->add('asset_variants', [$n, $ids[$n], 200, $small[$n]]);
        }
        foreach (range(1, 30) as $n) {
            [$lead, $other] = [($n % 50) + 1, (($n * 3) % 60) + 1];
            $html = "<p>text [gallery ids=\"$ids[$other],$ids[$lead]\"]</p><img src='/$small[$lead]' alt=''>";
            $whole = $n % 3 === 0 ? null : "https://www.shop.example/$paths[$lead]";
            $this->add('articles', [
                $n,
                "article-$n",
                "Article $n",
                $whole,
                $html,
                '2020-01-09',
                $n % 10 === 0 ? 0 : 1,
            ]);
            $this->uses('articles', $n, 'htmlContent', $paths[$other], $paths[$lead], $paths[$lead]);
            $this->uses('articles', $n, 'leadImageUrl', ...$whole === null ? [] : [$paths[$lead]]);
        }
        foreach (range(1, 12) as $n) {
            $own = (($n * 4) % 60) + 1;
            $this->add('products', [
                $n,
                "Product $n",
                "p-$n",
                "<img src=\"/$small[$own]\">",
                $ids[$own],
                $n === 7 ? '2022-02-02' : null,
            ]);
            $this->uses('products', $n, 'descriptionHtml', $paths[$own]);
            $this->uses('products', $n, 'primaryAssetId', $paths[$own]);
            $placed = (($n * 5) % 60) + 1;
            $this->add('product_images', [$n, $ids[$placed], 1]);
            $this->uses('product_images', "$n/$ids[$placed]", 'assetId', $paths[$placed]);
            $photo = $this->file("uploads/team/p$n.jpg");
            $this->add('testimonials', [$n, 'Good', "team/p$n.jpg", $n]);
            $this->uses('testimonials', $n, 'authorPhoto', $photo);
            $sheet = $this->file("uploads/docs/d$n.pdf");
            $this->add('attachments', [$n, $n % 2 === 0 ? 'product' : 'article', $n, "/$sheet"]);
            $this->uses('attachments', $n, 'filePath', $sheet);
            $this->add('page_views', [$n, "/articles/article-$n", '2024-01-01']);
        }
        foreach (
            [
                ['hero', ['heroImage' => $ids[51], 'title' => 'Hi'], 51],
                ['gallery', ['images' => [$ids[52], $ids[53]]], 52, 53],
                ['promo', ['background' => "/$paths[54]", 'link' => '/products/p-1'], 54],
            ] as $n => [$type, $payload]
        ) {
            $this->add('homepage_blocks', [$n + 1, $n, $type, (string) json_encode($payload)]);
        }
        $this->uses('homepage_blocks', 1, 'payload', $paths[51]);
        $this->uses('homepage_blocks', 2, 'payload', $paths[52], $paths[53]);
        $this->uses('homepage_blocks', 3, 'payload', $paths[54]);
        $theme = (string) json_encode(['headerImage' => $ids[57], 'cols' => 3]);
        $options = [
            'logo_asset' => [$ids[55], 55],
            'footer_html' => ["<img src=\"/$paths[56]\">", 56],
            'theme_json' => [$theme, 57],
        ];
        foreach ($options as $name => [$value, $n]) {
            $this->add('site_options', [$name, $value]);
            $this->uses('site_options', $name, 'option_value', $paths[$n]);
        }
        $this->add('navigation', [1, null, 'Home', '/articles/article-1', '/'.$this->file('uploads/nav/home.png')]);
        $this->uses('navigation', 1, 'iconUrl', 'uploads/nav/home.png');
        $this->add('popups', [
            1,
            "<div style=\"background-image:url('/$paths[58]')\">x</div>",
            '2020-01-01',
            '2090-01-01',
            1,
        ]);
        $this->uses('popups', 1, 'html', $paths[58]);
    }
}
