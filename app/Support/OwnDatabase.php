<?php

declare(strict_types=1);

namespace App\Support;

use PDOException;
use Throwable;

/** What Ylema's own database said, in a sentence that says what to do. Codes: PostgreSQL, appendix A. */
final class OwnDatabase
{
    /** The beginning of an SQLSTATE → sentence; the first that fits holds. */
    private const SAYS = [
        '53100' => 'The disk of Ylema’s database is full, so nothing was written. Make room on it, then try again.',
        '53200' => 'Ylema’s database has no memory left. Give it more, or let fewer workers run, then try again.',
        '53300' => 'Ylema’s database takes no more connections. Try again in a minute; if it stays so, raise its limit '
            .'(max_connections) or let fewer workers run.',
        '25006' => 'Ylema’s database takes no writes (it is read-only), so nothing was written. Point Ylema to the one '
            .'that does, or end its recovery, then try again.',
        '58030' => 'The disk of Ylema’s database failed (input/output error). Look at that disk before anything else.',
        '08' => self::AWAY,
        '57P' => self::AWAY,
        // Of a connection that was refused, the driver has no state but its own number.
        '7' => self::AWAY,
    ];

    private const AWAY = 'The database of Ylema does not answer. Nothing was changed. Start it, or mend its settings, '
        .'then try again.';

    /** @return string|null null where it is no word of the database, or a fault of Ylema's own statement */
    public static function says(Throwable $e): ?string
    {
        for ($one = $e; $one !== null; $one = $one->getPrevious()) {
            if (! $one instanceof PDOException) {
                continue;
            }
            $state = preg_match('~SQLSTATE\[(\w{5})\]~', $one->getMessage(), $m) === 1 ? $m[1] : '';
            foreach (self::SAYS as $begins => $sentence) {
                if (
                    str_starts_with($state, (string) $begins)
                    || ($state === '' && (string) $one->getCode() === (string) $begins)
                ) {
                    return $sentence;
                }
            }
        }

        return null;
    }

    public static function isAway(Throwable $e): bool
    {
        return self::says($e) === self::AWAY;
    }
}
