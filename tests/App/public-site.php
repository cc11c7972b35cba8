<?php

declare(strict_types=1);

/*
 * The demo's public site, its former address and a host that lends pictures, for tests: all on one port, told apart by
 * the host that is asked for. What is asked is noted down.
 */

$host = (string) strstr(($_SERVER['HTTP_HOST'] ?? '').':', ':', true);
$path = rawurldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH));
file_put_contents(
    (string) getenv('ASKED'),
    "{$_SERVER['REQUEST_METHOD']} $host$path ".($_SERVER['HTTP_IF_NONE_MATCH'] ?? '')."\n",
    FILE_APPEND | LOCK_EX,
);
$own = getenv('ANSWERS') ?: '';
if ($own !== '' && is_file($own) && (require $own) === true) {
    return;
}
if (str_starts_with($path, '/p/odd/')) {
    require __DIR__.'/../../vendor/autoload.php';
    (new Standin\Site\OddHost(getenv('DRAWN').'/foreign'))->answer(basename($path), '');

    return;
}
if ($host !== 'korrinbay.example') {
    $file = getenv('DRAWN').($host === 'pics.shorelog.example' ? '/foreign' : '/former').$path;
    if (! is_file($file)) {
        http_response_code($host === 'pics.shorelog.example' ? 404 : 410);

        return;
    }
    header('Content-Type: image/jpeg');
    header('ETag: "'.md5_file($file).'"');
    readfile($file);

    return;
}
if (str_starts_with($path, '/media/')) {
    $file = getenv('SITE').$path;
    if (! is_file($file)) {
        http_response_code(404);
    } else {
        header('Content-Length: '.filesize($file));
    }

    return;
}
require __DIR__.'/../../standin/public/index.php';
