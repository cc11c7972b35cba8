<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\ElementRule;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\Plain;
use Ylema\Reading\Layers\TokenText;
use Ylema\Reading\Notation;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;
use Ylema\Reading\TokenTag;

/** The site's inline tokens, by the patterns and names of its field map, and what builders keep in comments. */
final readonly class TokenReader implements Reader
{
    /** A builder looks for its own beginning, whatever is open before it. */
    private const COMMENT = '~<!--((?>[^<-]++|<(?!!--)|-(?!-!?>))*+)(?:--!?>|\z)~';

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $this->in(null, $slice, $found, $rules, $others);
    }

    /** Those of a text in this notation that place something; not those that show how it is written. */
    public function shown(Notation $in, Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $this->in($in, $slice, $found, $rules, $others);
    }

    private function in(?Notation $in, Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $verbatim = null;
        $isShown = static function (int $offset) use ($in, $slice, &$verbatim): bool {
            $verbatim ??= $in === null ? null : new Verbatim($slice->text, $in);

            return $verbatim?->holds($offset) ?? false;
        };
        $layer = new Plain(Notation::Token, '~^[^\s<>"\']+$~D');
        foreach ($rules->tokens as $token) {
            $group = $token->group();
            if (preg_match_all($token->regex, $slice->text, $matches, PREG_OFFSET_CAPTURE) === false) {
                $found->problem(
                    $slice->outer(0),
                    "The pattern of the token \"{$token->name}\" gave up on this text: ".preg_last_error_msg().'.',
                );

                continue;
            }
            foreach ($matches[$group] ?? [] as $n => [$value, $offset]) {
                if ($offset >= 0 && ! $isShown($matches[0][$n][1])) {
                    $found->add(
                        $slice, $offset, strlen($value), $value, $token->names, 'token '.$token->name, Fetch::BySite,
                        $layer, $token->target,
                    );
                }
            }
        }
        foreach ($rules->tags as $tag) {
            $this->tag($tag, $slice, $found, $rules, $others, $isShown);
        }
        foreach ($rules->comments as $rule) {
            preg_match_all(self::COMMENT, $slice->text, $comments, PREG_OFFSET_CAPTURE);
            foreach ($comments[1] as [$comment, $offset]) {
                if (preg_match($rule->regex, $comment, $m, PREG_OFFSET_CAPTURE) === 1 && $m['text'][0] !== '') {
                    $others->into(
                        $slice->inner($m['text'][0], $offset + $m['text'][1], null, TokenText::comment()),
                        $rule->notation, $found, $rules->withoutTokens(),
                    );
                }
            }
        }
    }

    /** @param  callable(int): bool  $isShown */
    private function tag(
        TokenTag $tag, Slice $slice, Collector $found, Rules $rules, FieldReader $others, callable $isShown,
    ): void {
        if (preg_match_all($tag->regex, $slice->text, $tokens, PREG_SET_ORDER | PREG_OFFSET_CAPTURE) === false) {
            $found->problem(
                $slice->outer(0), "The token \"{$tag->name}\" could not be read here: ".preg_last_error_msg().'.',
            );

            return;
        }
        foreach ($tokens as $token) {
            if ($isShown($token[0][1])) {
                continue;
            }
            [$section, $start] = $token['attributes'];
            preg_match_all(
                '~([\w-]+)\s*+=\s*+(?:"([^"]*+)"|\'([^\']*+)\'|([^\s"\']++))~', $section, $attributes,
                PREG_SET_ORDER | PREG_OFFSET_CAPTURE | PREG_UNMATCHED_AS_NULL,
            );
            foreach ($attributes as $m) {
                $name = strtolower((string) $m[1][0]);
                $rule = $tag->attributes[$name] ?? null;
                [$value, $quote] = match (true) {
                    $m[2][0] !== null => [$m[2], '"'],
                    ($m[3][0] ?? null) !== null => [$m[3], "'"],
                    default => [$m[4], ''],
                };
                if ($rule !== null) {
                    $this->value(
                        $slice, (string) $value[0], $start + $value[1], TokenText::attribute($quote), $rule,
                        "token {$tag->name}[$name]", $found, $rules, $others,
                    );
                }
            }
            if ($tag->content !== null && isset($token['content'])) {
                [$content, $at] = $token['content'];
                $this->value(
                    $slice, $content, $at, TokenText::content(), $tag->content, "token {$tag->name}", $found, $rules,
                    $others,
                );
            }
        }
    }

    private function value(
        Slice $slice, string $text, int $at, TokenText $layer, ElementRule $rule, string $role, Collector $found,
        Rules $rules, FieldReader $others,
    ): void {
        if (trim($text) !== '') {
            $others->into(
                $slice->inner($text, $at, null, $layer), $rule->notation, $found,
                $rules->withoutTokens()->with(role: $rule->role ?? $role, target: $rule->target, fetch: Fetch::BySite),
            );
        }
    }
}
