<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/** Resolves links to the site's pages, in batches, and says for each that leads nowhere what it most likely means. */
final readonly class PageResolver
{
    public function __construct(private PageIndex $pages)
    {
    }

    /**
     * How an address is known here: the path below the root, decoded and without a slash at either end, and the query.
     * What tells the two apart is written as "%3F" where it is part of the path, as on disks it may be, and what looks
     * so already gets one more "%25": no two addresses have one key.
     */
    public static function key(string $path, ?string $query = null): string
    {
        if (str_contains($path, '?') || str_contains($path, '%')) {
            $path = strtr((string) preg_replace('~%(?=(?:25)*3F)~', '%25', $path), ['?' => '%3F']);
        }

        return trim($path, '/').($query === null || $query === '' ? '' : "?$query");
    }

    /** The same without its query. */
    public static function bare(string $key): string
    {
        return explode('?', $key, 2)[0];
    }

    /** The path that a key is of, decoded. */
    public static function path(string $key): string
    {
        $path = strtr(self::bare($key), ['%3F' => '?']);

        return str_contains($path, '%25') ? (string) preg_replace('~%25(?=(?:25)*3F)~', '%', $path) : $path;
    }

    /** Its query; null where there is none. */
    public static function query(string $key): ?string
    {
        return explode('?', $key, 2)[1] ?? null;
    }

    /**
     * @param  array<array-key, Place>  $places
     * @return array<array-key, Outcome> under the same keys
     */
    public function resolve(array $places): array
    {
        $asked = [];
        foreach ($places as $place) {
            if ($place->path !== null) {
                $key = self::key($place->path, $place->url->query);
                $asked[$key] = true;
                $asked[self::bare($key)] = true;
            }
        }
        if ($asked === []) {
            return array_map(static fn (): Outcome => new Outcome(OutcomeKind::Elsewhere), $places);
        }
        $all = array_map(strval(...), array_keys($asked));
        $known = $this->pages->pages($all);
        $rest = array_values(
            array_filter($all, static fn (string $key): bool => ! ($known[$key][1] ?? false)),
        );
        $evidence = $rest === []
            ? [[], [], [], []]
            : [
                $this->pages->redirected($rest),
                $this->pages->answers($rest),
                $this->pages->formerly($rest),
                $this->pages->alike($rest),
            ];

        return array_map(fn (Place $place): Outcome => self::decide($place, $known, ...$evidence), $places);
    }

    /**
     * @param  array<string, array{string, bool}>  $known
     * @param  array<string, string>  $redirected
     * @param  array<string, PageAnswer>  $answers
     * @param  array<string, string|null>  $formerly
     * @param  array<string, list<string>>  $alike
     */
    private static function decide(
        Place $place,
        array $known,
        array $redirected,
        array $answers,
        array $formerly,
        array $alike,
    ): Outcome {
        if ($place->path === null) {
            return new Outcome(OutcomeKind::Elsewhere);
        }
        $key = self::key($place->path, $place->url->query);
        $bare = self::bare($key);
        $page = $known[$key] ?? $known[$bare] ?? null;
        $answer = $answers[$key] ?? null;
        $isFormer = $place->whose === Whose::Former;
        $leadsTo = $redirected[$key] ?? $redirected[$bare] ?? $answer?->leadsTo;
        $served = match (true) {
            $page !== null && $page[1] => $page[0],
            $leadsTo !== null => $leadsTo,
            $answer?->isServed() === true => $key,
            default => null,
        };
        if ($served !== null) {
            return new Outcome(
                match (true) {
                    $isFormer => OutcomeKind::FormerAddress,
                    $leadsTo !== null && $served === $leadsTo => OutcomeKind::ByRedirect,
                    $place->insecure => OutcomeKind::InsecureScheme,
                    default => OutcomeKind::Page,
                },
                $served,
                asked: $key,
            );
        }
        $now = $formerly[$key] ?? $formerly[$bare] ?? null;
        if ($now !== null) {
            return new Outcome(OutcomeKind::DeadLink, $now, [$now], $key);
        }
        $isDead = $isFormer
            || $page !== null
            || $answer?->isGone() === true
            || array_key_exists($key, $formerly)
            || array_key_exists($bare, $formerly);

        // An address that nobody asked for yet may be served by the site's own code: that is not for us to say.
        return $isDead
            ? new Outcome(OutcomeKind::DeadLink, null, $alike[$key] ?? $alike[$bare] ?? [], $key)
            : new Outcome(OutcomeKind::Page, null, [], $key);
    }
}
