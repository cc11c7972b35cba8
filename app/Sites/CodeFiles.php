<?php

declare(strict_types=1);

namespace App\Sites;

use Symfony\Component\Finder\Glob;

/** The files of the site's own code that the field map lists: templates, styles, scripts. They are only read. */
final readonly class CodeFiles
{
    /** @var array<string, string> pattern → its expression */
    private array $expressions;

    /**
     * @param  list<string>  $patterns below the folder, with `*`, `**` and `{a,b}`
     * @param  list<string>  $roots folders that count as the site's own beside it, into which links may lead
     * @param  string|null  $below where the folder is below the site's root, ending in `/`; null where it is elsewhere
     */
    public function __construct(
        private string $folder,
        array $patterns,
        private array $roots = [],
        private ?string $below = '',
    ) {
        $expressions = [];
        foreach ($patterns as $pattern) {
            $expressions[$pattern] = Glob::toRegex(ltrim($pattern, '/'), false);
        }
        $this->expressions = $expressions;
    }

    /**
     * @return iterable<string, string|NotSearched> path below the folder → where it lies, or why nobody looked; a
     *     pattern that fits nothing is told as well
     */
    public function files(): iterable
    {
        if ($this->expressions === []) {
            return;
        }
        $open = $this->expressions;
        foreach ((new FolderWalk($this->folder, $this->roots))->files() as $path => $file) {
            if ($file instanceof NotSearched) {
                if ($this->mayHold($path)) {
                    yield $path => $file;
                }

                continue;
            }
            $fits = array_filter(
                $this->expressions,
                static fn (string $expression): bool => preg_match($expression, $path) === 1,
            );
            if ($fits !== []) {
                $open = array_diff_key($open, $fits);
                yield $path => $file;
            }
        }
        foreach (array_keys($open) as $pattern) {
            yield $pattern => new NotSearched(
                $pattern,
                'No file in '.$this->folder.' has such a path. Correct the pattern under “code”, or take it out.',
            );
        }
    }

    /** Where the site would give it out, of a path below the folder; null where it does not. */
    public function served(string $path): ?string
    {
        return $this->below === null ? null : $this->below.$path;
    }

    /** @param  string  $file where a file really lies on this machine */
    public function has(string $file): bool
    {
        $root = rtrim((string) realpath($this->folder), '/').'/';
        if (! str_starts_with($file, $root)) {
            return false;
        }
        $path = substr($file, strlen($root));
        foreach ($this->expressions as $expression) {
            if (preg_match($expression, $path) === 1) {
                return true;
            }
        }

        return false;
    }

    /** Whether files of a pattern can lie at or below a path that was not looked into. */
    private function mayHold(string $path): bool
    {
        foreach ($this->expressions as $pattern => $expression) {
            $fixed = (string) preg_replace('~[*?{\[].*$~s', '', ltrim((string) $pattern, '/'));
            if (
                preg_match($expression, $path) === 1
                || str_starts_with("$path/", $fixed)
                || str_starts_with($fixed, $path === '' ? '' : "$path/")
            ) {
                return true;
            }
        }

        return false;
    }
}
