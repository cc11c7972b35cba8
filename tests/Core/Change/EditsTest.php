<?php

declare(strict_types=1);

use Random\Engine\Mt19937;
use Random\Randomizer;
use Ylema\Change\Bytes;
use Ylema\Change\Edit;
use Ylema\Change\EditConflict;
use Ylema\Change\Edits;

it('applies edits in any order', function (array $edits, string $after): void {
    foreach ([$edits, array_reverse($edits)] as $order) {
        expect(Edits::of(array_map(static fn (array $e): Edit => new Edit(...$e), $order))->applyTo('abcdef'))->toBe(
            $after,
        );
    }
})->with([
    'none' => [[], 'abcdef'],
    'one' => [[[1, 'b', 'X']], 'aXcdef'],
    'longer' => [[[1, 'b', 'XYZ']], 'aXYZcdef'],
    'shorter' => [[[1, 'bcd', '']], 'aef'],
    'two' => [[[1, 'b', 'XX'], [4, 'e', 'Y']], 'aXXcdYf'],
    'side by side' => [[[1, 'b', 'X'], [2, 'c', 'Y']], 'aXYdef'],
    'at both ends' => [[[0, 'a', 'X'], [5, 'f', 'Y']], 'XbcdeY'],
    'something new' => [[[3, '', 'X']], 'abcXdef'],
    'something new before something else' => [[[3, 'de', 'Y'], [3, '', 'X']], 'abcXYf'],
    'something new at the end' => [[[6, '', 'X']], 'abcdefX'],
    'all of it' => [[[0, 'abcdef', '']], ''],
]);

it('refuses edits that claim the same bytes', function (array $a, array $b): void {
    expect(fn () => Edits::of([new Edit(...$a), new Edit(...$b)]))->toThrow(EditConflict::class, 'same bytes');
})->with([
    'the same' => [[1, 'b', 'X'], [1, 'b', 'Y']],
    'over each other' => [[1, 'bc', 'X'], [2, 'cd', 'Y']],
    'one in the other' => [[0, 'abcd', 'X'], [2, 'c', 'Y']],
]);

it('refuses a text that is not what the edits were made for', function (string $text): void {
    expect(fn () => Edits::of([new Edit(2, 'cd', 'X')])->applyTo($text))->toThrow(
        EditConflict::class,
        'no longer reads "cd"',
    );
})->with(['abXdef', 'ab', '', 'abc', 'xabcdef']);

it('says what it expected without garbling a terminal', function (): void {
    $conflict = EditConflict::unexpected(3, str_repeat("\xFFü", 200));
    expect(mb_check_encoding($conflict->getMessage(), 'UTF-8'))
        ->toBeTrue()
        ->and(mb_strlen($conflict->getMessage()))
        ->toBeLessThan(140);
});

it('leads back to every byte', function (int $seed): void {
    $random = new Randomizer(new Mt19937($seed));
    $text = $random->getBytes($random->getInt(1, 200));
    $edits = [];
    for ($at = 0; $at < strlen($text); $at += $length + $random->getInt(0, 20)) {
        $length = $random->getInt(0, min(12, strlen($text) - $at));
        $edits[] = new Edit($at, substr($text, $at, $length), $random->getBytes($random->getInt(1, 15)));
        $at += $length === 0 ? 1 : 0;
    }
    $edits = Edits::of($random->shuffleArray($edits));
    $after = $edits->applyTo($text);
    expect($edits->inverse()->applyTo($after))
        ->toBe($text)
        // Turned round twice, it is what it was.
        ->and($edits->inverse()->inverse()->applyTo($text))
        ->toBe($after);
})->with(range(1, 40));

it('tells where and how the text is another one, in a few words', function (): void {
    try {
        Edits::of([new Edit(2, str_repeat('c', 100), 'X')])->applyTo('abcdef');
    } catch (EditConflict $conflict) {
        expect($conflict->getMessage())
            ->toBe('At offset 2 the text no longer reads "'.str_repeat('c', 79).'…".')
            ->and([$conflict->offset, $conflict->value])
            ->toBe([2, str_repeat('c', 100)]);
    }
    expect(isset($conflict))->toBeTrue();
});

it('reads no bytes out of what is no base64', function (): void {
    expect([Bytes::unpack(['base64' => 'YQ!!']), Bytes::unpack(['base64' => 'YQ==']), Bytes::unpack('a')])->toBe([
        '',
        'a',
        'a',
    ]);
});
