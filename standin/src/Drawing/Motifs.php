<?php

declare(strict_types=1);

namespace Standin\Drawing;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** The pictures of the demo: each motif draws one kind of scene, and the seed makes every scene another. */
final class Motifs
{
    public const NAMES = [
        'shore',
        'boat',
        'bird',
        'flock',
        'lighthouse',
        'chart',
        'portrait',
        'logo',
        'map',
        'species',
        'poster',
        'sponsor',
        'harbour',
        'underwater',
        'icon',
        'texture',
    ];

    private const SKIES = [
        ['#f6d6a8', '#f2a97f', '#8fa7c4', '#f7e6c4'], // dawn
        ['#7fb6dd', '#b9dcee', '#eaf4f4', '#fffbe6'], // day
        ['#2c3e63', '#a4586a', '#f0a062', '#ffd9a0'], // dusk
        ['#16233f', '#2f4a6d', '#6d88a0', '#e8edf2'], // night
        ['#6f7f89', '#a3b0b3', '#cfd6d2', '#e9ece6'], // grey
        ['#4fa3c7', '#9fd3dc', '#f2efd9', '#fff4c8'], // summer
    ];

    private const SEAS = [
        ['#5b7f97', '#2c5169'],
        ['#3d8ea6', '#135a74'],
        ['#54607f', '#232f4b'],
        ['#22415c', '#0d1d33'],
        ['#7d908f', '#46595b'],
        ['#36a0a4', '#0e6672'],
    ];

    private const SAILS = ['#c8452f', '#f1ead8', '#e0a526', '#2e6f8e', '#8a3b54', '#f7f7f2', '#3f7d5a'];

    private const COATS = ['#27566b', '#8a3b34', '#3f6b4f', '#5c4a72', '#b0762a', '#34495e', '#7c5a3c', '#2d6e6a'];

    private const SKINS = ['#f0cfb4', '#d9a77f', '#a8714b', '#6f4930', '#efc3a4', '#c68d62'];

    private const HAIRS = ['#2b211c', '#5a3a22', '#a8672f', '#c9a15b', '#8d8a86', '#e3e0da', '#7b2f1d'];

    private Randomizer $random;

    private function __construct(private readonly Canvas $c, int $seed, private readonly string $label)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    public static function draw(
        string $motif,
        int $seed,
        int $width,
        int $height,
        string $label,
        float $oversize = 1.6,
    ): Canvas {
        $canvas = new Canvas($width, $height, $oversize);
        $self = new self($canvas, $seed, $label);
        match ($motif) {
            'boat' => $self->boat(),
            'bird' => $self->bird(),
            'flock' => $self->flock(),
            'lighthouse' => $self->lighthouse(),
            'chart' => $self->chart(),
            'portrait' => $self->portrait(),
            'logo' => $self->logo(),
            'map' => $self->map(),
            'species' => $self->species(),
            'poster' => $self->poster(),
            'sponsor' => $self->sponsor(),
            'harbour' => $self->harbour(),
            'underwater' => $self->underwater(),
            'icon' => $self->icon(),
            'texture' => $self->texture(),
            default => $self->shore(),
        };

        return $canvas;
    }

    private function f(float $low, float $high): float
    {
        return $low + (($high - $low) * $this->random->getInt(0, 1_000_000)) / 1_000_000;
    }

    private function i(int $low, int $high): int
    {
        return $this->random->getInt($low, $high);
    }

    /**
     * @template T
     *
     * @param  array<int, T>  $from
     * @return T
     */
    private function pick(array $from): mixed
    {
        return $from[$this->i(0, count($from) - 1)];
    }

    /**
     * A ridge of added waves from left to right.
     *
     * @return list<array{float, float}>
     */
    private function ridge(float $base, float $height, float $detail): array
    {
        $a = $this->f(0, 6);
        $b = $this->f(0, 6);
        $d = $this->f(0, 6);
        $points = [];
        for ($x = -0.02; $x <= $this->c->ratio() + 0.03; $x += 0.01) {
            $points[] = [
                $x,
                $base
                - $height
                    * (0.5
                        + 0.3 * sin($x * 2.1 * $detail + $a)
                        + 0.15 * sin($x * 5.3 * $detail + $b)
                        + 0.06 * sin($x * 17 * $detail + $d)),
            ];
        }

        return $points;
    }

    /** @param  list<array{float, float}>  $ridge */
    private function land(array $ridge, float $bottom, string $hex): void
    {
        $this->c->shape([...$ridge, [$this->c->ratio() + 0.03, $bottom], [-0.02, $bottom]], $hex);
    }

    /**
     * Sky, light, clouds, far hills and sea; gives the horizon and which palette it was.
     *
     * @return array{float, int}
     */
    private function seascape(?float $horizon = null): array
    {
        $c = $this->c;
        $palette = $this->i(0, count(self::SKIES) - 1);
        [$top, $middle, $low, $light] = self::SKIES[$palette];
        $horizon ??= $this->f(0.42, 0.6);
        $c->gradient(0, $horizon + 0.01, [$top, $middle, $low]);
        $sun = [$this->f(0.15, $c->ratio() - 0.15), $this->f(0.1, $horizon - 0.08)];
        $r = $this->f(0.035, 0.085);
        for ($k = 5; $k > 0; $k--) {
            $c->disc($sun[0], $sun[1], $r * (1 + $k * 0.45), $light, 0.09);
        }
        $c->disc($sun[0], $sun[1], $r, $light);
        for ($n = $this->i(1, 5); $n > 0; $n--) {
            $x = $this->f(0, $c->ratio());
            $y = $this->f(0.06, $horizon - 0.12);
            $size = $this->f(0.03, 0.08);
            for ($k = 0; $k < 6; $k++) {
                $c->disc(
                    $x + ($k - 2.5) * $size * 0.9,
                    $y + $this->f(-0.3, 0.1) * $size,
                    $size * $this->f(0.6, 1.1),
                    $light,
                    0.32,
                    $size * $this->f(0.3, 0.5),
                );
            }
        }
        [$near, $deep] = self::SEAS[$palette];
        for ($k = 0; $k < 3; $k++) {
            $this->land(
                $this->ridge($horizon + 0.012, 0.05 + 0.07 * (3 - $k) * $this->f(0.4, 1), 1 + $k),
                $horizon + 0.02,
                Canvas::mix($low, $deep, 0.25 + 0.2 * $k),
            );
        }
        $c->gradient($horizon, 1.0, [Canvas::mix($near, $low, 0.35), $near, $deep]);
        for ($k = 0; $k < 70; $k++) {
            $y = $horizon + 0.01 + (1 - $horizon) * $this->f(0, 1) ** 1.6;
            $x = $sun[0] + $this->f(-1, 1) * (0.1 + ($y - $horizon) * 1.4);
            $w = 0.01 + ($y - $horizon) * $this->f(0.04, 0.16);
            $c->box($x, $y, $w, 0.0015 + ($y - $horizon) * 0.006, $light, 0.35);
        }

        return [$horizon, $palette];
    }

    private function shore(): void
    {
        $c = $this->c;
        [$horizon, $palette] = $this->seascape();
        $sand = Canvas::mix($this->pick(['#e2cfa0', '#cdb98f', '#d8c7a8', '#b9aa90']), self::SEAS[$palette][1], 0.12);
        $edge = $this->f(0.72, 0.86);
        $beach = $this->ridge($edge, 0.14, 0.8);
        $this->land(array_map(static fn (array $p): array => [$p[0], $p[1] - 0.014], $beach), 1.02, '#f4f1e6');
        $this->land($beach, 1.02, $sand);
        $this->land(
            array_map(static fn (array $p): array => [$p[0], $p[1] + 0.09], $beach),
            1.02,
            Canvas::mix($sand, '#7a6545', 0.18),
        );
        $kind = $this->i(0, 3);
        if ($kind === 0) {
            for ($k = $this->i(40, 90); $k > 0; $k--) {
                $x = $this->f(0, $c->ratio());
                $lean = $this->f(-0.05, 0.05);
                $c->shape(
                    [[$x, 1.01], [$x + 0.008, 1.01], [$x + $lean, 1 - $this->f(0.08, 0.24)]],
                    Canvas::mix('#5d7a4a', '#2f4632', $this->f(0, 1)),
                );
            }
        } elseif ($kind === 1) {
            for ($k = $this->i(6, 14); $k > 0; $k--) {
                $x = $this->f(0, $c->ratio());
                $y = $this->f($edge - 0.02, 0.98);
                $r = $this->f(0.015, 0.07);
                $c->disc($x, $y, $r, '#4a4f52', 1, $r * 0.6);
                $c->disc($x - $r * 0.2, $y - $r * 0.16, $r * 0.7, '#6d7473', 1, $r * 0.35);
            }
        } elseif ($kind === 2) {
            for ($k = 0, $x = $this->f(0.05, 0.3); $k < 9; $k++, $x += $this->f(0.09, 0.16)) {
                $c->box($x, $edge - 0.16, 0.016, 0.3, '#5b4636');
                $c->box($x, $edge - 0.16, 0.006, 0.3, '#7a6049');
            }
            $c->box(-0.1, $edge - 0.13, 0.2 + $x, 0.013, '#5b4636');
        } else {
            $x = $this->f(0.3, $c->ratio() - 0.3);
            foreach ([0, 1] as $k) {
                $c->disc($x + 0.1 * $k, $edge - 0.1, 0.013, self::SKINS[$this->i(0, 5)]);
                $c->shape(
                    [
                        [$x + 0.1 * $k - 0.02, $edge + 0.02],
                        [$x + 0.1 * $k + 0.02, $edge + 0.02],
                        [$x + 0.1 * $k + 0.013, $edge - 0.088],
                        [$x + 0.1 * $k - 0.013, $edge - 0.088],
                    ],
                    $this->pick(self::COATS),
                );
                $c->box($x + 0.1 * $k - 0.012, $edge + 0.01, 0.008, 0.06, '#2b3138');
                $c->box($x + 0.1 * $k + 0.004, $edge + 0.01, 0.008, 0.06, '#2b3138');
            }
        }
    }

    private function boat(): void
    {
        $c = $this->c;
        [$horizon] = $this->seascape();
        for ($n = $this->i(1, 3), $k = 0; $k < $n; $k++) {
            $size = $k === 0 ? $this->f(0.5, 0.75) : $this->f(0.12, 0.25);
            $x = $k === 0 ? $c->ratio() * $this->f(0.3, 0.68) : $this->f(0.1, $c->ratio() - 0.1);
            $y = $k === 0 ? $this->f($horizon + 0.14, 0.8) : $horizon + 0.03;
            $this->vessel($x, $y, $size);
        }
    }

    private function vessel(float $x, float $y, float $size): void
    {
        $c = $this->c;
        $sail = $this->pick(self::SAILS);
        $hull = $this->pick(self::COATS);
        $c->shape(
            [
                [$x - 0.36 * $size, $y + 0.02],
                [$x + 0.36 * $size, $y + 0.02],
                [$x + 0.2 * $size, $y + 0.16 * $size],
                [$x - 0.22 * $size, $y + 0.16 * $size],
            ],
            '#0c1a26',
            0.22,
        );
        $c->shape(
            [
                [$x - 0.38 * $size, $y - 0.09 * $size],
                [$x + 0.42 * $size, $y - 0.11 * $size],
                [$x + 0.3 * $size, $y + 0.03 * $size],
                [$x - 0.3 * $size, $y + 0.03 * $size],
            ],
            $hull,
        );
        $c->shape(
            [
                [$x - 0.38 * $size, $y - 0.09 * $size],
                [$x + 0.42 * $size, $y - 0.11 * $size],
                [$x + 0.4 * $size, $y - 0.085 * $size],
                [$x - 0.37 * $size, $y - 0.065 * $size],
            ],
            '#f4efe2',
        );
        $c->box($x - 0.006 * $size, $y - 0.8 * $size, 0.016 * $size, 0.72 * $size, '#4b3a2b');
        if ($this->i(0, 3) > 0) {
            $c->shape(
                [
                    [$x + 0.02 * $size, $y - 0.78 * $size],
                    [$x + 0.34 * $size, $y - 0.17 * $size],
                    [$x + 0.02 * $size, $y - 0.16 * $size],
                ],
                $sail,
            );
            $c->shape(
                [
                    [$x + 0.02 * $size, $y - 0.4 * $size],
                    [$x + 0.23 * $size, $y - 0.38 * $size],
                    [$x + 0.27 * $size, $y - 0.3 * $size],
                    [$x + 0.02 * $size, $y - 0.31 * $size],
                ],
                Canvas::mix($sail, '#1c1c1c', 0.15),
            );
            $c->shape(
                [
                    [$x - 0.02 * $size, $y - 0.72 * $size],
                    [$x - 0.3 * $size, $y - 0.17 * $size],
                    [$x - 0.02 * $size, $y - 0.16 * $size],
                ],
                Canvas::mix($sail, '#ffffff', 0.35),
            );
        } else {
            $c->box($x - 0.2 * $size, $y - 0.24 * $size, 0.3 * $size, 0.15 * $size, '#f4efe2');
            $c->box($x - 0.17 * $size, $y - 0.21 * $size, 0.07 * $size, 0.06 * $size, '#41606e');
            $c->box($x - 0.07 * $size, $y - 0.21 * $size, 0.07 * $size, 0.06 * $size, '#41606e');
            $c->box($x + 0.03 * $size, $y - 0.36 * $size, 0.06 * $size, 0.13 * $size, $sail);
        }
    }

    private function bird(): void
    {
        $c = $this->c;
        $ground = $this->pick(['#e9efe9', '#f3e7d3', '#dbe7ee', '#efe0dc', '#e6e9d6']);
        $c->gradient(0, 1, [
            $ground,
            Canvas::mix($ground, $this->pick(['#7da3ad', '#b79d6f', '#8597a8', '#9aa882']), 0.5),
        ]);
        $middle = $c->ratio() / 2;
        $c->disc($middle + $this->f(-0.12, 0.12), 0.46, 0.36, '#ffffff', 0.42);
        for ($k = 0; $k < 26; $k++) {
            $x = $this->f(0, $c->ratio());
            $c->path(
                [[$x, 1.02], [$x + $this->f(-0.04, 0.04), $this->f(0.62, 0.9)]],
                $this->f(0.004, 0.01),
                Canvas::mix('#7f8a58', '#c2ab69', $this->f(0, 1)),
                0.8,
            );
        }
        $back = $this->pick(['#4d5a63', '#8b6b4a', '#2e3439', '#7a8791', '#a5744c', '#5f6f5a']);
        $belly = $this->pick(['#f5f1e8', '#e7c9a0', '#d98d62', '#ffffff', '#cfd6d8']);
        $bill = $this->pick(['#d8632b', '#2b2b2b', '#c79a2f', '#b43c2e']);
        $long = $this->f(0.06, 0.3);
        $leg = $this->f(0.08, 0.24);
        $s = $this->f(0.85, 1.1);
        $x = $middle - 0.02;
        $y = 0.52;
        foreach ([-0.03, 0.05] as $d) {
            $c->path([[$x + $d * $s, $y + 0.1 * $s], [$x + $d * $s + 0.01, $y + (0.12 + $leg) * $s]], 0.012, $bill);
            $c->path(
                [[$x + $d * $s + 0.01, $y + (0.12 + $leg) * $s], [$x + $d * $s + 0.05, $y + (0.13 + $leg) * $s]],
                0.01,
                $bill,
            );
        }
        $c->shape(
            [
                [$x - 0.2 * $s, $y - 0.03 * $s],
                [$x - 0.42 * $s, $y + 0.06 * $s],
                [$x - 0.4 * $s, $y + 0.11 * $s],
                [$x - 0.14 * $s, $y + 0.08 * $s],
            ],
            Canvas::mix($back, '#000000', 0.2),
        );
        $c->disc($x, $y, 0.23 * $s, $belly, 1, 0.145 * $s);
        $c->disc($x + 0.17 * $s, $y - 0.12 * $s, 0.085 * $s, $belly);
        $c->shape(
            [
                [$x + 0.08 * $s, $y - 0.13 * $s],
                [$x + 0.2 * $s, $y - 0.02 * $s],
                [$x + 0.14 * $s, $y + 0.08 * $s],
                [$x, $y - 0.05 * $s],
            ],
            $belly,
        );
        $c->disc($x - 0.05 * $s, $y - 0.035 * $s, 0.2 * $s, $back, 1, 0.1 * $s);
        $c->shape(
            [[$x + 0.12 * $s, $y - 0.06 * $s], [$x - 0.3 * $s, $y + 0.09 * $s], [$x - 0.06 * $s, $y + 0.075 * $s]],
            Canvas::mix($back, '#ffffff', 0.16),
        );
        $c->disc($x + 0.18 * $s, $y - 0.15 * $s, 0.072 * $s, $back, 1, 0.056 * $s);
        $c->shape(
            [
                [$x + 0.24 * $s, $y - 0.15 * $s],
                [$x + (0.25 + $long) * $s, $y - (0.12 - $long * 0.25) * $s],
                [$x + 0.24 * $s, $y - 0.105 * $s],
            ],
            $bill,
        );
        $c->disc($x + 0.2 * $s, $y - 0.135 * $s, 0.017 * $s, '#fffdf5');
        $c->disc($x + 0.204 * $s, $y - 0.135 * $s, 0.01 * $s, '#1a1a1a');
    }

    private function flock(): void
    {
        $c = $this->c;
        $this->seascape($this->f(0.7, 0.85));
        for ($k = $this->i(18, 60); $k > 0; $k--) {
            $x = $this->f(0, $c->ratio());
            $y = 0.08 + 0.5 * $this->f(0, 1);
            $s = $this->f(0.012, 0.045);
            $flap = $this->f(-0.2, 0.9);
            $c->path(
                [
                    [$x - $s * 1.6, $y - $s * $flap],
                    [$x - $s * 0.6, $y - $s * 0.5],
                    [$x, $y],
                    [$x + $s * 0.6, $y - $s * 0.5],
                    [$x + $s * 1.6, $y - $s * $flap],
                ],
                $s * 0.32,
                '#22303a',
            );
        }
    }

    private function lighthouse(): void
    {
        $c = $this->c;
        [$horizon, $palette] = $this->seascape($this->f(0.6, 0.7));
        $rock = Canvas::mix('#4d5458', self::SEAS[$palette][1], 0.2);
        $this->land($this->ridge($horizon + 0.24, 0.16, 1.3), 1.02, $rock);
        $x = $c->ratio() * $this->f(0.3, 0.7);
        $top = $this->f(0.16, 0.28);
        $foot = $horizon + 0.16;
        $band = $this->pick(['#b8402e', '#24546c', '#2f3b44', '#c98b22']);
        $n = $this->i(3, 6);
        for ($k = 0; $k < $n; $k++) {
            $a = $top + (($foot - $top) * $k) / $n;
            $b = $top + (($foot - $top) * ($k + 1)) / $n;
            $wa = 0.035 + (0.03 * $k) / $n;
            $wb = 0.035 + (0.03 * ($k + 1)) / $n;
            $c->shape(
                [[$x - $wa, $a], [$x + $wa, $a], [$x + $wb, $b], [$x - $wb, $b]],
                $k % 2 === 0 ? '#f5f1e7' : $band,
            );
        }
        $c->shape(
            [[$x + 0.03, $top - 0.03], [$c->ratio() + 0.1, $top - 0.16], [$c->ratio() + 0.1, $top + 0.1]],
            '#fff3c2',
            0.3,
        );
        $c->box($x - 0.05, $top - 0.012, 0.1, 0.014, '#2b343a');
        $c->box($x - 0.028, $top - 0.07, 0.056, 0.06, '#ffe9a3');
        $c->shape([[$x - 0.04, $top - 0.07], [$x + 0.04, $top - 0.07], [$x, $top - 0.12]], $band);
    }

    private function chart(): void
    {
        $c = $this->c;
        $ink = $this->pick(['#1d4e66', '#2b5d4a', '#6b3a2e', '#3c3f73']);
        $c->fill($this->pick(['#fbf8ef', '#f4f7f6', '#faf4ea']));
        $left = 0.13;
        $right = $c->ratio() - 0.06;
        for ($k = 0; $k <= 6; $k++) {
            $c->box($left, 0.2 + $k * 0.1, $right - $left, 0.0022, '#d5d8d2');
            $c->text(number_format(4.8 - $k * 0.8, 1), $left - 0.02, 0.212 + $k * 0.1, 0.026, '#6d746f', false, 1);
        }
        $days = $this->i(6, 14);
        for ($k = 0; $k <= $days; $k++) {
            $x = $left + (($right - $left) * $k) / $days;
            $c->box($x, 0.2, 0.0016, 0.6, '#e3e5df');
            $c->text((string) ($k + 1), $x, 0.845, 0.026, '#6d746f', false, 0.5);
        }
        $phase = $this->f(0, 6);
        $points = [];
        for ($t = 0.0; $t <= 1; $t += 0.004) {
            $points[] = [
                $left + ($right - $left) * $t,
                0.5 - (0.13 + 0.1 * sin($t * 3.1 + $phase)) * sin($t * $days * 6.28 + $phase),
            ];
        }
        $c->shape([...$points, [$right, 0.8], [$left, 0.8]], $ink, 0.14);
        $c->path($points, 0.011, $ink);
        for ($k = $this->i(2, 5); $k > 0; $k--) {
            [$x, $y] = $points[$this->i(10, count($points) - 10)];
            $c->disc($x, $y, 0.018, '#c8452f');
            $c->disc($x, $y, 0.009, '#fff');
        }
        $c->text($this->label, $left, 0.12, 0.055, $ink, true);
        $c->text('metres above chart datum', $left, 0.165, 0.026, '#6d746f');
        $c->text('day', $right, 0.9, 0.028, '#6d746f', false, 1);
    }

    private function portrait(): void
    {
        $c = $this->c;
        $ground = $this->pick(['#c9dbe0', '#e6d3b8', '#d5dcc8', '#e3c8bd', '#ccd0e0', '#b9cfc6']);
        $c->gradient(0, 1, [Canvas::mix($ground, '#ffffff', 0.3), $ground]);
        $x = $c->ratio() / 2;
        $c->disc($x, 0.5, 0.44, '#ffffff', 0.4);
        $skin = $this->pick(self::SKINS);
        $hair = $this->pick(self::HAIRS);
        $coat = $this->pick(self::COATS);
        $shade = Canvas::mix($skin, '#5a2e1c', 0.22);
        $style = $this->i(0, 4);
        if ($style === 1 || $style === 3) {
            $c->disc($x, 0.43, 0.22, $hair, 1, 0.26);
            $c->shape([[$x - 0.215, 0.42], [$x + 0.215, 0.42], [$x + 0.24, 0.74], [$x - 0.24, 0.74]], $hair);
        }
        $c->disc($x, 1.06, 0.4, $coat, 1, 0.36);
        $c->shape([[$x - 0.085, 0.56], [$x + 0.085, 0.56], [$x + 0.1, 0.75], [$x, 0.8], [$x - 0.1, 0.75]], $shade);
        $c->shape(
            [[$x - 0.11, 0.715], [$x, 0.83], [$x - 0.02, 0.9], [$x - 0.19, 0.75]],
            Canvas::mix($coat, '#ffffff', 0.25),
        );
        $c->shape(
            [[$x + 0.11, 0.715], [$x, 0.83], [$x + 0.02, 0.9], [$x + 0.19, 0.75]],
            Canvas::mix($coat, '#ffffff', 0.25),
        );
        $c->disc($x - 0.165, 0.45, 0.03, $shade, 1, 0.045);
        $c->disc($x + 0.165, 0.45, 0.03, $shade, 1, 0.045);
        $c->disc($x, 0.44, 0.165, $skin, 1, 0.205);
        if ($style === 4) {
            $c->disc($x, 0.56, 0.15, $hair, 1, 0.11);
            $c->disc($x, 0.5, 0.12, $skin, 1, 0.1);
        }
        $c->disc($x, 0.31, 0.175, $hair, 1, 0.11);
        $c->disc($x + $this->f(-0.06, 0.06), 0.39, 0.15, $skin, 1, 0.09);
        if ($style === 2) {
            $hat = $this->pick(self::SAILS);
            $c->disc($x, 0.27, 0.19, $hat, 1, 0.12);
            $c->box($x - 0.2, 0.29, 0.4, 0.055, Canvas::mix($hat, '#000000', 0.18));
        }
        foreach ([-1, 1] as $side) {
            $c->disc($x + $side * 0.065, 0.44, 0.016, '#22262a', 1, 0.019);
            $c->path([[$x + $side * 0.035, 0.4], [$x + $side * 0.1, 0.398]], 0.013, $hair);
        }
        if ($this->i(0, 2) === 0) {
            foreach ([-1, 1] as $side) {
                for ($a = 0; $a < 24; $a++) {
                    $c->path(
                        [
                            [$x + $side * 0.068 + 0.05 * cos($a * 0.2618), 0.443 + 0.045 * sin($a * 0.2618)],
                            [
                                $x + $side * 0.068 + 0.05 * cos(($a + 1) * 0.2618),
                                0.443 + 0.045 * sin(($a + 1) * 0.2618),
                            ],
                        ],
                        0.009,
                        '#2b2f33',
                    );
                }
            }
            $c->box($x - 0.02, 0.437, 0.04, 0.009, '#2b2f33');
        }
        $c->path([[$x, 0.455], [$x + 0.018, 0.51], [$x - 0.01, 0.515]], 0.008, $shade);
        $smile = $this->f(0.008, 0.026);
        $c->path(
            [[$x - 0.055, 0.555], [$x - 0.025, 0.555 + $smile], [$x + 0.025, 0.555 + $smile], [$x + 0.055, 0.555]],
            0.011,
            '#9c4a3c',
        );
    }

    private function logo(): void
    {
        $c = $this->c;
        $variant = $this->i(0, 2);
        [$deep, $light] = [['#0e4a5c', '#e8b23a'], ['#7a2f2a', '#f0e3c8'], ['#1f3d2f', '#9fd0c6']][$variant];
        $c->fill('#fdfbf5');
        $round = $c->ratio() < 1.5;
        $x = $round ? $c->ratio() / 2 : 0.5;
        $r = 0.42;
        $c->disc($x, 0.5, $r, $deep);
        $c->disc($x, 0.5, $r - 0.03, '#fdfbf5');
        $c->disc($x, 0.5, $r - 0.05, $deep);
        $c->disc($x + 0.1, 0.38, 0.12, $light);
        for ($k = 0; $k < 3; $k++) {
            $points = [];
            for ($t = -0.33; $t <= 0.33; $t += 0.01) {
                if (hypot($t, 0.06 + $k * 0.1) < $r - 0.06) {
                    $points[] = [$x + $t, 0.56 + $k * 0.1 + 0.025 * sin($t * 18 + $k * 1.5)];
                }
            }
            $c->path($points, 0.034, $k === 0 ? '#fdfbf5' : Canvas::mix($light, '#ffffff', 0.25 * $k));
        }
        if (! $round) {
            $c->text('KORRIN BAY', 1.08, 0.52, 0.3, $deep, true);
            $c->text('TIDEWATER OBSERVATORY', 1.09, 0.76, 0.135, Canvas::mix($deep, '#888888', 0.3));
        }
    }

    private function map(): void
    {
        $c = $this->c;
        $c->fill('#cfe3e8');
        for ($k = 0; $k < 7; $k++) {
            $points = $this->ridge(0.25 + $k * 0.14, 0.1, 0.9);
            $c->path($points, 0.003, '#a9cbd4');
        }
        $centre = [$c->ratio() * $this->f(0.35, 0.65), $this->f(0.45, 0.6)];
        $seed = [$this->f(0, 6), $this->f(0, 6), $this->f(0, 6)];
        foreach ([['#e7dcae', 0.4], ['#d8d59b', 0.31], ['#bccb8c', 0.21], ['#9dba80', 0.12]] as [$hex, $size]) {
            $points = [];
            for ($a = 0.0; $a < 6.28; $a += 0.05) {
                $waves = 0.18 * sin(2 * $a + $seed[0]) + 0.13 * sin(3 * $a + $seed[1]) + 0.05 * sin(9 * $a + $seed[2]);
                $r = $size * (1 + $waves);
                $points[] = [$centre[0] + 1.3 * $r * cos($a), $centre[1] + $r * sin($a)];
            }
            $c->shape($points, $hex);
        }
        $points = [];
        for ($t = 0.0; $t <= 1; $t += 0.03) {
            $points[] = [$centre[0] + 0.34 * cos($t * 5 + $seed[0]), $centre[1] + 0.24 * sin($t * 4 + $seed[1])];
        }
        foreach ($points as $k => $point) {
            if ($k % 2 === 1) {
                $c->path([$points[$k - 1], $point], 0.011, '#b8402e');
            }
        }
        foreach ([$points[0], $points[14], $points[30]] as $k => [$px, $py]) {
            $c->disc($px, $py, 0.03, '#b8402e');
            $c->text((string) ($k + 1), $px, $py + 0.014, 0.036, '#ffffff', true, 0.5);
        }
        $c->box(0.05, 0.05, 0.04 + 0.024 * strlen($this->label), 0.085, '#fdfbf5', 0.9);
        $c->text($this->label, 0.07, 0.108, 0.042, '#1d3b47', true);
    }

    private function species(): void
    {
        $c = $this->c;
        $c->fill($this->pick(['#f6efdf', '#eef1ea', '#f2ece6', '#ebf0f3']));
        $x = $c->ratio() / 2;
        $y = 0.45;
        $hue = $this->pick(['#c8683f', '#5c7f56', '#a3475a', '#d4a03a', '#4a7d92', '#7a5a86', '#96713f']);
        $dark = Canvas::mix($hue, '#1a1a1a', 0.35);
        switch ($this->i(0, 4)) {
            case 0: // a star
                $arms = $this->i(5, 8);
                $points = [];
                for ($k = 0; $k < $arms * 2; $k++) {
                    $r = $k % 2 === 0 ? 0.32 : 0.11;
                    $points[] = [$x + $r * cos(($k * M_PI) / $arms + 0.3), $y + $r * sin(($k * M_PI) / $arms + 0.3)];
                }
                $c->shape($points, $hue);
                for ($k = 0; $k < $arms; $k++) {
                    for ($d = 1; $d < 8; $d++) {
                        $c->disc(
                            $x + $d * 0.035 * cos(($k * 2 * M_PI) / $arms + 0.3),
                            $y + $d * 0.035 * sin(($k * 2 * M_PI) / $arms + 0.3),
                            0.009,
                            Canvas::mix($hue, '#ffffff', 0.5),
                        );
                    }
                }
                break;
            case 1: // a fan shell
                for ($k = 0; $k <= 16; $k++) {
                    $a = M_PI + ($k * M_PI) / 16;
                    $c->shape(
                        [
                            [$x, $y + 0.26],
                            [$x + 0.42 * cos($a - 0.1), $y + 0.2 + 0.5 * sin($a - 0.1)],
                            [$x + 0.42 * cos($a + 0.1), $y + 0.2 + 0.5 * sin($a + 0.1)],
                        ],
                        $k % 2 ? $hue : Canvas::mix($hue, '#ffffff', 0.35),
                    );
                }
                for ($k = 1; $k < 5; $k++) {
                    $c->disc($x, $y + 0.26, 0.05 * $k, $dark, 0.12);
                }
                $c->box($x - 0.1, $y + 0.22, 0.2, 0.05, $dark);
                break;
            case 2: // a crab
                foreach ([-1, 1] as $side) {
                    for ($k = 0; $k < 4; $k++) {
                        $c->path(
                            [
                                [$x + $side * 0.15, $y + 0.03 * $k],
                                [$x + $side * (0.32 + 0.02 * $k), $y - 0.06 + 0.07 * $k],
                                [$x + $side * (0.36 + 0.01 * $k), $y + 0.07 + 0.08 * $k],
                            ],
                            0.022,
                            $dark,
                        );
                    }
                    $c->path([[$x + $side * 0.16, $y - 0.06], [$x + $side * 0.3, $y - 0.2]], 0.04, $hue);
                    $c->disc($x + $side * 0.31, $y - 0.25, 0.075, $hue, 1, 0.06);
                    $c->shape(
                        [
                            [$x + $side * 0.31, $y - 0.25],
                            [$x + $side * 0.37, $y - 0.34],
                            [$x + $side * 0.29, $y - 0.34],
                        ],
                        '#f6efdf',
                    );
                    $c->disc($x + $side * 0.06, $y - 0.15, 0.02, $dark);
                }
                $c->disc($x, $y, 0.22, $hue, 1, 0.15);
                $c->disc($x, $y - 0.03, 0.16, Canvas::mix($hue, '#ffffff', 0.2), 1, 0.08);
                break;
            case 3: // weed
                for ($k = 0; $k < 9; $k++) {
                    $points = [];
                    $bend = $this->f(-0.2, 0.2);
                    for ($t = 0.0; $t <= 1; $t += 0.05) {
                        $points[] = [
                            $x + ($k - 4) * 0.035 + $bend * $t * $t + 0.02 * sin($t * 9 + $k),
                            0.78 - 0.62 * $t * $this->f(0.9, 1),
                        ];
                    }
                    $c->path($points, 0.02, $k % 2 ? $hue : $dark);
                    foreach ($points as $n => [$px, $py]) {
                        if ($n % 4 === 2) {
                            $c->disc($px + 0.02, $py, 0.018, Canvas::mix($hue, '#ffffff', 0.25), 1, 0.011);
                        }
                    }
                }
                break;
            default:
                // a fish
                $c->shape([[$x + 0.25, $y], [$x + 0.45, $y - 0.16], [$x + 0.41, $y], [$x + 0.45, $y + 0.16]], $dark);
                $c->shape([[$x - 0.1, $y - 0.12], [$x + 0.08, $y - 0.27], [$x + 0.16, $y - 0.08]], $dark);
                $c->disc($x, $y, 0.34, $hue, 1, 0.16);
                for ($k = 0; $k < 5; $k++) {
                    $c->disc(
                        $x - 0.06 + $k * 0.075,
                        $y,
                        0.014,
                        Canvas::mix($hue, '#ffffff', 0.45),
                        1,
                        0.11 - $k * 0.013,
                    );
                }
                $c->disc($x - 0.23, $y - 0.03, 0.034, '#fffdf5');
                $c->disc($x - 0.235, $y - 0.03, 0.018, '#1b1b1b');
        }
        $c->box($x - 0.3, 0.845, 0.6, 0.003, $dark);
        $c->text($this->label, $x, 0.91, 0.046, $dark, true, 0.5);
    }

    private function poster(): void
    {
        $c = $this->c;
        [$a, $b, $d] = $this->pick([
            ['#0f4c5c', '#e36414', '#f6e7cb'],
            ['#5f0f40', '#fb8b24', '#fff3dc'],
            ['#233d4d', '#fcca46', '#f5f1e4'],
            ['#3a5a40', '#dad7cd', '#f7f3e8'],
            ['#22223b', '#c9ada7', '#f2e9e4'],
        ]);
        $c->fill($a);
        $x = $c->ratio() / 2;
        $c->disc($x, 0.42, 0.27, $b);
        for ($k = 0; $k < 5; $k++) {
            $this->land($this->ridge(0.5 + $k * 0.06, 0.07, 1 + $k * 0.4), 0.74, Canvas::mix($b, $a, 0.3 + $k * 0.14));
        }
        if ($this->i(0, 1) === 1) {
            $this->vessel($x + $this->f(-0.1, 0.1), 0.5, 0.3);
        }
        $c->box(0, 0.72, $c->ratio(), 0.28, $d);
        $words = explode(' ', $this->label);
        $half = (int) ceil(count($words) / 2);
        $size = min(0.075, (1.3 * $c->ratio()) / max(8, mb_strlen(implode(' ', array_slice($words, 0, $half)))));
        $c->text(implode(' ', array_slice($words, 0, $half)), $x, 0.81, $size, $a, true, 0.5);
        $c->text(implode(' ', array_slice($words, $half)), $x, 0.9, $size, $a, true, 0.5);
        $c->box(0.04, 0.04, $c->ratio() - 0.08, 0.004, $d);
    }

    private function sponsor(): void
    {
        $c = $this->c;
        [$a, $b, $d] = $this->pick([
            ['#12343b', '#e1b382', '#fdf6ec'],
            ['#7d2e2e', '#f4e1d2', '#ffffff'],
            ['#24476b', '#8fd3e8', '#ffffff'],
            ['#2f5233', '#c9e265', '#f9fbe7'],
            ['#463f57', '#f7b267', '#fffaf3'],
            ['#f2c14e', '#2d3047', '#2d3047'],
            ['#e9e4d8', '#a63d40', '#2b2b2b'],
        ]);
        $c->fill($a);
        $w = $c->ratio();
        for ($k = 0; $k < 4; $k++) {
            $c->shape(
                [
                    [$w * 0.62 + $k * 0.18, 1.0],
                    [$w * 0.7 + $k * 0.18, 0],
                    [$w * 0.7 + $k * 0.18 + 0.12, 0],
                    [$w * 0.62 + $k * 0.18 + 0.12, 1.0],
                ],
                $b,
                0.35 + $k * 0.15,
            );
        }
        $c->disc($w - 0.5, 0.5, 0.3, $b);
        $c->disc($w - 0.5, 0.5, 0.2, $a);
        $c->disc($w - 0.5, 0.42, 0.08, $d);
        $size = min(0.26, ((0.92 * ($w - 1.1)) / max(6, mb_strlen($this->label))) * 1.35);
        $c->text($this->label, 0.16, 0.52, $size, $d, true);
        $c->text(
            $this->pick([
                'Friends of the bay since 1987',
                'Open all winter',
                'On the quay, Korrin',
                'Five minutes from the slipway',
                'Members pay less',
            ]),
            0.17,
            0.76,
            $size * 0.5,
            $b,
        );
    }

    private function harbour(): void
    {
        $c = $this->c;
        [$horizon, $palette] = $this->seascape(0.66);
        $c->box(0, 0.6, $c->ratio(), 0.1, '#8a8377');
        for ($x = -0.05; $x < $c->ratio(); $x += $w) {
            $w = $this->f(0.12, 0.22);
            $h = $this->f(0.16, 0.34);
            $wall = Canvas::mix(
                $this->pick(['#d9674e', '#e8c468', '#7fb0a8', '#f1ebdc', '#c98fa0', '#8fa8c9', '#b9c58a']),
                self::SEAS[$palette][1],
                0.1,
            );
            $c->box($x, 0.62 - $h, $w - 0.004, $h, $wall);
            $c->shape([[$x - 0.01, 0.62 - $h], [$x + $w / 2, 0.55 - $h], [$x + $w + 0.006, 0.62 - $h]], '#5d4a45');
            for ($r = 0; $r < 2; $r++) {
                for ($k = 0; $k < 2; $k++) {
                    $c->box(
                        $x + $w * (0.2 + 0.4 * $k),
                        0.65 - $h + $r * 0.09,
                        $w * 0.18,
                        0.05,
                        $this->i(0, 2) === 0 ? '#ffe7a6' : '#3c4c57',
                    );
                }
            }
        }
        for ($n = $this->i(2, 4); $n > 0; $n--) {
            $this->vessel($this->f(0.15, $c->ratio() - 0.15), $this->f($horizon + 0.14, 0.94), $this->f(0.2, 0.36));
        }
    }

    private function underwater(): void
    {
        $c = $this->c;
        [$a, $b] = $this->pick([['#7fd4d6', '#0b3d55'], ['#8fd0e6', '#15315c'], ['#a6dcc0', '#0c4a4a']]);
        $c->gradient(0, 1, [$a, Canvas::mix($a, $b, 0.6), $b]);
        for ($k = 0; $k < 7; $k++) {
            $x = $this->f(0, $c->ratio());
            $c->shape([[$x, 0], [$x + 0.07, 0], [$x + 0.3, 1], [$x + 0.04, 1]], '#ffffff', 0.07);
        }
        for ($k = $this->i(8, 24), $hue = $this->pick(self::SAILS); $k > 0; $k--) {
            $x = $this->f(0.05, $c->ratio() - 0.05);
            $y = $this->f(0.12, 0.74);
            $s = $this->f(0.02, 0.06);
            $c->shape(
                [[$x + $s * 1.2, $y], [$x + $s * 2.2, $y - $s * 0.7], [$x + $s * 2.2, $y + $s * 0.7]],
                Canvas::mix($hue, $b, 0.3),
            );
            $c->disc($x, $y, $s * 1.5, Canvas::mix($hue, $b, 0.15), 1, $s * 0.7);
            $c->disc($x - $s * 0.9, $y - $s * 0.15, $s * 0.15, '#10222c');
        }
        for ($k = 26; $k > 0; $k--) {
            $x = $this->f(0, $c->ratio());
            $c->path(
                [
                    [$x, 1.02],
                    [$x + $this->f(-0.03, 0.03), $this->f(0.86, 0.95)],
                    [$x + $this->f(-0.06, 0.06), $this->f(0.68, 0.85)],
                ],
                $this->f(0.012, 0.03),
                Canvas::mix('#2f6f4a', $b, $this->f(0, 0.7)),
            );
        }
    }

    private function icon(): void
    {
        $c = $this->c;
        $c->fill($this->pick(['#0e4a5c', '#e8b23a', '#b8402e', '#3f6b4f', '#5c4a72']));
        $x = $c->ratio() / 2;
        switch ($this->i(0, 3)) {
            case 0:
                $c->disc($x, 0.5, 0.3, '#ffffff');
                $c->disc($x + 0.12, 0.42, 0.24, '#0e4a5c');
                break;
            case 1:
                $c->shape([[$x, 0.16], [$x + 0.3, 0.66], [$x, 0.66]], '#ffffff');
                $c->shape([[$x - 0.34, 0.72], [$x + 0.34, 0.72], [$x + 0.2, 0.88], [$x - 0.2, 0.88]], '#ffffff');
                break;
            case 2:
                for ($k = 0; $k < 3; $k++) {
                    $c->path(
                        [
                            [0.14, 0.34 + $k * 0.18],
                            [0.34, 0.28 + $k * 0.18],
                            [0.62, 0.4 + $k * 0.18],
                            [0.86, 0.32 + $k * 0.18],
                        ],
                        0.08,
                        '#ffffff',
                    );
                }
                break;
            default:
                $c->disc($x, 0.42, 0.24, '#ffffff');
                $c->shape([[$x - 0.2, 0.55], [$x + 0.2, 0.55], [$x, 0.9]], '#ffffff');
                $c->disc($x, 0.42, 0.1, '#b8402e');
        }
    }

    private function texture(): void
    {
        $c = $this->c;
        $base = $this->pick(['#eef2f0', '#f3eee2', '#e4ecef', '#17384a']);
        $c->fill($base);
        $line = $base === '#17384a' ? '#255067' : Canvas::mix($base, '#4f7a8a', 0.22);
        for ($k = -2; $k < 14; $k++) {
            $c->path($this->ridge($k * 0.09, 0.07, 1.1), 0.004, $line);
        }
    }
}
