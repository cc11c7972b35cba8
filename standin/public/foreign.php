<?php

declare(strict_types=1);

/*
 * A host that lends pictures, as such hosts are: one is slow, one sends on, one gives out a page, one is far too large,
 * one is another picture than it was last month.
 */

use Standin\Site\OddHost;

require __DIR__.'/../../vendor/autoload.php';

(new OddHost((string) $_SERVER['FOREIGN']))->answer(
    basename(rawurldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH))),
    (string) ($_SERVER['QUERY_STRING'] ?? ''),
);
