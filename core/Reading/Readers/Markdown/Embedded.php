<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Markdown;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\HtmlRoles;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Layers\TokenText;
use Ylema\Reading\Notation;
use Ylema\Reading\PatternGaveUp;
use Ylema\Reading\Readers\StructuredValues;
use Ylema\Reading\Readers\TextReader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * What programs put into Markdown before it becomes a page: calls in double braces or braces with percent signs,
 * components whose names begin with a capital, and imports. Their strings are read by what they plainly are; what only
 * the program understands, the field map's tokens say.
 *
 * @internal
 */
final readonly class Embedded
{
    /** Group 1 or 2 the inside of a call; one that has no end before the next begins is none. */
    private const CALL = '~(?<!=)\{(?:\{((?:[^{}]++|\{(?!\{)|\}(?!\}))*+)\}\}|%((?:[^%{]++|%(?!\})|\{(?![{%]))*+)%\})~';

    /** In a call: 1 to 3 a string, 4 a bare word that begins like an address. */
    private const ARGUMENT = '~"([^"\n]*+)"|\'([^\'\n]*+)\'|`([^`\n]*+)`|(?<![^\s=(,|:])((?:https?:/)?/[^\s"\'`'
        .'|<>{}%,)]++)~i';

    /** As many bytes are looked at for the end of a component. */
    private const LONGEST = 8192;

    private const BRACES = '(?<braces>\{(?:[^{}"\'`]++|"(?:[^"\\\\]++|\\\\.)*+"|\'(?:[^\'\\\\]++|\\\\.)*+\''
        .'|`[^`]*+`|(?&braces))*+\})';

    private const COMPONENT = '~<[A-Z][\w.]*+((?:\s++|[\w:-]++(?:=(?:"[^"]*+"|\'[^\']*+\'|'.self::BRACES.'))?+'
        .'|(?&braces))*+)/?>~As';

    private const ATTRIBUTE = '~([\w:-]++)=(?:"([^"]*+)"|\'([^\']*+)\'|'.self::BRACES.')|(?&braces)~s';

    /** Group 2 what a line imports (ECMA-262, 16.2). */
    private const IMPORT = '~^(?:import|export)\b[^\n"\']*+(["\'])([^"\'\n]++)\1~m';

    /**
     * @param  string  $text without code
     * @return list<array{int, int}> offset and length of each component, which is no markup
     */
    public function read(Slice $slice, string $text, Collector $found, Rules $rules, FieldReader $others): array
    {
        $rules = $rules->withoutTokens();
        if (str_contains($text, '{{') || str_contains($text, '{%')) {
            $this->calls($slice, $text, $found, $rules, $others);
        }
        if (preg_match(self::IMPORT, $text) === 1) {
            preg_match_all(self::IMPORT, $text, $imports, PREG_SET_ORDER | PREG_OFFSET_CAPTURE);
            PatternGaveUp::check();
            foreach ($imports as [, , [$value, $at]]) {
                $this->value($slice, $value, $at, TokenText::attribute('"'), 'import', true, $found, $rules, $others);
            }
        }

        return $this->components($slice, $text, $found, $rules, $others);
    }

    private function calls(Slice $slice, string $text, Collector $found, Rules $rules, FieldReader $others): void
    {
        $at = 0;
        while (preg_match(self::CALL, $text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $at = $m[0][1] + strlen($m[0][0]);
            [$inside, $start] = $m[2] ?? $m[1];
            preg_match_all(self::ARGUMENT, $inside, $arguments, PREG_SET_ORDER | PREG_OFFSET_CAPTURE);
            foreach ($arguments as $argument) {
                $group = count($argument) - 1;
                [$value, $offset] = $argument[$group];
                $this->value(
                    $slice, $value, $start + $offset, TokenText::attribute(['"', '"', "'", '`', ''][$group]), 'call',
                    false, $found, $rules, $others,
                );
            }
        }
        $found->gaveUp($slice, $at);
    }

    /** @return list<array{int, int}> */
    private function components(
        Slice $slice, string $text, Collector $found, Rules $rules, FieldReader $others,
    ): array {
        $components = [];
        $at = 0;
        while (preg_match('~<[A-Z]~', $text, $m, PREG_OFFSET_CAPTURE, $at) === 1) {
            $start = $m[0][1];
            $at = $start + 2;
            $part = substr($text, $start, self::LONGEST);
            if (preg_match(self::COMPONENT, $part, $tag, PREG_OFFSET_CAPTURE) !== 1) {
                $found->gaveUp($slice, $start);

                continue;
            }
            $length = strlen($tag[0][0]);
            $at = $start + $length;
            $components[] = [$start, $length];
            [$attributes, $offset] = $tag[1];
            preg_match_all(
                self::ATTRIBUTE, $attributes, $all, PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL,
            );
            $name = substr($tag[0][0], 1, strcspn($tag[0][0], " \t\n\r/>{") - 1);
            foreach ($all as $attribute) {
                $this->attribute($slice, $attribute, $name, $start + $offset, $found, $rules, $others);
            }
        }

        return $components;
    }

    /** @param  array<array-key, array{string|null, int}>  $m see ATTRIBUTE */
    private function attribute(
        Slice $slice, array $m, string $component, int $start, Collector $found, Rules $rules, FieldReader $others,
    ): void {
        $name = (string) ($m[1][0] ?? '');
        foreach ([2 => '"', 3 => "'"] as $group => $quote) {
            if (($m[$group][0] ?? null) !== null) {
                $this->value(
                    $slice, (string) $m[$group][0], $start + $m[$group][1], TokenText::attribute($quote),
                    "{$component}[$name]", isset(HtmlRoles::OWN[$name]), $found, $rules, $others,
                );

                return;
            }
        }
        // What stands in braces is script.
        [$braces, $at] = $m['braces'] ?? [null, -1];
        if ($braces !== null && strlen($braces) > 2) {
            $others->into(
                $slice->inner(substr($braces, 1, -1), $start + $at + 1, null, new Plain(Notation::Markdown)),
                Notation::JavaScript, $found, $rules,
            );
        }
    }

    private function value(
        Slice $slice, string $value, int $at, TokenText $layer, string $role, bool $isOwn, Collector $found,
        Rules $rules, FieldReader $others,
    ): void {
        $isFile = preg_match(HtmlRoles::FILE, $value) === 1;
        $notation = StructuredValues::guess($value, $rules) ?? ($isOwn && $isFile ? Notation::Url : null);
        $isElsewhere = $notation === Notation::Url && ! $isFile && ! TextReader::isTelling($value, $rules);
        if ($notation === null || $isElsewhere) {
            return;
        }
        $found->enterCondition();
        $others->into(
            $slice->inner($value, $at, null, $layer), $notation, $found,
            $rules->with(role: $role, target: null, fetch: Fetch::BySite),
        );
        $found->leaveCondition();
    }
}
