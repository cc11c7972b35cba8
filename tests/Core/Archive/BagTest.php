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
    ['media//-rf', 0, 'data/media/_2F/_-rf'],
    ['media/a_5Cb.jpg', 0, 'data/media/a_5F5Cb.jpg'],
    ['_again-2/media/a.jpg', 0, 'data/_5Fagain-2/media/a.jpg'],
]);

it('never gives two files one name', function (): void {
    $letters = ['_', '_', '%', '5', 'F', 'C', '3', 'A', ':', '\\', '/', '.', '-', "\n", 'again-1', '_again-1/', '2'];
    mt_srand(7);
    $of = $same = [];
    for ($n = 0; $n < 60_000; $n++) {
        $path = '';
        for ($length = mt_rand(1, 7); $length > 0; $length--) {
            $path .= $letters[mt_rand(0, count($letters) - 1)];
        }
        foreach ([0, 1] as $turn) {
            $name = Bag::payload($path, $turn);
            if (($of[$name] ??= "$turn $path") !== "$turn $path" || str_contains($name, '/../')) {
                $same[] = "$turn $path: $name";
            }
        }
    }
    expect($same)->toBe([]);
});

it('writes labels on one line each', function (): void {
    expect(Bag::info(['Source-Organization' => "Korrin\nBay", 'Payload-Oxum' => '12.3']))->toBe(
        "Source-Organization: Korrin Bay\nPayload-Oxum: 12.3\n",
    );
});
