<?php

declare(strict_types=1);

/**
 * @param  list<string>  $arguments
 * @return array{int, string, string} exit code, standard output, standard error
 */
function ylema(array $arguments, string $input = ''): array
{
    $process = proc_open(
        [dirname(__DIR__, 2).'/bin/ylema', ...$arguments],
        [['pipe', 'r'], ['pipe', 'w'], ['pipe', 'w']],
        $pipes,
        null,
        ['PATH' => (string) getenv('PATH'), 'YLEMA_VAR' => '/nowhere'],
    );
    fwrite($pipes[0], $input);
    fclose($pipes[0]);
    $out = (string) stream_get_contents($pipes[1]);
    $error = (string) stream_get_contents($pipes[2]);

    return [proc_close($process), $out, $error];
}

it('lists references of a text from a pipe, without database or framework', function (): void {
    expect(ylema(['refs', '-'], "<p>\n<img src=\"/a&amp;b,c.jpg\">"))->toBe([
        0,
        "14,14,\"/a&amp;b,c.jpg\",\"/a&b,c.jpg\",img[src],html,2,11,always\n",
        '',
    ]);
    [$code, $out] = ylema(
        ['refs', '-', '--ndjson', '--notation=css', '--base=https://x.example/styles/a.css'],
        'a{b:url(../c.png)}',
    );
    expect($code)
        ->toBe(0)
        ->and(json_decode($out, true))
        ->toBe([
            'start' => 8,
            'length' => 8,
            'raw' => '../c.png',
            'value' => 'https://x.example/c.png',
            'role' => 'css url',
            'layers' => 'css',
            'line' => 1,
            'column' => 9,
            'fetch' => 'on-condition',
        ]);
    expect(ylema(['refs', '-'], 'plain')[0])->toBe(1);
});

it('takes the notation from the name of the file', function (): void {
    $folder = sys_get_temp_dir().'/ylema-'.bin2hex(random_bytes(4));
    mkdir($folder);
    foreach (
        [
            'a.css' => ['b{c:url(/media/x.png)}', 'css url'],
            'a.md' => ['![x](/media/x.png)', 'image'],
            'a.svg' => ['<svg><image href="/media/x.png"/></svg>', 'image[href]'],
            'a.json' => ['["/media/x.png"]', 'url'],
            'a.php' => ['<img src="/media/x.png">', 'img[src]'],
        ] as $name => [$text, $role]
    ) {
        file_put_contents("$folder/$name", $text);
        expect(explode(',', ylema(['refs', "$folder/$name"])[1])[4])->toBe($role);
        unlink("$folder/$name");
    }
    rmdir($folder);
});

it('rewrites values, compared after decoding, and nothing else', function (): void {
    $text = "<IMG src='/a&amp;b.jpg'  class=x>\r\n<p style=\"background:url(/a&#38;b.jpg)\">";
    expect(ylema(['rewrite', '-', '--from=/a&b.jpg', '--to=/c.jpg'], $text))
        ->toBe([0, "<IMG src='/c.jpg'  class=x>\r\n<p style=\"background:url(/c.jpg)\">", ''])
        ->and(ylema(['rewrite', '-', '--from=/a&b.jpg', '--count'], $text))
        ->toBe([0, "2\n", ''])
        ->and(ylema(['rewrite', '-', '--from=/none', '--to=/c.jpg'], $text))
        ->toBe([1, $text, '']);
    $serialized = serialize(['/media/a.jpg', serialize(['/media/a.jpg'])]);
    expect(
        unserialize(
            ylema(
                ['rewrite', '-', '--notation=php-serialized', '--from=/media/a.jpg', '--to=/media/longer.jpg'],
                $serialized,
            )[1],
        ),
    )->toBe(['/media/longer.jpg', serialize(['/media/longer.jpg'])]);
});

it('says what is wrong with a call', function (array $arguments, string $says): void {
    [$code, $out, $error] = ylema($arguments);
    expect([$code, $out])
        ->toBe([2, ''])
        ->and($error)
        ->toContain($says);
})->with([
    [['refs'], 'Name a file'],
    [['refs', '/nowhere/x'], 'cannot be read'],
    [['refs', '-', '--notation=doc'], 'one of html, css'],
    [['rewrite', '-', '--from=a'], 'needs its --to'],
    [['refs', '-', '--nope'], 'not understood'],
]);
