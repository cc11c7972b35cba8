<?php

declare(strict_types=1);

use Ylema\Retire\Mention;
use Ylema\Retire\Mentions;

it('finds what may name a file in any text', function (string $text, array $some): void {
    $said = array_map(static fn (Mention $m): string => "$m->line $m->said", (new Mentions())->in($text));
    foreach ($some as $one) {
        expect($said)->toContain($one);
    }
})->with([
    'an address in markup' => [
        "\n<img src=\"https://a.example/media/B%20c.JPG?v=1\">",
        ['2 media/b c.jpg', '2 media/b%20c.jpg'],
    ],
    'a path in a style' => ['a { background: url(../img/paper.png) }', ['1 img/paper.png']],
    'a bare name in code' => ['$seal = "left-01.jpg";', ['1 left-01.jpg']],
    'glued together' => ["echo \$base . '/archive/' . 'seal.webp';", ['1 seal.webp']],
    'a script that writes slashes otherwise' => ['{"face":"\/media\/dial.svg"}', ['1 media/dial.svg']],
    'a name with blanks and brackets' => ["'tea & talk (hall).jpg'", ['1 tea & talk (hall).jpg', '1 hall).jpg']],
    'entities' => ['src="a&amp;b.png"', ['1 a&b.png']],
    'in a sentence' => ['See photo.jpeg. And more.', ['1 photo.jpeg', '1 see photo.jpeg']],
    'a sound and a document' => ['bell.ogg, table.pdf', ['1 bell.ogg', '1 table.pdf']],
]);

it('takes nothing for a file that is none', function (string $text): void {
    expect((new Mentions())->in($text))->toBe([]);
})->with(['icon.svg.php', 'function png() {}', 'a.jpg2', "'.w' + width + '.png'", '']);

it('is bounded, whatever it is given', function (): void {
    $mentions = (new Mentions())->in(str_repeat('x', 400_000).'.png '.str_repeat('(a.png ', 3000));
    expect(count($mentions))->toBeLessThan(40_000);
    expect(max(array_map(static fn (Mention $m): int => strlen($m->said), $mentions)))->toBeLessThan(300);
});
