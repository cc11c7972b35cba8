<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Sites\Hole;

/** Makes the address of a sampled row, as a reading would by the map that is proposed. */
final readonly class AddressFilling
{
    /** Pages below pages below pages. */
    private const DEPTH = 10;

    /** @var array<string, array<string, string|null>> */
    private array $byId;

    /**
     * @param  list<array<string, string|null>>  $rows
     * @param  string|null  $parent the column with the number of the row above
     * @param  string|null  $language the column that says it
     */
    public function __construct(array $rows, string $id, private ?string $parent, private ?string $language)
    {
        $byId = [];
        foreach ($rows as $row) {
            $byId[(string) $row[$id]] = $row;
        }
        $this->byId = $byId;
    }

    /**
     * @param  string  $address with columns in braces
     * @param  array<string, string|null>  $row
     * @param  string|null  $unsaid the language that stands in no address
     * @return string|null below the root; null where a part of it is missing
     */
    public function of(string $address, array $row, ?string $unsaid, int $depth = 0): ?string
    {
        $isWhole = $depth < self::DEPTH;
        $filled = preg_replace_callback(
            Hole::PATTERN,
            function (array $m) use ($address, $row, $unsaid, $depth, &$isWhole): string {
                $value = $isWhole ? $this->value($m[1], $address, $row, $unsaid, $depth) : null;
                $isWhole = $value !== null;

                return trim((string) $value, '/');
            },
            $address,
        );

        return $isWhole && $filled !== null ? ltrim(preg_replace('~/{2,}~', '/', $filled) ?? '', '/') : null;
    }

    /** @param  array<string, string|null>  $row */
    private function value(string $hole, string $address, array $row, ?string $unsaid, int $depth): ?string
    {
        $part = Hole::of($hole);
        if ($part->column === Pages::UP.'.address') {
            $above = (string) ($row[(string) $this->parent] ?? '');
            if ($above === '' || $above === '0') {
                return $part->else;
            }

            return isset($this->byId[$above]) ? $this->of($address, $this->byId[$above], $unsaid, $depth + 1) : null;
        }
        $value = trim($part->said((string) ($row[$part->column] ?? '')), '/');
        if ($part->column === $this->language && $value === $unsaid) {
            return '';
        }

        return $value === '' ? null : $value;
    }
}
