<?php

declare(strict_types=1);

use Ylema\Archive\Bag;

it('writes lines of a manifest that read back the same', function (string $path, string $line): void {
    expect(Bag::line('ab12', $path))
        ->toBe("ab12  $line\n")
        ->and(Bag::read(Bag::line('AB12', $path)))
        ->toBe(['ab12', $path]);
})->with([
    ['data/a b.jpg', 'data/a b.jpg'],
    ['data/100%.jpg', 'data/100%25.jpg'],
    ["data/a\nb", 'data/a%0Ab'],
    ["data/a\rb", 'data/a%0Db'],
    ['data/Möwe.jpg', 'data/Möwe.jpg'],
]);

it('reads lines of other tools', function (string $line, ?array $wanted): void {
    expect(Bag::read($line))->toBe($wanted);
})->with([
    ["ab12 data/a.jpg\r\n", ['ab12', 'data/a.jpg']],
    ["ab12\t*data/a.jpg\n", ['ab12', 'data/a.jpg']],
    ["no hash\n", null],
    ["\n", null],
]);

it('finds a place in the payload that no tool misreads', function (string $path, int $turn, string $payload): void {
    expect(Bag::payload($path, $turn))->toBe($payload);
})->with([
    ['media/2014/a b.jpg', 0, 'data/media/2014/a b.jpg'],
    ['media/a.jpg', 2, 'data/_again-2/media/a.jpg'],
    ["media/100%\n.jpg", 0, 'data/media/100_25_0A.jpg'],
    ['media/a\\b.jpg', 0, 'data/media/a_5Cb.jpg'],
    ['../../etc/passwd', 0, 'data/_../_../etc/passwd'],
    ['media//-rf', 0, 'data/media/_-rf'],
]);

it('writes labels on one line each', function (): void {
    expect(Bag::info(['Source-Organization' => "Korrin\nBay", 'Payload-Oxum' => '12.3']))->toBe(
        "Source-Organization: Korrin Bay\nPayload-Oxum: 12.3\n",
    );
});
