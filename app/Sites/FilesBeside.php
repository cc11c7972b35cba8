<?php

declare(strict_types=1);

namespace App\Sites;

use Symfony\Component\Finder\Glob;
use Ylema\Addresses\Resolver;

/**
 * Files in the site's folders that are neither read as records nor listed as code: everything else that may name a
 * file, whatever its ending. Pictures, films and documents are not looked into; drawings and lists are.
 */
final readonly class FilesBeside
{
    /** Files of media that are texts themselves. */
    private const TEXTS = '~\.(?:svgz?|csv)$~i';

    /**
     * @param  list<string>  $folders of this machine
     * @param  list<string>  $read patterns of paths that are read as records, below the folder of content
     * @param  string  $content the folder of content
     * @param  bool  $isElsewhere whether some of the site's files lie on another machine
     */
    public function __construct(
        private array $folders,
        private array $read,
        private string $content,
        private ?CodeFiles $code,
        private bool $isElsewhere,
    ) {
    }

    /** @return iterable<string, string|NotSearched> path → where it lies, or why nobody looked */
    public function files(): iterable
    {
        if ($this->isElsewhere) {
            yield '' => new NotSearched(
                'files on another machine',
                'Some files lie on another machine; what is beside the media there was not searched.',
            );
        }
        $read = array_map(static fn (string $pattern): string => Glob::toRegex(ltrim($pattern, '/')), $this->read);
        $content = rtrim((string) realpath($this->content), '/').'/';
        foreach ($this->outermost() as $folder) {
            foreach ((new FolderWalk($folder, $this->folders))->files() as $path => $file) {
                if (is_string($file)) {
                    $isMedia = Resolver::hasMediaType($path) && preg_match(self::TEXTS, $path) !== 1;
                    $lies = (string) realpath($file);
                    $isRead = str_starts_with($lies, $content)
                        && self::fits(substr($lies, strlen($content)), $read);
                    if ($isMedia || $isRead || $this->code?->has($lies) === true) {
                        continue;
                    }
                }
                yield $path => $file;
            }
        }
    }

    /** @param  list<string>  $expressions */
    private static function fits(string $path, array $expressions): bool
    {
        foreach ($expressions as $expression) {
            if (preg_match($expression, $path) === 1) {
                return true;
            }
        }

        return false;
    }

    /** @return list<string> those that lie in none of the others */
    private function outermost(): array
    {
        $real = [];
        foreach ($this->folders as $folder) {
            $real[$folder] = rtrim((string) realpath($folder), '/').'/';
        }
        $outermost = [];
        foreach ($real as $folder => $path) {
            $above = array_filter(
                $real,
                static fn (string $other): bool => $other !== $path && $other !== '/' && str_starts_with($path, $other),
            );
            if ($above === [] && ! in_array($path, $outermost, true)) {
                $outermost[$folder] = $path;
            }
        }

        return array_map(strval(...), array_keys($outermost));
    }
}
