<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Addresses\Resolver;
use Ylema\Plan\Words;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Rules;

/** Works out the field map of a site that is a folder of files, by the names of the files and what stands in some. */
final readonly class FolderProposer
{
    /** Ending → kind and notation; what a browser is given comes first. */
    private const ENDINGS = [
        'html' => ['page', 'html'],
        'htm' => ['page', 'html'],
        'shtml' => ['page', 'html'],
        'xhtml' => ['page', 'html'],
        'md' => ['article', 'markdown'],
        'markdown' => ['article', 'markdown'],
        'css' => ['style-sheet', 'css'],
        'js' => ['script', 'javascript'],
        'mjs' => ['script', 'javascript'],
        'json' => ['data', 'json'],
        'yml' => ['list', 'yaml'],
        'yaml' => ['list', 'yaml'],
        'xml' => ['feed', 'xml'],
        'rss' => ['feed', 'xml'],
        'txt' => ['text', 'text'],
        'csv' => ['table', 'csv'],
        'tsv' => ['table', 'csv'],
    ];

    /** Files of other programs' languages: read as text, and never written unless a maintainer says so. */
    private const TEMPLATES = [
        'php',
        'phtml',
        'inc',
        'twig',
        'tpl',
        'liquid',
        'njk',
        'hbs',
        'handlebars',
        'mustache',
        'ejs',
        'erb',
        'jinja',
        'jinja2',
        'j2',
        'pug',
        'latte',
        'asp',
        'aspx',
        'jsp',
        'cfm',
        'vue',
        'svelte',
        'astro',
        'scss',
        'sass',
        'less',
        'ts',
        'tsx',
        'jsx',
        'py',
        'rb',
    ];

    /** Folders whose markup is no page by itself, but a part of others. */
    private const PARTS =
        '~(?:^|/)_?(?:includes?|partials?|parts|layouts?|templates?|snippets?|fragments?|components?|'
        .'blocks?)/~i';

    /** What a server puts in there; parameters behind the path are the part's own, and name nothing. */
    private const INCLUDE = '<!--\#include\s+(?:virtual|file)\s*=\s*["\']?(?<key>[^"\'\s?\#>]+)[^>]*-->';

    /** Texts of one kind that are looked into. */
    private const LOOKED = 60;

    /** So much of a folder is media before it is a folder of media. */
    private const NEARLY = 0.95;

    private const FOLDERS = 200;

    /** So many files of other kinds are named by one pattern each; the rest is no content. */
    private const MOST = 1_000_000;

    /** The role of values of front matter, and of data, while they are looked at. */
    private const FRONT = 'front';

    /** Bytes of a text that was fetched as a whole. */
    private const SHORT = 1000;

    /** Keys and positions in each other that are looked into. */
    private const DEEPEST = 4;

    /** Kinds whose values stand under keys. */
    private const KEYED = ['article', 'data', 'list', 'table'];

    /** A path that begins in no folder by itself, of a file that pages show. */
    private const BARE = '~^(?![/.]|[a-z][a-z0-9+.-]*:)[^\s<>"\'?\#]++(?<=\.jpg|\.png|\.gif|\.svg|\.jpeg|\.webp'
        .'|\.avif|\.mp3|\.mp4'
        .'|\.webm|\.pdf|\.ico)$~iD';

    /** So many of a key's values must be there. */
    private const PROVED = 0.8;

    /** What old pages are in that do not say it, the commonest first; the labels of the Encoding Standard. */
    private const ENCODINGS = [
        'windows-1252' => 'Western Europe (windows-1252)',
        'windows-1250' => 'Central Europe (windows-1250)',
        'iso-8859-2' => 'Central Europe (ISO 8859-2)',
        'windows-1251' => 'Cyrillic (windows-1251)',
        'koi8-r' => 'Cyrillic (KOI8-R)',
        'windows-1253' => 'Greek (windows-1253)',
        'windows-1254' => 'Turkish (windows-1254)',
        'shift_jis' => 'Japanese (Shift_JIS)',
        'euc-jp' => 'Japanese (EUC-JP)',
        'gb18030' => 'Chinese (GB18030)',
        'big5' => 'Chinese (Big5)',
        'euc-kr' => 'Korean (EUC-KR)',
    ];

    private FieldReader $reader;

    private Dialogue $dialogue;

    /** @param  array<string, string>  $answers question → answer, from before */
    public function __construct(
        private FolderSamples $folder,
        private ?AddressTrial $trial = null,
        array $answers = [],
    ) {
        $this->reader = new FieldReader;
        $this->dialogue = new Dialogue($answers);
    }

    public function propose(): Proposal
    {
        [$kinds, $all] = $this->kinds();
        // The parts come first: of two patterns that fit, the first holds.
        uksort($kinds, static fn (string $a, string $b): int => self::rank($a) <=> self::rank($b));
        $records = $evidence = [];
        foreach ($kinds as $kind => ['notation' => $notation, 'endings' => $endings, 'paths' => $paths]) {
            $records[$kind] = $this->section(
                (string) $kind,
                $notation,
                array_map(strval(...), array_keys($endings)),
                $paths,
            );
            $evidence[$kind] = count($paths).' files';
        }
        $includes = $this->includes($kinds['page']['paths'] ?? []);
        if ($includes && isset($records['page-part'])) {
            unset($records['page-part']['everywhere']);
        }

        $encoding = $this->encoding([...$kinds['page']['paths'] ?? [], ...$kinds['page-part']['paths'] ?? []]);

        return new Proposal(
            [
                'version' => 1,
                'files' => ['folders' => [...self::mediaFolders($all), '.']],
                ...$encoding === null ? [] : ['encoding' => $encoding],
                ...$includes
                    ? [
                        'tokens' => [
                            'include' => [
                                'pattern' => self::INCLUDE,
                                'names' => isset($records['page-part']) ? 'page-part' : 'page',
                            ],
                        ],
                    ]
                    : [],
                ...isset($kinds['template'])
                    ? ['code' => ['**/*.{'.implode(',', array_keys($kinds['template']['endings'])).'}']]
                    : [],
                'records' => $records,
            ],
            [...$evidence, ...$this->dialogue->evidence()],
            $this->dialogue->questions(),
            $all === [] ? ['' => 'there is no file in it'] : [],
        );
    }

    /**
     * The encoding of pages that do not say it and are no UTF-8: as others of the site say, or as is asked.
     *
     * @param  list<string>  $paths of pages and parts
     */
    private function encoding(array $paths): ?string
    {
        $said = $silent = [];
        $isUtf8 = 0;
        foreach (array_slice($paths, 0, self::LOOKED) as $path) {
            $text = $this->folder->text($path);
            $charset = Charset::of($text, Notation::Html);
            if (! $charset->isUtf8()) {
                $said[strtolower($charset->label)] = ($said[strtolower($charset->label)] ?? 0) + 1;
            } elseif (! mb_check_encoding(self::uncut($text), 'UTF-8')) {
                $silent[] = $path;
            } elseif (preg_match('~[\x80-\xFF]~', $text) === 1) {
                $isUtf8++;
            }
        }
        if (count($silent) <= $isUtf8) {
            return null;
        }
        arsort($said);
        $likely = array_map(strval(...), array_keys($said));
        $answers = array_intersect_key(array_combine($likely, $likely), self::ENCODINGS);
        $answers = [...array_replace($answers, array_intersect_key(self::ENCODINGS, $answers)), ...self::ENCODINGS];

        return $this->dialogue->answer(new Question(
            'encoding',
            'In which encoding are pages that do not say it? '.Words::many(count($silent), 'page').' that '
                .(count($silent) === 1 ? 'was' : 'were').' looked into '.(count($silent) === 1 ? 'is' : 'are')
                .' no UTF-8.',
            $answers,
            array_slice($silent, 0, 5),
        ));
    }

    /** Without the beginning of a character whose end was not fetched. */
    private static function uncut(string $text): string
    {
        return strlen($text) < self::SHORT
            ? $text
            : preg_replace('~[\xC2-\xF4][\x80-\xBF]{0,2}$~D', '', $text) ?? $text;
    }

    /**
     * What stands beside a database: style sheets and templates, which the site's own code puts on its pages.
     *
     * @return array{array<string, array<string, mixed>>, list<string>} kinds of record, and patterns of the code
     */
    public function beside(): array
    {
        [$kinds] = $this->kinds();
        $records = [];
        foreach (['style-sheet', 'template'] as $kind) {
            if (isset($kinds[$kind])) {
                ['notation' => $notation, 'endings' => $endings, 'paths' => $paths] = $kinds[$kind];
                $own = $this->section($kind, $notation, array_map(strval(...), array_keys($endings)), $paths);
                $records["$kind-file"] = [...$own, 'everywhere' => true];
            }
        }

        return [
            $records,
            isset($kinds['template']) ? ['**/*.{'.implode(',', array_keys($kinds['template']['endings'])).'}'] : [],
        ];
    }

    /**
     * Files in which media are named, and that nothing reads.
     *
     * @param  callable(string): bool  $isRead whether a path is read
     * @param  callable(string): int  $names how many files of the site a text names
     * @param  bool  $everywhere whether the site's own code is taken to show what stands in them
     * @return list<Gap> the one that names most first
     */
    public function unread(callable $isRead, callable $names, bool $everywhere): array
    {
        $gaps = [];
        foreach ($this->kinds()[0] as $kind => ['notation' => $notation, 'endings' => $endings, 'paths' => $paths]) {
            $left = array_values(array_filter($paths, static fn (string $path): bool => ! $isRead($path)));
            $looked = array_slice($left, 0, self::LOOKED);
            $named = array_sum(array_map(fn (string $path): int => $names($this->folder->text($path)), $looked));
            if ($named === 0) {
                continue;
            }
            $section = $this->section((string) $kind, $notation, array_map(strval(...), array_keys($endings)), $left);
            $patterns = array_filter((array) $section['files'], is_string(...));
            $gaps[] = new Gap(
                '',
                implode(', ', $patterns),
                '',
                $notation,
                Words::many(count($looked), 'file').' looked into; '
                    .Words::many($named, 'file').' of the site named there',
                $named,
                null,
                kind: "$kind-file",
                section: $everywhere ? [...$section, 'everywhere' => true] : $section,
            );
        }
        usort($gaps, static fn (Gap $a, Gap $b): int => $b->files <=> $a->files);

        return $gaps;
    }

    /**
     * @return array{array<string, array{notation: string, endings: array<string, true>, paths: list<string>}>,
     *     list<string>} kinds, and all paths
     */
    private function kinds(): array
    {
        $kinds = $all = [];
        foreach ($this->folder->paths() as $path) {
            $ending = strtolower(pathinfo($path, PATHINFO_EXTENSION));
            $all[] = $path;
            if (count($all) > self::MOST) {
                break;
            }
            $isPart = preg_match(self::PARTS, $path) === 1;
            [$kind, $notation] = match (true) {
                in_array($ending, self::TEMPLATES, true) => ['template', 'text'],
                $isPart && in_array($ending, ['html', 'htm'], true) => ['page-part', 'html'],
                default => self::ENDINGS[$ending] ?? [null, null],
            };
            if ($kind !== null && $notation !== null) {
                $kinds[$kind] ??= ['notation' => $notation, 'endings' => [], 'paths' => []];
                $kinds[$kind]['endings'][$ending] = true;
                $kinds[$kind]['paths'][] = $path;
            }
        }

        return [$kinds, $all];
    }

    /**
     * @param  list<string>  $endings
     * @param  list<string>  $paths
     * @return array<string, mixed>
     */
    private function section(string $kind, string $notation, array $endings, array $paths): array
    {
        $all = count($endings) === 1 ? $endings[0] : '{'.implode(',', $endings).'}';
        $files = $kind === 'page-part' ? self::folders($paths, $all) : ["**/*.$all"];

        return [
            'files' => count($files) === 1 ? $files[0] : $files,
            'notation' => $notation,
            ...in_array($kind, self::KEYED, true) ? $this->bare($paths, Notation::from($notation)) : [],
            ...$kind === 'article'
                ? ['address' => $this->address($paths), 'state' => ['column' => 'front.draft', 'set' => 'waiting']]
                : [],
            ...$kind === 'page-part' ? ['page' => false] : [],
            ...$kind === 'template' ? ['read_only' => true, 'everywhere' => true] : [],
            // Which page shows what stands there, no file says.
            ...in_array($kind, ['data', 'list', 'feed', 'text', 'table', 'page-part'], true)
                ? ['everywhere' => true]
                : [],
        ];
    }

    /**
     * What front matter or data says by bare paths, and the folder that they begin in: what most values of a key prove.
     *
     * @param  list<string>  $paths
     * @return array{paths?: array<string, array{notation: string, below: string}>}
     */
    private function bare(array $paths, Notation $notation): array
    {
        $values = [];
        foreach (array_slice($paths, 0, self::LOOKED) as $path) {
            $text = $this->folder->text($path);
            foreach ($this->reader->read($text, $notation, self::everyKey())->references as $reference) {
                if ($reference->role === self::FRONT && preg_match(self::BARE, $reference->value) === 1) {
                    $key = preg_replace('~\[\d++\]~', '[]', (string) $reference->path) ?? '';
                    $values[$key][$reference->value] = $reference->value;
                }
            }
        }
        if ($values === []) {
            return [];
        }
        $folders = ['' => true];
        $all = [];
        foreach ($this->folder->paths() as $path) {
            $all[$path] = true;
            if (count($folders) < self::FOLDERS && Resolver::hasMediaType($path) && dirname($path) !== '.') {
                $folders[dirname($path).'/'] = true;
            }
        }
        $rules = [];
        foreach ($values as $key => $own) {
            $best = [0, ''];
            foreach (array_keys($folders) as $folder) {
                $there = count(array_filter($own, static fn (string $value): bool => isset($all[$folder.$value])));
                $best = $there > $best[0] ? [$there, (string) $folder] : $best;
            }
            if ($best[0] >= self::PROVED * count($own)) {
                $rules[$key] = ['notation' => 'url', 'below' => $best[1] === '' ? '.' : rtrim($best[1], '/')];
            }
        }

        return $rules === [] ? [] : ['paths' => $rules];
    }

    /** Reads each value, a few keys deep, as an address. */
    private static function everyKey(): Rules
    {
        $paths = $deeper = ['*', '[]'];
        for ($depth = 1; $depth < self::DEEPEST; $depth++) {
            $deeper = array_merge(...array_map(
                static fn (string $path): array => ["$path.*", "{$path}[]"],
                $deeper,
            ));
            array_push($paths, ...$deeper);
        }

        return new Rules(paths: array_map(
            static fn (string $path): PathRule => new PathRule($path, Notation::Url, self::FRONT),
            $paths,
        ));
    }

    /**
     * @param  list<string>  $paths
     * @return list<string>
     */
    private static function folders(array $paths, string $all): array
    {
        $folders = [];
        foreach ($paths as $path) {
            if (preg_match(self::PARTS, $path, $found, PREG_OFFSET_CAPTURE) === 1) {
                $folders[substr($path, 0, $found[0][1] + strlen($found[0][0]))] = true;
            }
        }

        return array_map(
            static fn (string $folder): string => "$folder**/*.$all",
            array_map(strval(...), array_keys($folders)),
        );
    }

    /**
     * Where a text that something makes a page of is met: as the public site shows it, or most likely.
     *
     * @param  list<string>  $paths
     */
    private function address(array $paths): string
    {
        $likely = '{folder}/{stem}/';
        $candidates = [
            $likely,
            '{folder}/{stem}.html',
            '{folder}/{stem}',
            '{stem}/',
            '{stem}.html',
            '{front.slug}/',
            '{front.permalink}',
        ];
        foreach ($this->trial === null ? [] : $candidates as $candidate) {
            $met = 0;
            foreach (array_slice($paths, 0, 3) as $path) {
                $text = $this->folder->text($path);
                $front = [];
                preg_match_all(
                    '~^(\w+):[ \t]*["\']?(.*?)["\']?[ \t]*$~m',
                    substr($text, 0, 2000),
                    $said,
                    PREG_SET_ORDER,
                );
                foreach ($said as $one) {
                    $front[$one[1]] = $one[2];
                }
                $title = $front['title'] ?? (preg_match('~^#\s+(.+)$~m', $text, $head) === 1 ? $head[1] : '');
                $address = strtr($candidate, [
                    '{folder}' => dirname($path) === '.' ? '' : dirname($path),
                    '{stem}' => pathinfo($path, PATHINFO_FILENAME),
                    '{front.slug}' => $front['slug'] ?? "\0",
                    '{front.permalink}' => $front['permalink'] ?? "\0",
                ]);
                $met +=
                    $title !== ''
                    && ! str_contains($address, "\0")
                    && $this->trial?->shows(ltrim($address, '/'), $title) === true
                        ? 1
                        : 0;
            }
            if ($met >= 2 || ($met === 1 && count($paths) === 1)) {
                return $candidate;
            }
        }

        return $likely;
    }

    /**
     * The topmost folders in which nearly everything is media, so that what begins with their names is plainly meant as
     * an address.
     *
     * @param  list<string>  $paths
     * @return list<string>
     */
    private static function mediaFolders(array $paths): array
    {
        $all = $media = [];
        foreach ($paths as $path) {
            $isMedia = Resolver::hasMediaType($path);
            for ($folder = dirname($path); $folder !== '.'; $folder = dirname($folder)) {
                $all[$folder] = ($all[$folder] ?? 0) + 1;
                $media[$folder] = ($media[$folder] ?? 0) + ($isMedia ? 1 : 0);
            }
        }
        $folders = [];
        ksort($all);
        foreach ($all as $folder => $count) {
            $above = array_filter($folders, static fn (string $f): bool => str_starts_with("$folder/", "$f/"));
            if ($above === [] && $media[$folder] >= self::NEARLY * $count) {
                $folders[] = (string) $folder;
            }
        }

        return array_slice($folders, 0, self::FOLDERS);
    }

    /** @param  list<string>  $paths */
    private function includes(array $paths): bool
    {
        foreach (array_slice($paths, 0, self::LOOKED) as $path) {
            if (preg_match('~'.self::INCLUDE.'~i', $this->folder->text($path)) === 1) {
                return true;
            }
        }

        return false;
    }

    private static function rank(string $kind): int
    {
        return (int) array_search($kind, ['page-part', 'page', 'article', 'style-sheet', 'script'], true) ?:
            ($kind === 'page-part'
                ? 0
                : 9);
    }
}
