<?php

declare(strict_types=1);

namespace Ylema\Redirects;

/** Judges a redirect by what the old address and its target answer. */
final readonly class Check
{
    /** Addresses that one redirect may lead over; browsers follow 20 (Fetch, 4.4). */
    public const LONGEST = 20;

    /** @param  int  $status what the old address itself answered; 0 where nobody knows */
    private function __construct(public Verdict $verdict, public string $words, public int $status = 0)
    {
    }

    /**
     * @param  list<array{string, int}>  $steps each address that was asked, the old one first, and its answer; where
     *       one sends on, the next is where it sends; 0 for one that nobody asked, as it is of another site
     * @param  string  $expected whole address that the list says
     * @param  string|null  $problem why the last one did not answer
     */
    public static function judge(Entry $entry, array $steps, string $expected, ?string $problem = null): self
    {
        if ($steps === []) {
            return new self(Verdict::Unknown, $problem ?? 'It was not asked.');
        }
        $status = $steps[0][1];
        if ($entry->isGone()) {
            return match (true) {
                $status === 410 => new self(Verdict::Right, ''),
                $status === 404 => new self(Verdict::Right, 'It answers 404, which says nearly the same as 410.'),
                default => new self(Verdict::Missing, "It answers $status; the list says that nothing is there."),
            };
        }
        if (! self::sendsOn($status)) {
            return new self(
                Verdict::Missing,
                $status < 300
                    ? 'It still answers with a page of its own; the redirect does not come into play.'
                    : "Visitors get $status: whatever serves the site does not know this redirect.",
                $status,
            );
        }
        $addresses = array_column($steps, 0);
        if (count(array_unique($addresses)) < count($addresses) || count($steps) > self::LONGEST) {
            $circle = implode(' → ', self::once($addresses));

            return new self(Verdict::Loop, "It leads round in a circle: $circle.");
        }
        $second = $addresses[1] ?? null;
        if ($second !== null && self::plain($second) !== self::plain($expected)) {
            return new self(Verdict::Wrong, "It leads to $second, and the list says $expected.");
        }
        [$last, $answer] = $steps[count($steps) - 1];
        if ($answer === 0 && count($steps) === 2) {
            return new self(Verdict::Right, "Whether $last answers was not asked: it is of another site.");
        }
        if ($problem !== null || self::sendsOn($answer)) {
            return new self(Verdict::Unknown, $problem ?? "Nothing can be said of $last.");
        }
        if ($answer >= 400) {
            return new self(Verdict::Dead, "It leads to $last, which answers $answer.");
        }

        return count($steps) > 2
            ? new self(Verdict::Chain, "It leads to an address that sends visitors on again, to $last. Say that one.")
            : new self(Verdict::Right, '');
    }

    /**
     * @param  list<string>  $addresses
     * @return list<string> up to the first that was there before, and no more than a person reads
     */
    private static function once(array $addresses): array
    {
        $seen = [];
        foreach (array_slice($addresses, 0, 6) as $address) {
            $isAgain = in_array($address, $seen, true);
            $seen[] = $address;
            if ($isAgain) {
                break;
            }
        }

        return $seen;
    }

    public static function sendsOn(int $status): bool
    {
        return in_array($status, [301, 302, 303, 307, 308], true);
    }

    /** Whether a slash stands at the end is not what a redirect is judged by. */
    private static function plain(string $address): string
    {
        return rtrim(rawurldecode(preg_replace('~#.*$~s', '', $address) ?? ''), '/');
    }
}
