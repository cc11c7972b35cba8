<?php

declare(strict_types=1);

namespace App\Sites;

use DateTimeImmutable;

/** A column that holds a moment, and how it is written there. */
final readonly class DateColumn
{
    /**
     * How a moment may be written: as the database writes dates, seconds or milliseconds since 1970, or digits alone.
     */
    public const FORMS = ['date', 'unix', 'unix-ms', 'compact'];

    /** @param  string  $form one of FORMS */
    public function __construct(public string $column, public string $form = 'date')
    {
    }

    /**
     * @param  bool  $endOfDay whether a date without a time lasts until its day is over
     * @return DateTimeImmutable|null null where it says no moment: empty, 0, `0000-00-00`
     */
    public function moment(string $text, bool $endOfDay): ?DateTimeImmutable
    {
        $text = trim($text);
        // What a database writes where it has no date: nothing but zeros, however they are grouped.
        if ($text === '' || preg_match('~^[0\s:.TZ/+-]+$~D', $text) === 1) {
            return null;
        }
        $day = $endOfDay ? '23:59:59' : '00:00:00';
        $seconds = match ($this->form) {
            'unix' => is_numeric($text) ? (int) $text : false,
            'unix-ms' => is_numeric($text) ? intdiv((int) $text, 1000) : false,
            'compact' => self::compact($text, $day),
            default => strtotime(preg_match('~^\d{4}-\d\d-\d\d$~D', $text) === 1 ? "$text $day UTC" : $text),
        };

        return $seconds === false ? null : new DateTimeImmutable("@$seconds");
    }

    /** Digits alone: `20260131`, `20260131T0900`, `20260131090000`. */
    private static function compact(string $text, string $day): int|false
    {
        if (preg_match('~^(\d{4})(\d\d)(\d\d)(?:T?(\d\d)(\d\d)(\d\d)?)?~', $text, $m) !== 1) {
            return false;
        }
        $time = isset($m[4], $m[5]) ? "$m[4]:$m[5]:".($m[6] ?? '00') : $day;

        return strtotime("$m[1]-$m[2]-$m[3] $time UTC");
    }
}
