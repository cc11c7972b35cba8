<?php

declare(strict_types=1);

namespace Tests\Core\Net;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** Draws names of files and hides them in layers of escapes, among names that are near. */
final class Hidden
{
    private readonly Randomizer $random;

    public function __construct(int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    /** @return array{list<string>, string, string, int, int} paths, the name, the text, its offset and length there */
    public function draw(): array
    {
        $name = $this->name();
        $paths = ["media/$name"];
        for ($i = 0; $i < 5; $i++) {
            $paths[] = 'media/'.$this->name();
        }
        $layers = $this->random->getInt(0, 4);
        [$said, $before, $behind] = [$name, $this->one(['"', '(', ' x ', '=']), $this->one(['"', ')', ' ', ';'])];
        for ($i = 0; $i < $layers; $i++) {
            $layer = $this->one(self::layers());
            [$said, $before, $behind] = [$layer($said, $this->random), $layer($before, $this->random),
                $layer($behind, $this->random)];
        }
        $filler = $this->one(["lorem & ipsum\n", 'a%20b ', '&amp; x ', '']);
        $around = str_repeat($filler, $this->random->getInt(0, 400));

        $text = $around.$before.$said.$behind.$around;

        return [$paths, $name, $text, strlen($around.$before), strlen($said)];
    }

    private function name(): string
    {
        $words = ['seal', 'Colony', 'tern', 'Möwe', 'harbour', '海滩', 'DSC', 'портрет', 'Q&A', 'naïve', '07'];
        $parts = [];
        for ($i = $this->random->getInt(2, 3); $i > 0; $i--) {
            $parts[] = $this->one($words);
        }

        return implode($this->one(['-', '_', ' ']), $parts).$this->random->getInt(100, 999)
            .$this->one(['.jpg', '.PNG', '.pdf', '.w640.jpg', '.svg']);
    }

    /** @return list<callable(string, Randomizer): string> each hides every letter, or some */
    private static function layers(): array
    {
        return [
            static fn (string $s): string => rawurlencode($s),
            static fn (string $s): string => implode('', array_map(
                static fn (string $b): string => sprintf('%%%02X', ord($b)),
                str_split($s),
            )),
            static fn (string $s): string => htmlspecialchars($s, ENT_QUOTES),
            static fn (string $s, Randomizer $r): string => implode('', array_map(
                static fn (string $c): string => $r->getInt(0, 2) === 0
                    ? sprintf($r->getInt(0, 1) === 0 ? '&#%d;' : '&#x%x;', mb_ord($c))
                    : htmlspecialchars($c, ENT_QUOTES),
                mb_str_split($s),
            )),
            static fn (string $s): string => substr((string) json_encode($s), 1, -1),
            static fn (string $s): string => addslashes($s),
            static fn (string $s, Randomizer $r): string => implode('', array_map(
                static fn (string $c): string => $r->getInt(0, 1) === 0 && mb_ord($c) < 0x10000
                    ? sprintf('\u%04x', mb_ord($c))
                    : addslashes($c),
                mb_str_split($s),
            )),
        ];
    }

    /**
     * @template T
     *
     * @param  non-empty-list<T>  $of
     * @return T
     */
    private function one(array $of): mixed
    {
        return $of[$this->random->getInt(0, count($of) - 1)];
    }
}
