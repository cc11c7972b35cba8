<?php

declare(strict_types=1);

namespace Ylema\Logs;

/**
 * The Common Log Format and what web servers made of it: the Combined Log Format with referrer and agent, either with
 * the name of the host before it (and a port behind that), and whatever a site's own format has after it.
 *
 * Bytes that are no printable ASCII are written as `\xhh`, and quotes as `\"`, by all servers in use.
 */
final class LogFormat
{
    /**
     * A host stands before the address of who asked; it is told by what follows it being such an address. A name of
     * somebody who signed in may hold spaces.
     */
    private const LINE =
        '~^(?:([^\s"\[]+) (?=[0-9a-f.:]*[.:][0-9a-f.:]* ))?[^\s"\[]+ [^\s"\[]+ [^\["]{1,200}'
        .'\[(\d\d/[A-Za-z]{3}/\d{4}):(\d\d):(\d\d):(\d\d) ([+-]\d{4})\] '
        .'"([A-Z]{2,12}) ([^"\\\\ ]++(?:\\\\.[^"\\\\ ]*+)*+)(?: HTTP/[\d.]+)?" (\d{3}) (?:\d+|-)'
        .'(?: "([^"\\\\]*+(?:\\\\.[^"\\\\]*+)*+)" "([^"\\\\]*+(?:\\\\.[^"\\\\]*+)*+)")?(?:\s|$)~';

    private const MONTHS = [
        'jan' => 1,
        'feb' => 2,
        'mar' => 3,
        'apr' => 4,
        'may' => 5,
        'jun' => 6,
        'jul' => 7,
        'aug' => 8,
        'sep' => 9,
        'oct' => 10,
        'nov' => 11,
        'dec' => 12,
    ];

    /** A log of one day repeats its day on every line. */
    private string $day = '';

    private int $midnight = 0;

    /** @return LogLine|null null for what is no request in any of these formats */
    public function read(string $line): ?LogLine
    {
        if (preg_match(self::LINE, $line, $m) !== 1) {
            return null;
        }
        [, $host, $day, $hour, $minute, $second, $zone, $method, $target, $status] = $m;
        $midnight = $day === $this->day ? $this->midnight : $this->midnight($day);
        if ($midnight === null) {
            return null;
        }
        $time = $midnight + (int) $hour * 3600 + (int) $minute * 60 + (int) $second;
        if ($zone !== '+0000') {
            $offset = ((int) substr($zone, 1, 2)) * 3600 + ((int) substr($zone, 3, 2)) * 60;
            $time += $zone[0] === '-' ? $offset : -$offset;
        }
        [$referrer, $agent] = isset($m[11]) ? [$m[10], $m[11]] : ['', ''];

        return new LogLine(
            $host === '' ? null : $host,
            $time,
            $method,
            self::plain($target),
            (int) $status,
            $referrer === '-' ? '' : self::plain($referrer),
            $agent === '-' ? '' : $agent,
        );
    }

    private function midnight(string $day): ?int
    {
        [$date, $month, $year] = explode('/', $day);
        $number = self::MONTHS[strtolower($month)] ?? null;
        if ($number === null || ! checkdate($number, (int) $date, (int) $year)) {
            return null;
        }
        $this->day = $day;

        return $this->midnight = (int) gmmktime(0, 0, 0, $number, (int) $date, (int) $year);
    }

    private static function plain(string $written): string
    {
        if (! str_contains($written, '\\')) {
            return $written;
        }

        return preg_replace_callback(
            '~\\\\(?:x([0-9A-Fa-f]{2})|(.))~s',
            static fn (array $m): string => $m[1] !== '' ? chr((int) hexdec($m[1])) : $m[2] ?? '',
            $written,
        ) ?? $written;
    }
}
