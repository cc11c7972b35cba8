<?php

declare(strict_types=1);

use Ylema\Change\Rewriter;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

function script(string $text, Notation $notation = Notation::JavaScript): Reading
{
    return (new FieldReader())->read($text, $notation, new Rules(mediaFolders: ['/media/']));
}

it('reads what a script says in strings', function (string $script, array $found, int $problems = 0): void {
    $reading = script($script);
    $said = array_map(static fn (Reference $r): string => "{$r->role} {$r->value}", $reading->references);
    expect($said)->toBe($found)->and($reading->problems)->toHaveCount($problems);
    foreach ($reading->references as $reference) {
        expect($reference->fetch->value)->not->toBe('always');
    }
})->with([
    'a style' => ['bar.style.cssText = "color: red; background: url(/media/a.jpg)"', ['css url /media/a.jpg']],
    'a property' => ["pane.style.backgroundImage = 'url(\"pier.png\")'", ['css url pier.png']],
    'properties of a call' => ["tint({'background-image': 'url(../a.webp)'})", ['css url ../a.webp']],
    'a set' => ["x = 'image-set(\"/media/a.avif\" 1x)'", ['css image-set /media/a.avif']],
    'json' => ['JSON.parse("[{\"big\":\"\\/media\\/a.jpg\"}]")', ['url /media/a.jpg']],
    'serialized text in json' => ["x = '{\"s\":\"s:12:\\\\\"/media/a.jpg\\\\\";\"}'", ['url /media/a.jpg']],
    'a list' => ["x = '/media/a.jpg;/media/b.jpg'", ['script /media/a.jpg', 'script /media/b.jpg']],
    'prose' => ["x = '![Pier](/media/a.jpg)'", ['image /media/a.jpg']],
    'an element of its own' => ['x = "<tide-map src=\'/media/a.jpg\'></tide-map>"', ['tide-map[src] /media/a.jpg']],
    'markup in lines' => [
        "x = '<figure>' +\n    '<img ' + // the pier\n    'src=\"/media/a.jpg\">' + '</figure>'",
        ['img[src] /media/a.jpg'],
    ],
    'markup around a name' => [
        "x = '<a href=\"' + to + '\"><img alt=\"' + f(a, [1]) + '\" src=\"/media/a.jpg\"></a>'",
        ['img[src] /media/a.jpg'],
    ],
    'markup around a name, in a template' => [
        'x = `<img alt="${words[`${n}`]}" src="/media/a.jpg">`',
        ['img[src] /media/a.jpg'],
    ],
    'markup around an address' => ["x = '<img src=\"' + '/media/a.jpg' + '\">'", ['img[src] /media/a.jpg']],
    'markup around an address of a call' => ["x = '<img src=\"' + at('/media/a.jpg') + '\">'", ['script /media/a.jpg']],
    'one of two' => [
        "x = '<img src=\"' + (big ? '/media/a.jpg' : '/media/b.jpg') + '\">'",
        ['script /media/a.jpg', 'script /media/b.jpg'],
    ],
    'appended' => ["x += '<img src=\"/media/a.jpg\">'", ['img[src] /media/a.jpg']],
    'an address in two' => ["x = '/media/' + 'a.jpg'", ['script /media/a.jpg']],
    'an address behind a host' => ["x = host + '/media/a.jpg'", ['script /media/a.jpg']],
    'an address behind a host, in a template' => ['x = `${host}/media/a.jpg`', ['script /media/a.jpg']],
    'an address with a query' => ["x = '/media/a.jpg?v=' + version", ['script /media/a.jpg']],
    'an address with a mark' => ['x = `<img src="/media/a.jpg#${n}">`', ['img[src] /media/a.jpg']],
    'a statement behind' => ["x = 'a' + b\ny = '/media/a.jpg'", ['script /media/a.jpg']],
    'an argument behind' => ["f('a' + b, '/media/a.jpg')", ['script /media/a.jpg']],
    'a method' => ["x = ('a' + b).trim() + '/media/a.jpg'", ['script /media/a.jpg']],
    'joined in a template' => ['x = `<img src="/media/${n}.jpg"><img src=/media/b.jpg>`', ['img[src] /media/b.jpg'], 1],
    'joined markup' => ["x = '<img src=\"/media/' + n + '.jpg\">'", [], 1],
    'joined style' => ["x = 'background: url(/media/' + n + ')'", [], 1],
    'joined candidates' => [
        "x = '<img srcset=\"/media/' + n + ' 1x, /media/b.jpg 2x\">'",
        ['img[srcset] /media/b.jpg'],
        1,
    ],
    'joined json' => ["x = '{\"a\":\"/media/' + n + '\",\"b\":\"/media/b.jpg\"}'", ['url /media/b.jpg'], 1],
    'joined on a host' => ["x = 'https://pier.example/media/' + n", [], 1],
    'joined of nothing that is known' => ["x = '<img src=\"' + url + '\">' + 'url(' + url + ')'", []],
    'joined elsewhere' => ["x = '<a href=\"/tides/' + n + '\">'", []],
    'counted up' => ['f("/media/a.jpg", n++)', ['script /media/a.jpg']],
    'a pattern' => ["x = '^/media/(.*)$'", []],
    'a template without end' => ['x = `<img src="/media/${n}.jpg"', []],
]);

it('reads data and templates in elements of script', function (string $html, array $found): void {
    expect(array_map(
        static fn (Reference $r): string => "{$r->role} {$r->value} {$r->fetch->value}",
        script($html, Notation::Html)->references,
    ))->toBe($found);
})->with([
    'a template of a type that nobody knows' => [
        '<script type="text/x-tide-view"><img src="/media/a.jpg"></script>',
        ['img[src] /media/a.jpg on-condition'],
    ],
    'data of a type that nobody knows' => [
        '<script type="text/x-tides">{"a": "/media/a.jpg"}</script>',
        ['script /media/a.jpg on-condition'],
    ],
    'markup in data' => [

        '<script type="application/json">{"a": "<img src=/media/a.jpg>'
            .'<p style=\'background:url(/media/b.jpg)\'>"}</script>',
        ['img[src] /media/a.jpg on-condition', 'css url /media/b.jpg on-condition'],
    ],
    'an import in data' => [
        '<script type="application/json">{"a": "<style>@import \'/a.css\';</style>"}</script>',
        ['css import /a.css on-condition'],
    ],
    'words of a type that nobody knows' => ['<script type="text/x-words">tides, boats</script>', []],
]);

it('writes into texts that a script puts together', function (string $script, string $to, string $after): void {
    $reading = script($script);
    $edits = (new Rewriter())->edits(
        $script, Notation::JavaScript, new Rules(mediaFolders: ['/media/']), [[$reading->references[0], $to]],
    );
    expect($edits->applyTo($script))->toBe($after);
})->with([
    ["x = '<i>' + '<img src=\"/media/a.jpg\">'", '/media/b.jpg', "x = '<i>' + '<img src=\"/media/b.jpg\">'"],
    ["x = \"<i>\" + '<img src=\"/media/a.jpg\">'", "/media/'.jpg", "x = \"<i>\" + '<img src=\"/media/\\'.jpg\">'"],
    ["x = '/media/' + 'a.jpg'", '/media/b.jpg', "x = '/media/b.jpg'"],
    ["x = '/media/a.jpg' + '?v=2'", '/media/b.jpg', "x = '/media/b.jpg' + '?v=2'"],
    ['x = `<img src="/media/a.jpg" alt="${n}">`', '/media/${n}.jpg', 'x = `<img src="/media/\${n}.jpg" alt="${n}">`'],
]);

it('refuses to write over strings in different quotes', function (): void {
    $script = "x = '/media/' + \"a.jpg\"";
    $rules = new Rules(mediaFolders: ['/media/']);
    expect(fn () => (new Rewriter())->edits(
        $script, Notation::JavaScript, $rules, [[script($script)->references[0], '/media/b.jpg']],
    ))->toThrow(CannotEncode::class, 'different quotes');
});

it('says where a script is too deep to read', function (): void {
    $reading = script(str_repeat('`${', 300).'"/media/a.jpg"');
    expect($reading->problems[0]->message)->toContain('deeper than 200');
});
