<?php

declare(strict_types=1);

use Ylema\Imaging\Look;
use Ylema\Imaging\LookIndex;

/** A picture of blurred patches, by its seed; `$paint` changes it pixel by pixel. */
function patches(int $seed, ?callable $paint = null): Look
{
    $pixels = [];
    for ($y = 0; $y < Look::SIDE; $y++) {
        for ($x = 0; $x < Look::SIDE; $x++) {
            $value = 110 + 60 * sin($seed + $x / 5) * cos($seed * 2 + $y / 4) + 40 * sin(($x * $y + $seed * 40) / 90);
            $pixels[] = $paint === null
                ? [(int) $value, (int) ($value * 0.9), 140]
                : $paint((int) $value, $x, $y);
        }
    }

    return Look::ofPixels($pixels);
}

it('knows a picture again that is brighter, flatter or a little noisy', function (): void {
    $look = patches(1);
    $bright = patches(1, static fn (int $v): array => [min(255, $v + 12), (int) ($v * 0.9) + 12, 152]);
    $noisy = patches(1, static fn (int $v, int $x, int $y): array => [
        $v + (($x * 7 + $y * 3) % 5) - 2,
        (int) ($v * 0.9) + (($x + $y) % 3) - 1,
        140,
    ]);
    foreach ([$bright, $noisy] as $other) {
        expect($look->isSameAs($other))
            ->toBeTrue()
            ->and(Look::distance($look->fingerprint(), $other->fingerprint()))
            ->toBeLessThanOrEqual(LookIndex::DISTANCE);
    }
});

it('takes another picture, another colour and other words for what they are', function (): void {
    $look = patches(1);
    $tinted = patches(1, static fn (int $v): array => [$v, (int) ($v * 0.7), 200]);
    $words = patches(1, static fn (int $v, int $x, int $y): array => $x > 4 && $x < 14 && $y > 24 && $y < 30
        ? [20, 20, 20]
        : [$v, (int) ($v * 0.9), 140]);
    $marked = patches(1, static fn (int $v, int $x, int $y): array => $x > 4 && $x < 9 && $y > 24 && $y < 28
        ? [(int) (0.6 * $v + 90), (int) (0.5 * $v + 90), 180]
        : [$v, (int) ($v * 0.9), 140]);
    expect($look->isSameAs(patches(2)))
        ->toBeFalse()
        ->and($look->isSameAs($tinted))
        ->toBeFalse()
        ->and($look->isSameAs($words))
        ->toBeFalse()
        // That is looked at more closely.
        ->and($look->couldBe($marked))
        ->toBeTrue()
        ->and($look->couldBe(patches(2)))
        ->toBeFalse();
});

it('knows what was cut from the middle', function (): void {
    $whole = patches(3);
    $pixels = [];
    for ($y = 0; $y < Look::SIDE; $y++) {
        for ($x = 0; $x < Look::SIDE; $x++) {
            // The middle two thirds of the width, all of the height.
            $at = $y * Look::SIDE + (int) (Look::SIDE * (0.165 + (0.67 * ($x + 0.5)) / Look::SIDE));
            $value = ord($whole->cells[$at]);
            $pixels[] = [$value, $value, $value];
        }
    }
    $luma = static fn (int $v): int => (int) round(0.299 * $v + 0.587 * (int) ($v * 0.9) + 16);
    $grey = patches(3, static fn (int $v): array => array_fill(0, 3, $luma($v)));
    $part = Look::ofPixels($pixels);
    $any = static fn (Look $part, Look $whole): bool => in_array(true, array_map(
        static fn (int $which): bool => $part->couldBePartOf($whole, $which),
        array_keys($whole->parts()),
    ), true);
    expect($any($part, $grey))->toBeTrue()->and($any(patches(9), $grey))->toBeFalse();
    $nearest = min(
        array_map(static fn (int $one): int => Look::distance($one, $part->fingerprint()), $grey->parts()),
    );
    expect($nearest)->toBeLessThanOrEqual(11);
});

it('says what has nothing to be told by', function (): void {
    $plain = patches(1, static fn (int $v, int $x): array => [200 + $x % 2, 200, 200]);
    expect($plain->isPlain())
        ->toBeTrue()
        ->and(patches(1)->isPlain())
        ->toBeFalse()
        ->and($plain->isSameAs($plain))
        ->toBeFalse();
});

it('is refused where cells are missing', function (): void {
    expect(static fn (): Look => new Look('short'))->toThrow(InvalidArgumentException::class);
});

it('finds all that differ in up to seven bits, without comparing each with each', function (): void {
    $index = new LookIndex();
    mt_srand(7);
    $prints = [];
    for ($i = 0; $i < 400; $i++) {
        $prints[] = mt_rand() << 32 ^ mt_rand() << 1 ^ $i;
    }
    // Each of the first hundred comes again with a few bits turned.
    for ($i = 0; $i < 100; $i++) {
        $print = $prints[$i];
        foreach (array_rand(array_fill(0, 64, 0), 1 + ($i % 7) + 1) as $bit) {
            $print ^= 1 << $bit;
        }
        $prints[] = $print;
    }
    array_map($index->add(...), $prints);
    $wanted = [];
    foreach ($prints as $i => $one) {
        for ($j = $i + 1; $j < count($prints); $j++) {
            if (Look::distance($one, $prints[$j]) <= 7) {
                $wanted["$i $j"] = true;
            }
        }
    }
    $found = [];
    foreach ($index->pairs(7) as [$one, $other]) {
        $found["$one $other"] = true;
    }
    ksort($wanted);
    ksort($found);
    expect($found)
        ->toBe($wanted)
        ->and($index->near($prints[0], 7))
        ->toContain(0);
    foreach (array_keys($wanted) as $pair) {
        [$one, $other] = array_map(intval(...), explode(' ', (string) $pair));
        expect($index->near($prints[$one], 7))->toContain($other);
    }
});

it('counts the bits that differ', function (int $one, int $other, int $bits): void {
    expect(Look::distance($one, $other))->toBe($bits);
})->with([[0, 0, 0], [-1, 0, 64], [PHP_INT_MIN, 0, 1], [5, 4, 1], [0x0F0F0F0F0F0F0F0F, 0, 32]]);
