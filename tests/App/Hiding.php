<?php

declare(strict_types=1);

namespace Tests\App;

use PDO;
use Random\Engine\Mt19937;
use Random\Randomizer;

/**
 * Puts files on the demo site that nothing uses, and hides the names of some of them where no line of its field map
 * reads them: in any layer, key, comment, script, column, table, code file, or among bytes.
 */
final class Hiding
{
    private readonly Randomizer $random;

    public function __construct(int $seed, private readonly string $folder, private readonly PDO $content)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    /**
     * @param  string  $picture bytes of one, to which each file adds its number
     * @return list<string> paths
     */
    public function lay(int $count, string $picture): array
    {
        $this->content->exec(
            'create table if not exists left_notes '
                .'(no serial primary key, note text, data jsonb, raw bytea, words text[])',
        );
        $this->content->exec('alter table entries add column if not exists leftover text');
        $paths = [];
        $stems = [];
        @mkdir("$this->folder/site/media/idle/deep", 0o775, true);
        while (count($paths) < $count) {
            $stem = $this->stem();
            if (isset($stems[mb_strtolower($stem)])) {
                continue;
            }
            $stems[mb_strtolower($stem)] = true;
            $path = $this->one(['media/idle/', 'media/idle/deep/']).$stem.$this->one(['.jpg', '.JPG', '.jpeg']);
            file_put_contents("$this->folder/site/$path", $picture.count($paths)." $stem");
            touch("$this->folder/site/$path", time() - 900 * 86_400);
            $paths[] = $path;
        }

        return $paths;
    }

    /** @return string how a file was hidden, for whoever looks at a failure */
    public function hide(string $path): string
    {
        [$said, $layers] = $this->layered($this->said($path));
        $places = $this->places();
        $place = $this->one(array_keys($places));
        $places[$place]($said);

        return "$path as \"$said\" in $place$layers";
    }

    /**
     * The same on any site, whatever its database: in a table of its own, in its code, or in a file.
     *
     * @return string how it was hidden
     */
    public function hideAnywhere(string $path, int $n): string
    {
        [$said, $layers] = $this->layered($this->random->getInt(0, 1) === 0 ? $path : basename($path));
        $this->content->exec('create table if not exists odd_notes (note varchar(2000))');
        $places = [
            'a table' => fn () => $this->run('insert into odd_notes (note) values (?)', "see <$said>"),
            'json' => fn () => $this->run(
                'insert into odd_notes (note) values (?)',
                (string) json_encode(['a' => [$said => true]]),
            ),
            'the code' => fn () => file_put_contents("$this->folder/parts/left-$n.phtml", "<?php // $said\n"),
            'a file' => fn () => file_put_contents("$this->folder/left-$n.ini", "head = '$said'\n"),
        ];
        $place = $this->one(array_keys($places));
        $places[$place]();

        return "$path as \"$said\" in $place$layers";
    }

    /**
     * Gives a file a row in the list of media, and ties it to something by the number of that row alone.
     *
     * @return string how it was hidden
     */
    public function tie(string $path): string
    {
        $this->content->exec(
            'create table if not exists left_ties (no serial primary key, second_id integer);'
                .'create table if not exists left_sets (no serial primary key, shown text);'
                .'create table if not exists left_facts (no serial primary key, code text, fact text)',
        );
        $this->run("insert into media (path, title) values (?, 'tied')", $path);
        $key = (string) $this->content->query("select max(id) from media where title = 'tied'")->fetchColumn();
        $ways = [
            'a second column of ids' => ['insert into left_ties (second_id) values (?)', $key],
            'a list of ids' => ['insert into left_sets (shown) values (?)', "1 $key 2"],
            'an attribute' => ["insert into left_facts (code, fact) values ('emblem', ?), ('year', '1987')", $key],
        ];
        $way = $this->one(array_keys($ways));
        $this->run(...$ways[$way]);

        return "$path as $key in $way";
    }

    /** @return array{string, string} what is said beneath up to two layers of escapes, and which */
    private function layered(string $said): array
    {
        $layers = [];
        for ($i = $this->random->getInt(0, 2); $i > 0; $i--) {
            $name = $this->one(array_keys(self::layers()));
            $said = self::layers()[$name]($said);
            $layers[] = $name;
        }

        return [$said, $layers === [] ? '' : ', '.implode(' in ', $layers)];
    }

    private function stem(): string
    {
        $n = $this->random->getInt(100, 99_999);
        $word = $this->one(['Kelp', 'möwe', 'Groyne', 'limpet', 'Буй', '潮汐', "skipper's", 'A&B']);

        return match ($this->random->getInt(0, 5)) {
            0 => "DSC_$n",
            1 => md5("idle $n"),
            2 => "$word of the bay ($n)",
            3 => "$word-at-low-water-$n",
            4 => "{$word}_{$n}_final",
            default => "$n-$word-panorama",
        };
    }

    private function said(string $path): string
    {
        $name = basename($path);
        $stem = substr($name, 0, (int) strrpos($name, '.'));
        $isPhrase = str_contains($stem, ' ') || str_contains($stem, '&');

        return match ($this->random->getInt(0, $isPhrase ? 3 : 4)) {
            0 => "/$path",
            1 => "https://www.korrin-observatory.example/bay/$path",
            2 => $name,
            3 => mb_strtoupper($name),
            default => $stem,
        };
    }

    /** @return array<string, callable(string): string> */
    private static function layers(): array
    {
        return [
            'percent' => rawurlencode(...),
            'entities' => static fn (string $s): string => htmlspecialchars($s, ENT_QUOTES),
            'numbers' => static fn (string $s): string => implode('', array_map(
                static fn (string $c): string => '&#'.mb_ord($c).';',
                mb_str_split($s),
            )),
            'json' => static fn (string $s): string => substr((string) json_encode($s), 1, -1),
            'slashes' => addslashes(...),
        ];
    }

    /** @return array<string, callable(string): void> */
    private function places(): array
    {
        $into = fn (string $column, string $text): callable => function (string $said) use ($column, $text): void {
            $row = $this->random->getInt(1, 20);
            $this->run(
                "update entries set $column = coalesce($column, '') || ? where id = "
                    ."(select id from entries where state = 'published' order by id offset $row limit 1)",
                strtr($text, ['§' => $said]),
            );
        };
        $note = fn (string $column, string $text): callable => function (string $said) use ($column, $text): void {
            $as = ['raw' => "decode(?, 'hex')", 'words' => 'array[?]', 'data' => 'cast(? as jsonb)'][$column] ?? '?';
            $value = strtr($text, ['§' => $column === 'data' ? substr((string) json_encode($said), 1, -1) : $said]);
            $this->run("insert into left_notes ($column) values ($as)", $column === 'raw' ? bin2hex($value) : $value);
        };
        $file = fn (string $path, string $text): callable => function (string $said) use ($path, $text): void {
            $at = "$this->folder/site/".strtr($path, ['#' => (string) $this->random->getInt(1, 9999)]);
            @mkdir(dirname($at), 0o775, true);
            file_put_contents($at, strtr($text, ['§' => $said]));
        };

        return [
            'a comment of markup' => $into('body', "<!-- was: \u{ab}§\u{bb} -->"),
            'a script of a page' => $into('body', '<script>var a = {b: "§"};</script>'),
            'an attribute nobody knows' => $into('body', '<x-card with="one|§|two"></x-card>'),
            'a dead type of script' => $into('body', '<script type="text/x-template">[[ § ]]</script>'),
            'a column of a table that is read' => $into('leftover', ' [§] '),
            'a table of its own' => $note('note', "first line\nsee (§) there"),
            'json in it' => $note('data', '{"a": {"§": [1, 2]}}'),
            'bytes in it' => $note('raw', "\x00\x01\xff\xfe=§;\x00\x80"),
            'a long value' => $note('raw', str_repeat('0123456789 ', 40_000)."'§'".str_repeat(' end', 9000)),
            'a list in it' => $note('words', '§'),
            'a row that is no setting' => fn (string $said) => $this->run(
                'insert into settings (name, value) values (?, ?)',
                'left-'.$this->random->getInt(0, PHP_INT_MAX),
                "x='$said'",
            ),
            'a comment of a style sheet' => fn (string $said) => $this->run(
                'update styles set css = css || ? where name = (select min(name) from styles)',
                "\n/* old: '$said' */\n",
            ),
            'a template' => $file('theme/left-#.phtml', "<?php // §\n?>"),
            'a script of the code' => $file('theme/widgets/left-#.js', "const a = '§';\n"),
            'a file of settings' => $file('left-#.ini', "[pictures]\nhead = \"§\"\n"),
            'a file with an ending of its own' => $file('parts/left-#.zzz', "head: '§'\n"),
            'two bytes a letter' => fn (string $said) => $file('left-#.dat', '§')(
                (string) mb_convert_encoding("a \"$said\" b", 'UTF-16LE', 'UTF-8'),
            ),
        ];
    }

    private function run(string $sql, string ...$values): void
    {
        $this->content->prepare($sql)->execute(array_values($values));
    }

    /**
     * @template T
     *
     * @param  non-empty-list<T>  $of
     * @return T
     */
    private function one(array $of): mixed
    {
        return $of[$this->random->getInt(0, count($of) - 1)];
    }
}
