<?php

declare(strict_types=1);

use Ylema\Imaging\Closely;
use Ylema\Imaging\Compared;
use Ylema\Imaging\Size;

/**
 * A drawn picture in three planes.
 *
 * @param  callable(int, int): int  $bright
 * @param  callable(int, int): int|null  $blue
 */
function closely(int $width, int $height, callable $bright, ?callable $blue = null): Closely
{
    $planes = ['', '', ''];
    for ($y = 0; $y < $height; $y++) {
        for ($x = 0; $x < $width; $x++) {
            $planes[0] .= chr(max(0, min(255, $bright($x, $y))));
            $planes[1] .= chr($blue === null ? 128 : $blue($x, $y));
            $planes[2] .= chr(128);
        }
    }

    return new Closely($width, $height, implode('', $planes));
}

/** Waves with some edges, and a little noise that no two drawings share. */
function waves(int $seed): Closure
{
    return static fn (int $x, int $y): int => (int) (128 + 60 * sin($x / 9) * cos($y / 13)
        + (($x >> 5) + ($y >> 5)) % 2 * 30 + (crc32("$seed $x $y") % 5) - 2);
}

it('takes noise, brightness and contrast for the same', function (): void {
    $one = closely(160, 120, waves(1));
    $other = closely(160, 120, static fn (int $x, int $y): int => (int) (10 + 0.9 * waves(2)($x, $y)));
    expect($one->compare($other)->places)->toBe([]);
});

it('takes what lies half a pixel beside for the same', function (): void {
    $moved = static fn (int $x, int $y): int => intdiv(waves(1)($x, $y) + waves(1)($x + 1, $y), 2);
    expect(closely(160, 120, waves(1))->compare(closely(160, 120, $moved))->places)->toBe([]);
});

it('finds one small mark, and says where', function (): void {
    $marked = static fn (int $x, int $y): int => $x >= 100 && $x < 107 && $y >= 60 && $y < 69 && ($x + $y) % 4 < 2
        ? 20
        : waves(3)($x, $y);
    $places = closely(160, 120, waves(1))->compare(closely(160, 120, $marked))->places;
    expect($places)->toHaveCount(1)
        ->and($places[0]['x'])->toBeLessThanOrEqual(100 / 160)
        ->and($places[0]['x'] + $places[0]['width'])->toBeGreaterThanOrEqual(107 / 160)
        ->and($places[0]['width'])->toBeLessThan(0.25);
});

it('finds another colour of the same brightness', function (): void {
    $tinted = closely(160, 120, waves(1), static fn (int $x, int $y): int => $x < 40 && $y < 40 ? 150 : 128);
    expect(closely(160, 120, waves(1))->compare($tinted)->places)->toHaveCount(1);
});

it('compares one shape at the smaller size, and no other', function (): void {
    expect(Closely::size(new Size(900, 600), new Size(450, 300)))->toEqual(new Size(450, 300))
        ->and(Closely::size(new Size(3000, 2000), new Size(2000, 1333)))->toEqual(new Size(640, 427))
        ->and(Closely::size(new Size(900, 600), new Size(600, 600)))->toBeNull()
        ->and(Closely::size(new Size(900, 600), new Size(30, 20)))->toBeNull()
        ->and(static fn (): Closely => new Closely(20, 20, 'short'))->toThrow(InvalidArgumentException::class)
        ->and(static fn (): Compared => closely(20, 20, waves(1))->compare(closely(24, 20, waves(1))))
        ->toThrow(InvalidArgumentException::class);
});
