<?php

declare(strict_types=1);

arch('core knows no framework, no application, no stand-in and no parser of others')
    ->expect('Ylema')
    ->not->toUse(['Illuminate', 'App', 'Standin', 'Laravel', 'Symfony', 'GuzzleHttp', 'League', 'Psr', 'Carbon']);

arch('core does no input or output')
    ->expect('Ylema')
    ->not->toUse([
        'PDO', 'PDOException', 'SplFileObject', 'DirectoryIterator', 'curl_init', 'fopen', 'file', 'file_get_contents', 'file_put_contents', 'readfile',
        'is_file', 'is_dir', 'unlink', 'rename', 'mkdir', 'glob', 'scandir', 'getenv', 'putenv', 'exec', 'shell_exec', 'proc_open', 'header', 'setcookie',
        'time', 'microtime', 'date', 'rand', 'mt_rand', 'random_int', 'echo', 'print_r', 'var_dump', 'sleep', 'usleep', 'imagecreatefromstring',
    ]);

arch('core is made of final classes')
    ->expect('Ylema')
    ->classes()
    ->toBeFinal();

arch('core is strict')
    ->expect('Ylema')
    ->toUseStrictTypes();

it('holds no globals and no setters', function (): void {
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(__DIR__.'/../../core', FilesystemIterator::SKIP_DOTS)) as $file) {
        $code = (string) file_get_contents((string) $file);
        expect(preg_match('~\$GLOBALS|\$_(?:GET|POST|SERVER|ENV|COOKIE|SESSION)\b|\bglobal \$|function set[A-Z]|eval\(~', $code))->toBe(0, (string) $file);
    }
});
