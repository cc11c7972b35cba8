<?php

declare(strict_types=1);

use Standin\Mill\MillPages;

require __DIR__.'/../../vendor/autoload.php';

/*
 * The public site of the mill, for PHP's own server: MILL_DSN, MILL_USER and MILL_PASSWORD say where its tables are,
 * MILL_FOLDER where its files lie.
 */
$path = rawurldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH));
$file = getenv('MILL_FOLDER').$path;
if (str_starts_with($path, '/files/') && is_file($file)) {
    header('Content-Type: image/'.(str_ends_with($file, '.png') ? 'png' : 'jpeg'));
    readfile($file);

    return;
}
$pdo = new PDO(
    getenv('MILL_DSN').';charset=utf8mb4',
    (string) getenv('MILL_USER'),
    (string) getenv('MILL_PASSWORD'),
    [
        PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION,
    ],
);
[$status, $markup] = (new MillPages($pdo))->render($path);
http_response_code($status);
header('Content-Type: text/html; charset=utf-8');
echo $markup;
