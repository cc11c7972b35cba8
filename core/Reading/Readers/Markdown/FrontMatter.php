<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Markdown;

use Ylema\Reading\Collector;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Notation;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Readers\StructuredValues;
use Ylema\Reading\Readers\Yaml\YamlValues;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * What stands before a Markdown text: YAML between lines of three dashes, TOML between lines of three plus signs, or a
 * JSON object.
 *
 * @internal
 */
final readonly class FrontMatter
{
    private YamlValues $yaml;

    private TomlMatter $toml;

    public function __construct(StructuredValues $values)
    {
        $this->yaml = new YamlValues($values);
        $this->toml = new TomlMatter($values);
    }

    /**
     * @param  string  $text of the slice, with nothing but line feeds for ends of lines
     * @return int where the text behind it begins
     */
    public function read(Slice $slice, string $text, Collector $found, Rules $rules, FieldReader $others): int
    {
        if (preg_match('~(?:\xEF\xBB\xBF)?(---|\+\+\+|(?=\{\s*+["}]))[ \t]*+(?:\n|(?=\{))~A', $text, $m) !== 1) {
            return 0;
        }
        $start = strlen($m[0]);
        if ($m[1] === '') {
            return $this->json($slice, $text, $start, $found, $rules, $others);
        }
        $end = $m[1] === '---' ? '---|\.\.\.' : '\+\+\+';
        // Line by line, whatever its size: it may hold all the texts of a page.
        if (preg_match("~^(?:$end)[ \t]*+$~m", $text, $last, PREG_OFFSET_CAPTURE, $start) !== 1) {
            $found->gaveUp($slice, $start);

            return 0;
        }
        $inside = substr($text, $start, $last[0][1] - $start);
        $m[1] === '---'
            ? $this->yaml->read($slice, $inside, $start, $found, $rules, $others)
            : $this->toml->read($slice, $inside, $start, $found, $rules, $others);

        return min(strlen($text), $last[0][1] + strlen($last[0][0]) + 1);
    }

    private function json(
        Slice $slice, string $text, int $start, Collector $found, Rules $rules, FieldReader $others,
    ): int {
        $depth = 0;
        for ($at = $start; preg_match('~"(?:[^"\\\\]++|\\\\.)*+"|[{}]~s', $text, $m, PREG_OFFSET_CAPTURE, $at) === 1;) {
            $at = $m[0][1] + strlen($m[0][0]);
            $depth += $m[0][0] === '{' ? 1 : ($m[0][0] === '}' ? -1 : 0);
            if ($depth === 0) {
                break;
            }
        }
        PatternGaveUp::check();
        $json = substr($slice->text, $start, $at - $start);
        if ($depth !== 0 || json_decode($json) === null) {
            return 0;
        }
        $inner = $slice->inner($json, $start, null, new Plain(Notation::Markdown));
        $others->into($inner, Notation::Json, $found, $rules);

        return $at;
    }
}
