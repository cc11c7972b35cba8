<?php

declare(strict_types=1);

use Ylema\Connect\ColumnProfile;
use Ylema\Connect\ColumnType;
use Ylema\Connect\States;
use Ylema\Connect\TableProfile;

/*
 * What says whether a row is out on the site.
 */

it('takes columns for what says whether something is out', function (
    string $name,
    ColumnType $type,
    array $values,
    array $rules,
): void {
    $column = new ColumnProfile($name, $type, $values);
    $table = new TableProfile('letters', 9, [$name => $column], [['id']]);
    expect((new States())->of($table, 'letter')[0])->toBe($rules);
})->with([
    'a letter that was sent' => ['sent', ColumnType::Number, ['1', '0'], [['column' => 'sent', 'empty' => 'waiting']]],
    'a letter that is sent' => [
        'is_sent',
        ColumnType::Flag,
        ['1', '0'],
        [['column' => 'is_sent', 'empty' => 'waiting']],
    ],
    'when it was sent' => [
        'sent_at',
        ColumnType::Moment,
        ['2019-05-04'],
        [['column' => 'sent_at', 'empty' => 'waiting']],
    ],
    'in another language' => [
        'verschickt',
        ColumnType::Number,
        ['1', '0'],
        [['column' => 'verschickt', 'empty' => 'waiting']],
    ],
    'when it came out, whatever else the day stands in' => [
        'published',
        ColumnType::Moment,
        array_map(static fn (int $n): string => "2019-05-0$n", range(1, 9)) + ['2019-06-01', '2019-06-02'],
        [['column' => 'published', 'empty' => 'waiting'], ['from' => 'published']],
    ],
    'when it came out, in seconds' => [
        'publishedAt',
        ColumnType::Number,
        ['1557000000', '1557100000'],
        [['column' => 'publishedAt', 'empty' => 'waiting'], ['from' => ['column' => 'publishedAt', 'as' => 'unix']]],
    ],
    'from when on it is shown' => [
        'visible_from',
        ColumnType::Moment,
        ['2019-05-04'],
        [['from' => 'visible_from']],
    ],
    'published' => ['published', ColumnType::Number, ['1', '0'], [['column' => 'published', 'empty' => 'waiting']]],
    'hidden' => ['hidden', ColumnType::Flag, ['1', '0'], [['column' => 'hidden', 'set' => 'waiting']]],
    'who sent it' => ['sender', ColumnType::Text, ['maren'], []],
    'how many were sent' => ['sent_count', ColumnType::Number, ['120', '80'], []],
]);
