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
    'published' => ['published', ColumnType::Number, ['1', '0'], [['column' => 'published', 'empty' => 'waiting']]],
    'hidden' => ['hidden', ColumnType::Flag, ['1', '0'], [['column' => 'hidden', 'set' => 'waiting']]],
    'who sent it' => ['sender', ColumnType::Text, ['maren'], []],
    'how many were sent' => ['sent_count', ColumnType::Number, ['120', '80'], []],
]);
