<?php

declare(strict_types=1);

/*
 * The public site of the quarry: pages below pages in two languages, news by their numbers.
 */

$pdo = new PDO('sqlite:'.getenv('QUARRY'));
$address = (array) parse_url((string) $_SERVER['REQUEST_URI']);
$path = trim((string) ($address['path'] ?? ''), '/');
parse_str((string) ($address['query'] ?? ''), $asked);

$page = static function (string $title, string $body) use ($pdo): never {
    $ways = '<a href="/news.php">News</a>';
    foreach ($pdo->query('select link_en, head_en, link_cy, head_cy from sq_content where up_id = 0') as $top) {
        $ways .= "<a href=\"/en/$top[0]\">$top[1]</a><a href=\"/cy/$top[2]\">$top[3]</a>";
    }
    header('Content-Type: text/html; charset=utf-8');
    echo "<!DOCTYPE html><title>$title</title>$ways<h1>$title</h1>$body";
    exit();
};

if ($path === '') {
    $page('Slate Quarry', 'Welcome');
}
if ($path === 'news.php') {
    $items = $pdo->query("select nid, headline, body from sq_news where live = 'J'")->fetchAll(PDO::FETCH_UNIQUE);
    $item = $items[(int) ($asked['item'] ?? 0)] ?? null;
    if ($item !== null) {
        $page($item['headline'], $item['body']);
    }
    if (! isset($asked['item'])) {
        $list = '';
        foreach ($items as $id => $own) {
            $list .= "<a href=\"news.php?item=$id\">$own[headline]</a>";
        }
        $page('News', $list);
    }
}
if (preg_match('~^(en|cy)/(.+)$~', $path, $found) === 1) {
    $row = ['cid' => 0];
    foreach (explode('/', $found[2]) as $name) {
        $select = $pdo->prepare(
            "select * from sq_content where link_$found[1] = ? and up_id = ? and hidden = 0 and status in (4, 5)",
        );
        $select->execute([$name, $row['cid'] ?? -1]);
        $row = $select->fetch() ?: [];
    }
    if (isset($row["txt_$found[1]"])) {
        $body = $row["txt_$found[1]"];
        foreach ($pdo->query("select * from sq_content where up_id = $row[cid]") as $below) {
            $body .= "<a href=\"/$path/{$below["link_$found[1]"]}\">{$below["head_$found[1]"]}</a>";
        }
        $page($row["head_$found[1]"], $body);
    }
}
http_response_code(404);
echo 'There is nothing here.';
