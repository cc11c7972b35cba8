<?php

declare(strict_types=1);

namespace App\Sites;

use DateTimeImmutable;
use DateTimeZone;

/** A column that holds a moment, and how it is written there. */
final readonly class DateColumn
{
    /**
     * How a moment may be written: as the database writes dates, seconds or milliseconds since 1970, or digits alone.
     */
    public const FORMS = ['date', 'unix', 'unix-ms', 'compact'];

    /**
     * @param  string  $form one of FORMS, or a pattern in the letters of PHP's date(): `d.m.Y H:i`
     * @param  string  $zone where a moment that names no zone of its own was written
     */
    public function __construct(public string $column, public string $form = 'date', private string $zone = 'UTC')
    {
    }

    public static function isPattern(string $form): bool
    {
        return preg_match('~[yY]~', $form) === 1 && preg_match('~[mnMF]~', $form) === 1;
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
            'compact' => $this->compact($text, $day),
            'date' => self::zoned(preg_match('~^\d{4}-\d\d-\d\d$~D', $text) === 1 ? "$text $day" : $text, $this->zone),
            default => $this->patterned($text, $day),
        };

        return $seconds === false ? null : new DateTimeImmutable("@$seconds");
    }

    /** Digits alone: `20260131`, `20260131T0900`, `20260131090000`. */
    private function compact(string $text, string $day): int|false
    {
        if (preg_match('~^(\d{4})(\d\d)(\d\d)(?:T?(\d\d)(\d\d)(\d\d)?)?~', $text, $m) !== 1) {
            return false;
        }
        $time = isset($m[4], $m[5]) ? "$m[4]:$m[5]:".($m[6] ?? '00') : $day;

        return self::zoned("$m[1]-$m[2]-$m[3] $time", $this->zone);
    }

    private function patterned(string $text, string $day): int|false
    {
        $hasTime = preg_match('~[GHhgU]~', $this->form) === 1;
        $moment = DateTimeImmutable::createFromFormat("!$this->form", $text, new DateTimeZone($this->zone));
        [$hour, $minute, $second] = array_map(intval(...), explode(':', $day));

        return match (true) {
            $moment === false => false,
            $hasTime => $moment->getTimestamp(),
            default => $moment->setTime($hour, $minute, $second)->getTimestamp(),
        };
    }

    /** What names a zone of its own keeps it. */
    private static function zoned(string $text, string $zone): int|false
    {
        $moment = date_create_immutable($text, new DateTimeZone($zone));

        return $moment === false ? false : $moment->getTimestamp();
    }
}
