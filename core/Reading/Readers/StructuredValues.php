<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/**
 * Decides how a value inside a structured field is read: by the field map's path rule first, else by what it plainly
 * is.
 *
 * @internal shared by the json and php-serialized readers
 */
final readonly class StructuredValues
{
    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $rule = $rules->pathRule($slice->path ?? '');
        if ($rule !== null) {
            $others->into(
                $slice, $rule->notation, $found,
                $rules->with(
                    role: $rule->role ?? $rules->role, target: $rule->target, below: $rule->below ?? $rules->below,
                ),
            );

            return;
        }
        $notation = self::guess($slice->text, $rules);
        if ($notation !== null) {
            $others->into($slice, $notation, $found, $rules);
        }
    }

    /** Whether a string, still as it is written, is worth a closer look: by far the most are words. */
    public static function couldMatter(string $raw, Rules $rules): bool
    {
        return $rules->paths !== [] || $rules->haveTokens() || strpbrk($raw, '/<({:\\') !== false;
    }

    /** A bare number refers to something only where the field map says so. */
    public function number(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $rule = $rules->pathRule($slice->path ?? '');
        if ($rule !== null && ($rule->notation === Notation::MediaId || $rule->notation === Notation::RecordKey)) {
            $others->into(
                $slice, $rule->notation, $found,
                $rules->with(
                    role: $rule->role ?? $rules->role, target: $rule->target, below: $rule->below ?? $rules->below,
                ),
            );
        }
    }

    public static function guess(string $text, Rules $rules): ?Notation
    {
        return match (true) {
            preg_match('~^(?:[aO]:\d+:|s:\d+:")~', $text) === 1 => Notation::PhpSerialized,
            preg_match('~^\s*+(?:\{\s*+["}]|\[\s*+[\[{"\d\]-])~', $text) === 1 && self::isJson($text) => Notation::Json,
            preg_match('~<[a-z/!]~i', $text) === 1 => Notation::Html,
            $rules->looksLikeAddress($text) => Addresses::notation($text) ?? Notation::Url,
            stripos($text, 'url(') !== false => Notation::Css,
            $rules->haveTokens() => Notation::Text,
            default => null,
        };
    }

    /** json_validate() is of PHP 8.3. */
    private static function isJson(string $text): bool
    {
        json_decode($text);

        // Text in an older encoding is decoded before it is read as what it is.
        return in_array(json_last_error(), [JSON_ERROR_NONE, JSON_ERROR_UTF8], true);
    }
}
