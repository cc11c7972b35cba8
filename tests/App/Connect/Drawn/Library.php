<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

/** The files of one site and the list that it keeps of them, or none. */
final class Library
{
    public const KINDS = [
        'path', 'path', 'parts', 'digest', 'number', 'name', 'folders', 'dated', 'padded', 'natural', 'none', 'none',
    ];

    private const BASES = ['uploads/', 'media/', 'files/', 'data/images/', 'sites/main/files/', 'pub/', 'img/'];

    /** path, parts, digest, number, name, folders, or none where content names its files itself */
    public readonly string $kind;

    /** none, table, beside or below: where smaller pictures of a picture are */
    public readonly string $sizes;

    public readonly string $base;

    /** @var list<array{key: string, path: string, small: string|null}> */
    public array $items = [];

    /** @var array<string, string> path of a smaller picture → of its original */
    public array $smaller = [];

    /** Whether an address says a number and the site's code gives the file out. */
    public readonly bool $isByNumber;

    public readonly string $scheme;

    private int $fresh = 0;

    public function __construct(private readonly Draw $draw, public readonly string $keys, int $many)
    {
        $this->kind = $draw->one(self::KINDS);
        $this->sizes = $draw->one($this->kind === 'none'
            ? ['none', 'beside', 'below']
            : ['none', 'none', 'table', 'beside', 'below']);
        $this->base = $draw->one(self::BASES);
        $this->scheme = $draw->one(['below', 'below', 'rooted', 'whole', 'absolute', 'scheme']);
        $this->isByNumber = in_array($this->kind, ['digest', 'number'], true) && $draw->is(50);
        $names = $draw->one(['word', 'camera', $this->kind === 'natural' ? 'word' : 'spaces', 'word', 'large']);
        $folders = $draw->one(['month', 'year', 'letter', 'none', 'topic']);
        $at = $draw->number(100, 900);
        for ($n = 1; $n <= $many; $n++) {
            $key = match ($keys) {
                'uuid' => sprintf('%08x-%04x-4%03x-8%03x-%012x', crc32("a$at$n"), $n, $n, $n, crc32("b$at$n")),
                'spread' => (string) ($at += $draw->number(1, 9)),
                default => (string) $n,
            };
            $ending = $draw->one(['jpg', 'jpg', 'jpg', 'png', 'gif', 'webp', 'pdf']);
            $word = $draw->one(['harbour', 'boat', 'tern', 'pier', 'lamp', 'kite', 'shed', 'rope', 'tide']);
            $name = match ($names) {
                'camera' => sprintf('DSC%05d', 1000 + 3 * $n),
                'spaces' => ucfirst($word)." view $n",
                'large' => ucfirst($word)."-$n",
                default => "$word-$n",
            };
            $ending = $names === 'camera' && $ending === 'jpg' ? 'JPG' : $ending;
            $folder = match ($folders) {
                'month' => sprintf('%d/%02d/', 2010 + $n % 9, 1 + $n % 12),
                'year' => (2010 + $n % 9).'/',
                'letter' => substr($word, 0, 1).'/',
                'topic' => ['people/', 'places/', 'things/'][$n % 3],
                default => '',
            };
            $digest = sha1("bytes $at $n");
            $padded = sprintf('%06d', $keys === 'uuid' ? $n : (int) $key);
            [$folder, $name] = match ($this->kind) {
                'dated' => [self::day($n), $name],
                'padded' => [substr($padded, 0, 2).'/'.substr($padded, 2, 2).'/', $padded],
                'digest' => [substr($digest, 0, 2).'/', $digest],
                'number' => [$keys === 'numbers' ? '' : substr($key, 0, 1).'/', $key],
                'name', 'natural' => ['', $name],
                default => [$folder, $name],
            };
            $path = "$this->base$folder$name.$ending";
            $small = match ($ending === 'pdf' ? 'none' : $this->sizes) {
                'table' => "$this->base{$folder}s/$name-small.$ending",
                'beside' => "$this->base$folder$name-300x200.$ending",
                'below' => "$this->base{$folder}thumbs/$name.$ending",
                default => null,
            };
            $key = $this->kind === 'natural' ? "$name.$ending" : $key;
            $this->items[] = ['key' => $key, 'path' => $path, 'small' => $small];
            $this->smaller += $small === null ? [] : [$small => $path];
        }
    }

    /**
     * Those that content may use; the rest is idle.
     *
     * @return list<array{key: string, path: string, small: string|null}>
     */
    public function pool(): array
    {
        return array_slice($this->items, 0, (int) (count($this->items) * 0.85));
    }

    /** A path of the list, as its column has it. */
    public function written(string $path, string $host): string
    {
        return match ($this->scheme) {
            'rooted' => "/$path",
            'whole' => $path,
            'absolute' => "https://$host/".str_replace(' ', '%20', $path),
            'scheme' => 'store://'.substr($path, strlen($this->base)),
            default => substr($path, strlen($this->base)),
        };
    }

    /** The folder of the month in which a file came. */
    private static function day(int $n): string
    {
        return sprintf('20%02d/%02d/', 10 + $n % 9, 1 + $n % 12);
    }

    /** When a file came, as its row says. */
    public static function came(int $n): string
    {
        return sprintf('20%02d-%02d-04 10:00:00', 10 + $n % 9, 1 + $n % 12);
    }

    /** A name for a file that no list has. */
    public function fresh(string $folder, string $word): string
    {
        return $folder.strtolower($word).'_'.(++$this->fresh).'.'.$this->draw->one(['jpg', 'png', 'gif']);
    }
}
