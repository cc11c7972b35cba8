<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\Resolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Url;
use Ylema\Addresses\Whose;
use Ylema\Plan\Words;

/**
 * Addresses that a site had before, or has as well, and that nobody told: what texts ask for there lies in its folder.
 */
final readonly class OtherAddresses
{
    public const FORMER = 'former';

    public const ALIAS = 'alias';

    /** Addresses that are looked at; more would tell nothing new. */
    private const MOST = 20_000;

    /** Folders in which a site may have been at another address. */
    private const FOLDERS = 3;

    /** Hosts that are asked about, the likeliest first. */
    private const ASKED = 8;

    private const WHOLE = '~https?:/{2}[\w.-]+\.\w+(?::\d+)?(?:/[^\s"\'<>()\[\]{}\\\\,|]*)?~i';

    /** @var array<string, array<string, true>> address of a root → files of the site that are asked for below it */
    private array $found;

    /** @var array<string, true> roots that a value is, and nothing else */
    private array $named;

    /**
     * @param  iterable<string>  $texts
     */
    public function __construct(private FileLookup $files, private SiteAddresses $addresses, iterable $texts)
    {
        $found = $named = $all = $hosts = [];
        $seen = 0;
        foreach ($texts as $text) {
            // In json, slashes are written with another one before them.
            preg_match_all(self::WHOLE, html_entity_decode(str_replace('\\/', '/', $text)), $whole);
            foreach ($whole[0] as $address) {
                if (++$seen > self::MOST) {
                    break 2;
                }
                $place = $this->addresses->locate($address);
                if ($place?->whose !== Whose::Foreign) {
                    continue;
                }
                // With or without `www.`, and over either scheme, it is one address; that which is met first is said.
                $bare = (string) preg_replace('~^www\.~', '', $place->url->authority());
                $host = $hosts[$bare] ??= $place->url->scheme.'://'.$place->url->authority();
                $path = ltrim(rawurldecode($place->url->path), '/');
                if (trim($text) === $address && ! Resolver::hasMediaType($path)) {
                    $named[rtrim("$host/$path", '/').'/'] = true;
                } elseif (Resolver::hasMediaType($path)) {
                    $all[$host][$path] = true;
                    $below = $this->below($path);
                    if ($below !== null) {
                        $found["$host/$below"][substr($path, strlen($below))] = true;
                    }
                }
            }
        }
        foreach ($found as $root => $paths) {
            $url = Url::parse($root);
            $asked = count($all["$url?->scheme://{$url?->authority()}"] ?? []);
            // Pictures of others may be called as one of the site's is; most of them are not.
            $isSaid = isset($named[$root]) || count($paths) >= FileLookup::HABIT;
            if (! $isSaid || 2 * count($paths) < $asked) {
                unset($found[$root]);
            }
        }
        uasort($found, static fn (array $a, array $b): int => count($b) <=> count($a));
        $this->found = array_slice($found, 0, self::ASKED);
        $this->named = $named;
    }

    /** @return list<Question> one for each address, whose answers are `former`, `alias` and `foreign` */
    public function questions(): array
    {
        $questions = [];
        foreach ($this->found as $root => $files) {
            $answers = [
                self::FORMER => 'It was: the site was served there before',
                self::ALIAS => 'It is: the same is served there as well',
                'foreign' => 'No, that is another site',
            ];
            if ($this->isBeside($root)) {
                $answers = [self::ALIAS => $answers[self::ALIAS]] + $answers;
            }
            $says = Words::many(count($files), 'file').' that its texts ask for there '
                .(count($files) === 1 ? 'lies' : 'lie').' in its folder'
                .(isset($this->named[$root]) ? ', and its own settings name it' : '');
            $questions[] = new Question(
                "address.$root",
                "Is $root an address of this site? $says.",
                $answers,
                array_slice(array_map(strval(...), array_keys($files)), 0, 5),
            );
        }

        return $questions;
    }

    /** Whether it is a host below that of the site, as one that gives out its pictures. */
    private function isBeside(string $root): bool
    {
        $own = (string) preg_replace('~^www\.~', '', $this->addresses->now->host);

        return str_ends_with((string) Url::parse($root)?->host, ".$own");
    }

    /** @return string|null the folder of the root below which it is a file of the site; empty for none */
    private function below(string $path): ?string
    {
        $below = '';
        for ($folders = 0; $folders <= self::FOLDERS; $folders++) {
            if ($this->files->has(substr($path, strlen($below)))) {
                return $below;
            }
            $slash = strpos($path, '/', strlen($below));
            if ($slash === false) {
                return null;
            }
            $below = substr($path, 0, $slash + 1);
        }

        return null;
    }
}
