<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Reading\Notation;
use Ylema\Reading\Readers\Verbatim;

/** Finds what editors write into text to place something: `[[gallery:3]]`, `##photo(12,left)##`, `[figure id="12"]`. */
final readonly class Tokens
{
    /** Signs, a name, something between, a key, and signs that end it: whatever the site's makers thought of. */
    private const NAMED =
        // Without a bracket before it, a name with a space behind is a word of the text.
        '~(?<open><!--|[\[{(<]{2,3}|[\[{]|[#%@$!|^*+=:\~]{1,3}[\[{(]{0,2}(?=\w+[:=(/\[{]))\s?(?<name>[a-z][\w-]{1,30})'
        .'(?<between>\s?[:=(/]\s?|[\[{]|\s)(?<key>\w(?:[\w-]{0,38}\w)?)(?<more>[^\]\}%>)#@$!^*\~\n]{0,60}?)\s?'
        .'(?<close>-->|[\]})>%#@$!|^*+=:\~]{1,4})~i';

    /** What opens with the one ends with the other. */
    private const ENDS = ['[' => ']', '{' => '}', '(' => ')', '<' => '>'];

    private const ATTRIBUTES =
        '~(?<open>\[\[|\[|\{\{|\{)\s?(?<name>[a-z][\w-]{1,30})'
        .'(?<more>(?:\s+[a-z][\w-]*\s*=\s*(?:"[^"\]\}]*"|\'[^\'\]\}]*\'|[^\s"\'\]\}]+))+)'
        .'\s?/?(?<close>\]\]|\]|\}\}|\})~i';

    private const PAIRS = ['[[' => ']]', '[' => ']', '{{' => '}}', '{' => '}'];

    /**
     * @param  array<string, TableProfile>  $tables
     */
    public function __construct(
        private array $tables,
        private string $prefix,
        private Relations $relations,
        private Looker $looker,
        private ?MediaTable $media,
    ) {
    }

    /**
     * @param  iterable<string>  $texts
     * @return array{array<string, array<string, mixed>>, list<string>} token → as the map says it, with the table that
     *     it names under `names`; and these tables
     */
    public function in(iterable $texts): array
    {
        $named = $attributes = [];
        foreach ($texts as $text) {
            if (! str_contains($text, '<') && str_contains($text, '&lt;')) {
                // Markup that is kept in escapes.
                $text = html_entity_decode($text, ENT_QUOTES | ENT_HTML5);
            }
            foreach ($this->matches(self::NAMED, $text) as $m) {
                $between = trim($m['between']) === '' ? ' ' : trim($m['between']);
                $close = self::closing($m['open'].trim($m['between']), $m['close']);
                $shape = implode("\0", [$m['open'], $between, $close]);
                $named[strtolower($m['name'])][$shape][] = $m['key'];
            }
            foreach ($this->matches(self::ATTRIBUTES, $text) as $m) {
                if (self::PAIRS[$m['open']] !== $m['close']) {
                    continue;
                }
                preg_match_all(
                    '~([a-z][\w-]*)\s*=\s*(?:"([^"]*)"|\'([^\']*)\'|(\S+))~i',
                    $m['more'],
                    $own,
                    PREG_SET_ORDER,
                );
                foreach ($own as $one) {
                    $attributes[strtolower($m['name'])][$m['open'].' '.$m['close']][strtolower($one[1])][] =
                        ($one[2] ?? '').($one[3] ?? '').($one[4] ?? '');
                }
            }
        }
        $tokens = $targets = [];
        foreach ($named as $name => $shapes) {
            foreach ($shapes as $shape => $keys) {
                $token = $this->byKey($name, $shape, $keys);
                if ($token !== null) {
                    $tokens[$name] = $token;
                    $targets[] = $token['names'] ?? '';
                }
            }
        }
        foreach ($attributes as $name => $shapes) {
            foreach ($shapes as $shape => $own) {
                $rules = $this->byAttributes($name, $own);
                if ($rules !== [] && ! isset($tokens[$name])) {
                    $tokens[$name] = ['attributes' => $rules] + ($shape === '[ ]' ? [] : ['brackets' => $shape]);
                    array_push(
                        $targets,
                        ...array_map(
                            static fn (array|string $r): string => is_array($r) ? $r['names'] : '',
                            array_values($rules),
                        ),
                    );
                }
            }
        }

        return [$tokens, array_values(array_unique(array_filter($targets)))];
    }

    /** As many of the signs behind a token as answer those before it; all of them where those are of no pair. */
    private static function closing(string $open, string $signs): string
    {
        $wanted = $open === '<!--' ? '-->' : strrev(strtr($open, self::ENDS));

        return str_starts_with($signs, $wanted) ? $wanted : $signs;
    }

    /**
     * Without those that only show how one is written.
     *
     * @param  non-empty-string  $pattern
     * @return list<array<string>>
     */
    private function matches(string $pattern, string $text): array
    {
        if (preg_match_all($pattern, $text, $found, PREG_SET_ORDER | PREG_OFFSET_CAPTURE) === 0) {
            return [];
        }
        $verbatim = new Verbatim($text, str_contains($text, '<') ? Notation::Html : Notation::Markdown);
        $matches = [];
        foreach ($found as $match) {
            if (! $verbatim->holds($match[0][1])) {
                $matches[] = array_map(static fn (array $group): string => $group[0], $match);
            }
        }

        return $matches;
    }

    /**
     * @param  list<string>  $keys
     * @return array{pattern: string, names?: string, by?: string}|null
     */
    private function byKey(string $name, string $shape, array $keys): ?array
    {
        [$open, $between, $close] = explode("\0", $shape);
        $pattern = static fn (string $group): string => preg_quote($open, '~')
            .'\s?'
            .preg_quote($name, '~')
            .($between === ' ' ? '\s' : '\s?'.preg_quote($between, '~').'\s?')
            ."(?<$group>[\\w-]+)[^"
            .preg_quote($close[0], '~')
            .']*'
            .preg_quote($close, '~');
        $table = $this->called($name);
        if ($table !== null && $this->relations->areKeys($keys, $table)) {
            return $table->name === $this->media?->table->name
                ? ['pattern' => $pattern('id')]
                : ['pattern' => $pattern('key'), 'names' => $table->name];
        }
        $column = $table === null ? null : $this->relations->uniqueFor($keys, $table);
        if ($table !== null && $column !== null) {
            return ['pattern' => $pattern('key'), 'names' => $table->name, 'by' => $column];
        }

        return $this->media !== null
            && Hints::say(Hints::MEDIA, $name)
            && $this->relations->areKeys($keys, $this->media->table)
            ? ['pattern' => $pattern('id')]
            : null;
    }

    /**
     * @param  array<string, list<string>>  $attributes name → values
     * @return array<string, string|array{notation: string, names: string}> name → what it holds
     */
    private function byAttributes(string $name, array $attributes): array
    {
        $rules = [];
        $table = $this->called($name);
        foreach ($attributes as $attribute => $values) {
            $ids = array_merge(
                [],
                ...array_map(static fn (string $v): array => preg_split('~[\s,;|]+~', trim($v)) ?: [], $values),
            );
            $isKey = preg_match('~^(?:id|ids|key|no|nr|ref)$~', $attribute) === 1;
            $isMedia = Hints::say(Hints::MEDIA, $attribute) || ($isKey && Hints::say(Hints::MEDIA, $name));
            if (
                $table !== null
                && $isKey
                && $table !== $this->media?->table
                && $this->relations->areKeys($ids, $table)
            ) {
                $rules[$attribute] = ['notation' => 'record-key', 'names' => $table->name];
            } elseif ($isMedia && $this->media !== null && $this->relations->areKeys($ids, $this->media->table)) {
                $rules[$attribute] = 'media-id';
            } elseif ($this->looker->look($values)->used > 0) {
                $rules[$attribute] = 'url';
            }
        }

        return $rules;
    }

    private function called(string $name): ?TableProfile
    {
        foreach ($this->tables as $table) {
            if (Hints::stem($table->name, $this->prefix) === Hints::singular($name)) {
                return $table;
            }
        }

        return null;
    }
}
