<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\FieldReader;
use Ylema\Reading\HtmlRoles;
use Ylema\Reading\Notation;
use Ylema\Reading\PatternGaveUp;
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
    /** Names of properties whose value is a file, or an object that says its address. */
    private const LINKED = '~(?:^|\.)(?:image|logo|photos?|thumbnail(?:Url)?|contentUrl|embedUrl|screenshot|url'
        .'|@id|video|audio|associatedMedia|primaryImageOfPage|encoding|hasMap|sameAs)(?:\[\d++\])?$~iD';

    /** An image or a link to a path or file, or the definition of one: what prose with markup of its own holds. */
    private const MARKDOWN = '~\[[^\[\]\n]*+\]\([ \t]*+<?[^\s()<>/.]*+[/.][^\s()]'
        .'|^ {0,3}\[[^\[\]\n]++\]:[ \t]++<?[^\s/.]*+[/.]~m';

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
        $notation = self::guess($slice->text, $rules) ?? self::ofLinkedData($slice, $rules);
        if ($notation !== null) {
            $others->into($slice, $notation, $found, $rules);
        }
    }

    /** A file that data about a page names relative to the page (JSON-LD 1.1, 3.2), under a name that means one. */
    private static function ofLinkedData(Slice $slice, Rules $rules): ?Notation
    {
        return $rules->role === 'json-ld'
            && preg_match(self::LINKED, (string) $slice->path) === 1
            && preg_match(HtmlRoles::FILE, $slice->text) === 1
                ? Notation::Url
                : null;
    }

    /** Whether a string, still as it is written, is worth a closer look: by far the most are words. */
    public static function couldMatter(string $raw, Rules $rules): bool
    {
        return $rules->paths !== []
            || $rules->haveTokens()
            || strpbrk($raw, $rules->role === 'json-ld' ? '/<({:\\.' : '/<({:\\') !== false;
    }

    /**
     * A name in an object can be an address, too. Of two alike a parser takes one, so the second counts for nothing.
     *
     * @param  array<string, true>  $names of this object up to here that are addresses
     */
    public function key(
        Slice $slice, array &$names, Collector $found, Rules $rules, FieldReader $others,
    ): void {
        if (! isset($names[$slice->text]) && $rules->looksLikeAddress($slice->text)) {
            $names[$slice->text] = true;
            $others->into($slice, Notation::Url, $found, $rules->with(role: 'key', target: null));
        }
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

    /** What a value is that nobody describes; null where it refers to nothing. */
    public static function guess(string $text, Rules $rules): ?Notation
    {
        $value = trim($text);
        $notation = match (true) {
            preg_match('~^(?:[aO]:\d+:|s:\d+:")~', $text) === 1 => Notation::PhpSerialized,
            preg_match('~^(?:\{\s*+["}]|\[\s*+[\[{"\d\]-])~', $value) === 1 && self::isJson($value) => Notation::Json,
            ($value[0] ?? '') !== '<' && preg_match(self::MARKDOWN, $value) === 1 => Notation::Markdown,
            preg_match('~<[a-z/!]~i', $value) === 1 => Notation::Html,
            $rules->looksLikeAddress(strtok($value, "\r\n") ?: '') => self::addresses($value, $rules),
            preg_match('~(?:url|image-set)\(~i', $value) === 1 => Notation::Css,
            $rules->haveTokens() || TextReader::isTelling($value, $rules) => Notation::Text,
            default => null,
        };
        PatternGaveUp::check();

        return $notation;
    }

    /** What begins with an address is one, several, or a sentence. */
    private static function addresses(string $value, Rules $rules): Notation
    {
        return Addresses::notation($value)
            ?? (TextReader::isMoreThanOne($value, $rules) ? Notation::Text : Notation::Url);
    }

    /** json_validate() is of PHP 8.3. */
    private static function isJson(string $text): bool
    {
        json_decode($text);

        // Text in an older encoding is decoded before it is read as what it is.
        return in_array(json_last_error(), [JSON_ERROR_NONE, JSON_ERROR_UTF8], true);
    }
}
