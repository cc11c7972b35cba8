<?php

declare(strict_types=1);

/*
 * A stand-in for an object store, in as much of the S3 API (2006-03-01) as files of a site need: put, get, head, copy,
 * delete and list, in a folder. It believes every signature that names its key.
 */

$folder = (string) getenv('S3_FOLDER');
$path = rawurldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH));
[$bucket, $key] = explode('/', ltrim($path, '/'), 2) + [1 => ''];
parse_str((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_QUERY), $asked);

$xml = static function (int $status, string $xml): never {
    http_response_code($status);
    header('Content-Type: application/xml');
    exit('<?xml version="1.0" encoding="UTF-8"?>'.$xml);
};
$wrong = static fn (int $status, string $code): never => $xml($status, "<Error><Code>$code</Code></Error>");

if (! str_contains((string) ($_SERVER['HTTP_AUTHORIZATION'] ?? ''), 'Credential='.getenv('S3_KEY').'/')) {
    $wrong(403, 'InvalidAccessKeyId');
}
if (! is_dir("$folder/$bucket") || str_contains("/$key/", '/../')) {
    $wrong(404, 'NoSuchBucket');
}
$file = "$folder/$bucket/$key";
$about = static function (string $file): void {
    header('ETag: "'.md5_file($file).'"');
    header('Last-Modified: '.gmdate('D, d M Y H:i:s', (int) filemtime($file)).' GMT');
    header('Content-Length: '.filesize($file));
};

if (isset($_SERVER['HTTP_X_AMZ_ACL'])) {
    // As buckets do whose policy alone decides.
    $wrong(400, 'AccessControlListNotSupported');
}
switch ($_SERVER['REQUEST_METHOD']) {
    case 'PUT':
        @mkdir(dirname($file), 0o777, true);
        $from = $_SERVER['HTTP_X_AMZ_COPY_SOURCE'] ?? null;
        if ($from !== null) {
            copy("$folder/".ltrim(rawurldecode((string) $from), '/'), $file) || $wrong(404, 'NoSuchKey');
            $xml(200, '<CopyObjectResult><ETag>"'.md5_file($file).'"</ETag></CopyObjectResult>');
        }
        file_put_contents($file, file_get_contents('php://input'));
        header('ETag: "'.md5_file($file).'"');
        exit;
    case 'HEAD':
    case 'GET':
        if ($key !== '' && is_file($file)) {
            $about($file);
            $_SERVER['REQUEST_METHOD'] === 'GET' && readfile($file);
            exit;
        }
        if ($key !== '' || $_SERVER['REQUEST_METHOD'] === 'HEAD') {
            $wrong(404, 'NoSuchKey');
        }
        $prefix = is_string($asked['prefix'] ?? null) ? $asked['prefix'] : '';
        $found = '';
        $all = new RecursiveIteratorIterator(
            new RecursiveDirectoryIterator("$folder/$bucket", FilesystemIterator::SKIP_DOTS),
        );
        foreach ($all as $one) {
            $name = substr((string) $one, strlen("$folder/$bucket/"));
            if (str_starts_with($name, $prefix)) {
                $at = gmdate('Y-m-d\TH:i:s.000\Z', $one->getMTime());
                $found .= '<Contents><Key>'.htmlspecialchars($name)."</Key><Size>{$one->getSize()}</Size>"
                    ."<LastModified>$at</LastModified></Contents>";
            }
        }
        $xml(200, "<ListBucketResult><IsTruncated>false</IsTruncated>$found</ListBucketResult>");
        // no break: it has ended
    case 'DELETE':
        @unlink($file);
        http_response_code(204);
        exit;
    default:
        $wrong(405, 'MethodNotAllowed');
}
