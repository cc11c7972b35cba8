<?php

declare(strict_types=1);

use Ylema\Connect\KeyColumn;
use Ylema\Connect\MediaKeys;

/**
 * @param  list<string>  $values
 * @param  list<string>  $keys of media
 */
function couldBeKeys(array $values, array $keys, string ...$names): bool
{
    $media = new MediaKeys($keys);
    $column = new KeyColumn($media);
    foreach ($values as $row => $value) {
        $column->add(KeyColumn::parts($value, $media), (string) $row);
    }

    return $column->couldBeKeys(array_values($names));
}

/** @return list<string> */
function numbered(int $from, int $to, int $step = 1): array
{
    return array_map(strval(...), range($from, $to, $step));
}

it('tells numbers that could be keys from those that chance gives', function (
    array $values,
    array $keys,
    array $names,
    bool $could,
): void {
    expect(couldBeKeys($values, $keys, ...$names))->toBe($could);
})->with([
    'sparse keys, whatever the name' => [['1007', '1021', '1049', '1070'], numbered(1000, 9000, 7), ['n'], true],
    'some of them gone' => [[...numbered(1007, 1084, 7), '1002'], numbered(1000, 9000, 7), ['n'], true],
    'most of them gone' => [['1007', '1021', '1048', '1062', '1002'], numbered(1000, 9000, 7), ['n'], false],
    'one, by chance' => [['1007'], numbered(1000, 9000, 7), ['n'], false],
    'keys in two heaps' => [['9003', '9005'], [...numbered(1, 352), ...numbered(9001, 9010)], ['fact'], true],
    'dense keys, by name' => [['12', '31'], numbered(1, 96), ['second_id'], true],
    'dense keys, a picture' => [['12'], numbered(1, 96), ['hero'], true],
    'dense keys, words run together' => [['12'], numbered(1, 96), ['mediaid'], true],
    'dense keys, by the word of its rows' => [['12'], numbered(1, 96), ['value', 'hull_image'], true],
    'a few small numbers' => [['1', '2', '3'], numbered(1, 96), ['grade'], false],
    'an order of things' => [numbered(1, 80), numbered(1, 96), ['place'], false],
    'numbers spread like keys' => [['3', '9', '17', '20', '44', '51', '77', '90'], numbered(1, 96), ['shown'], true],
    'measures, spread' => [['3', '9', '17', '20', '44', '51', '77', '90'], numbered(1, 96), ['weight'], false],
    'how many pictures' => [['3', '9'], numbered(1, 96), ['image_count'], false],
    'yes and no' => [['1', '0', '1'], numbered(1, 96), ['is_paid'], false],
    'a list' => [['12 15 19'], numbered(1, 96), ['shown'], true],
    'a list of json' => [['[12,15,"19"]', '[]'], numbered(1, 96), ['shown'], true],
    'a list with commas at both ends' => [[',12,15,'], numbered(1, 96), ['shown'], true],
    'sizes' => [['640 480'], numbered(1, 96), ['shown'], false],
    'texts' => [['Built by hand', '12'], numbered(1, 96), ['image'], false],
    'digests' => [['a91f04c2e7'], ['a91f04c2e7', 'b00f13d9aa'], ['x'], true],
    'words that are keys of media' => [['gull', 'seal'], ['gull', 'seal', 'tern'], ['birds'], false],
    'words, in a column of pictures' => [['gull', 'seal'], ['gull', 'seal', 'tern'], ['photo'], true],
    'nothing' => [['', '0', 'null', '-1'], numbered(1, 96), ['image_id'], false],
]);

it('knows how dense keys lie', function (): void {
    $keys = new MediaKeys(['7', '3', '12', 'logo']);
    expect($keys->density(3, 12))->toBe(0.3)
        ->and($keys->density(4, 6))->toBe(0.0)
        ->and($keys->density(9, 8))->toBe(0.0)
        ->and($keys->highest())->toBe(12)
        ->and($keys->areNumbers)->toBeFalse()
        ->and($keys->has('logo'))->toBeTrue();
});

it('knows which columns most likely hold keys, and which only may', function (
    array $media,
    array $values,
    string $name,
    bool $isLikely,
): void {
    $keys = new MediaKeys(array_map(strval(...), $media));
    $column = new KeyColumn($keys);
    foreach ($values as $n => $value) {
        $column->add(KeyColumn::parts((string) $value, $keys), (string) $n);
    }
    expect($column->areLikelyKeys([$name]))->toBe($isLikely);
})->with([
    'as far as the keys go, called a key' => [range(1, 60), [3, 9, 14, 22, 31, 40, 51, 60, 9], 'capa_id', true],
    'as far as the keys go, called nothing' => [range(1, 60), [3, 9, 14, 22, 31, 40, 51, 60, 9], 'lead', false],
    'where keys have gaps' => [range(7, 700, 7), [14, 21, 70, 140, 203, 350, 490, 693], 'lead', true],
    'lists' => [range(1, 60), ['3, 9', '14/22', '31;40', '51|60', '2 4'], 'more', true],
    'of somebody' => [range(1, 60), [3, 9, 14, 22, 31, 40, 51, 60, 9], 'author_id', false],
    'a number where keys have gaps' => [range(7, 700, 7), [14, 21, 70, 140, 203, 350, 490, 693], 'clicks', false],
    'a number' => [range(1, 60), [3, 9, 14, 22, 31, 40, 51, 60, 9], 'price', false],
    'a number in another language' => [range(1, 60), [3, 9, 14, 22, 31, 40, 51, 60, 9], 'cena', false],
    'an order' => [range(1, 60), range(1, 9), 'sort_id', false],
    'words' => [['a1b2c3d4e5', 'b1b2c3d4e5'], ['a1b2c3d4e5', 'b1b2c3d4e5'], 'pointer', true],
]);
