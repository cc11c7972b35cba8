<?php

declare(strict_types=1);

/*
 * The front door of the demo's public site. Pictures and other files are served by the web server itself.
 *
 * GET   a page, from the cache where it still holds it
 * PURGE lets the cache forget one page; PURGE /* forgets all (from this machine only)
 */

use Standin\Site\PageCache;
use Standin\Site\PageRenderer;

require __DIR__.'/../../vendor/autoload.php';

$path = trim(rawurldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH)), '/');
$seconds = getenv('STANDIN_CACHE_SECONDS');
$cache = new PageCache((string) getenv('STANDIN_CACHE'), $seconds === false ? 600 : (int) $seconds);

if ($_SERVER['REQUEST_METHOD'] === 'PURGE') {
    $count = $path === '*' ? $cache->purgeAll() : (int) $cache->purge($path);
    header('Content-Type: text/plain');
    echo "purged $count\n";

    return;
}

$kept = $cache->get($path);
if ($kept === null) {
    try {
        $content = new PDO(
            (string) getenv('STANDIN_DSN'),
            (string) getenv('STANDIN_USER'),
            (string) getenv('STANDIN_PASSWORD'),
            [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
        );
        $renderer = new PageRenderer($content);
        $page = $renderer->render($path);
        $sentOn = $page === null ? $renderer->sentOn($path) : null;
    } catch (PDOException) {
        http_response_code(503);
        echo 'The site has lost its content database for the moment.';

        return;
    }
    if ($sentOn !== null && $sentOn[0] < 400) {
        http_response_code($sentOn[0]);
        header('Location: '.$sentOn[1]);

        return;
    }
    if ($page === null) {
        http_response_code($sentOn[0] ?? 404);
        header('Cache-Control: no-store');
        echo '<!DOCTYPE html><title>Not here</title><p>There is no such page at Korrin Bay.</p>';

        return;
    }
    $cache->put($path, $page[1], $page[2]);
    $kept = ['type' => $page[1], 'body' => $page[2], 'made' => time()];
    header('X-Cache: miss');
} else {
    header('X-Cache: hit');
}
$etag = '"'.hash('xxh128', $kept['body']).'"';
header('Content-Type: '.$kept['type']);
header('ETag: '.$etag);
header('Age: '.(time() - $kept['made']));
header('Cache-Control: public, max-age='.$cache->seconds);
if (($_SERVER['HTTP_IF_NONE_MATCH'] ?? '') === $etag) {
    http_response_code(304);

    return;
}
if ($_SERVER['REQUEST_METHOD'] !== 'HEAD') {
    echo $kept['body'];
}
