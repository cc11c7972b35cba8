<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Html;

use Ylema\Reading\ElementRule;
use Ylema\Reading\Fetch;
use Ylema\Reading\HtmlRoles;
use Ylema\Reading\Notation;

/**
 * The patterns by which markup is walked and the table that says what its attributes are, made for one set of
 * lazy-loading attributes.
 *
 * All repetition is possessive, so each byte is looked at a bounded number of times whatever the damage.
 *
 * @internal
 */
final readonly class HtmlPatterns
{
    /** Elements whose content is text to the tokeniser: no tags inside (13.2.5.2–4, 13.2.6.2). */
    public const RAW_TEXT = [
        'script' => true, 'style' => true, 'textarea' => true, 'title' => true, 'xmp' => true, 'iframe' => true,
        'noembed' => true, 'noframes' => true, 'noscript' => true, 'plaintext' => true,
    ];

    /** Elements whose content a browser does not show, or not always; their ends are noted, too. */
    public const INERT = ['template' => true];

    /** Elements that decide about what stands in them; their ends are noted, too. */
    public const CHOOSING = ['picture' => true, 'object' => true, 'frameset' => true];

    /** Elements in which the tokeniser follows other rules; their ends are noted, too. */
    public const FOREIGN = ['svg' => true, 'math' => true];

    /** Attributes that hold no reference but decide about one. */
    public const DECIDING = [
        'rel' => true, 'type' => true, 'property' => true, 'name' => true, 'itemprop' => true, 'media' => true,
        'loading' => true, 'preload' => true, 'as' => true, 'disabled' => true, 'nomodule' => true,
        'http-equiv' => true,
    ];

    /** Elements that seldom hold a reference: only those are looked at that have one of their telling attributes. */
    private const QUIET = [
        'table' => true, 'thead' => true, 'tbody' => true, 'tfoot' => true, 'tr' => true, 'td' => true,
        'th' => true, 'col' => true, 'colgroup' => true, 'form' => true, 'button' => true, 'blockquote' => true,
        'q' => true, 'ins' => true, 'del' => true,
    ];

    /** Names of event handlers, all of which begin alike (8.1.8.1). */
    private const HANDLER = 'on[a-z]++';

    private const SPACE = '[\t\n\f\r\x20]';

    private const END = '(?=[\t\n\f\r\x20/>])';

    /** A comment in all its endings (13.2.5.43–52). */
    public const COMMENT = '<!--(?:-?+>|(?:[^-]++|-(?!-!?>))*+--!?>)';

    /** What is no tag: text, comments, and what is read as a comment (13.2.5.41). */
    public const NO_TAG = '[^<]++|'.self::COMMENT.'|<(?:\?|!(?!--|\[CDATA\[)|/(?=[^a-z]))[^>]*+>|<(?=[^a-z/!?])';

    /**
     * All attributes of a tag, up to its end (13.2.5.32–40): a name may begin with "=", a value may be missing or
     * unquoted.
     */
    public const ATTRIBUTES = '(?:'.self::SPACE.'++|/(?!>)|'.self::ATTRIBUTE.')*+';

    private const ATTRIBUTE = '[^\t\n\f\r\x20/>][^\t\n\f\r\x20/>=]*+(?:'.self::SPACE.'*+='.self::SPACE.'*+(?:'
        .self::VALUE.'|(?=>))|(?!'.self::SPACE.'*+=))';

    /** An attribute value in one of its three spellings (13.2.5.36–38). */
    private const VALUE = '(?:"[^"]*+"|\'[^\']*+\'|[^\t\n\f\r\x20>"\'][^\t\n\f\r\x20>]*+)';

    /**
     * Skips all that cannot matter and ends behind the next tag that can. It always matches; without groups, what
     * follows is the end of the text, or a tag or comment that is not whole.
     *
     * The groups cover the tag without a gap, so that places follow from lengths:
     * - an image or link with one reference that needs no decoding: 1 the tag up to its value, and in it 2 the
     *   attribute's name and 3 the quote; 4 the value; 5 the rest, and in it 6 the value of "loading";
     * - a source of a picture with its list, in the same groups;
     * - the same with two telling attributes in quotes: 1 to 4 as before, 5 what is between, and in it 6 and 7 name and
     *   quote of the second; 8 its value; 9 the rest;
     * - any other tag: 1 the tag.
     */
    public string $walk;

    /** One telling attribute with all dull ones before it; group 1 its name, 2 its value with quotes. */
    public string $attribute;

    /** The same for an element of the site's own (4.13.3), whose attributes may say anything. */
    public const ANY_ATTRIBUTE = '~\G(?:'.self::SPACE.'++|/(?!>))*+([^\t\n\f\r\x20/>][^\t\n\f\r\x20/>=]*+)(?:'
        .self::SPACE.'*+='.self::SPACE.'*+('.self::VALUE.')?+)?+~S';

    /**
     * An attribute that a script or a form gives its own meaning, where its value holds what an address, style or an
     * escape is written with.
     */
    private const FREE = '(?:data-[^\t\n\f\r\x20/>=]++|value)'.self::SPACE.'*+='.self::SPACE
        .'*+(?:"[^"/&(]*+[/&(]|\'[^\'/&(]*+[/&(]|(?:[^\t\n\f\r\x20>"\'/&(][^\t\n\f\r\x20>/&(]*+)?+[/&(])';

    /**
     * @var array<string, array<string, array{Notation, Fetch, string}>> element (or `*`) → attribute → notation,
     *       fetching, role
     */
    public array $rows;

    /**
     * @param  array<string, Notation>  $lazyAttributes
     * @param  array<string, array<string, ElementRule>>  $elements
     */
    public function __construct(array $lazyAttributes, array $elements = [])
    {
        $lazy = array_keys($lazyAttributes);
        $rows = [];
        foreach (HtmlRoles::TABLE as $element => $attributes) {
            $found = HtmlRoles::TABLE['*'] + array_map(
                static fn (Notation $notation): array => [$notation, Fetch::OnCondition], $lazyAttributes,
            ) + $attributes;
            foreach ($found as $attribute => $row) {
                [$notation, $fetch] = $attributes[$attribute] ?? $row;
                $rows[$element][$attribute] = [$notation, $fetch, $element.'['.$attribute.']'];
            }
        }
        foreach ($elements as $element => $attributes) {
            $rows[$element] ??= [];
            foreach ($attributes as $attribute => $rule) {
                $rows[$element][$attribute] = [
                    $rule->notation, Fetch::OnCondition, $rule->role ?? $element.'['.$attribute.']',
                ];
            }
        }
        $this->rows = $rows;
        $own = array_map(
            strval(...),
            array_values(array_unique(array_merge([], ...array_map(array_keys(...), array_values($elements))))),
        );
        $ws = self::SPACE;
        $end = self::END;
        $attribute = self::ATTRIBUTE;
        $attributes = self::ATTRIBUTES;
        $free = self::FREE;
        $noTag = self::NO_TAG;
        // Style that calls no function refers to nothing; an ampersand could spell the parenthesis.
        $styles = self::any(['style', ...array_keys(HtmlRoles::PAINT)]);
        $plainStyle = "$styles$ws*+=$ws*+(?:\"[^\"(&]*+\"|'[^'(&]*+')";
        $between = "$ws++|/(?!>)";
        $dull = static fn (
            string $telling,
        ): string => "(?:$between|$plainStyle|(?!(?:$telling)(?=[\\t\\n\\f\\r\\x20/>=]|\\z)|$free)$attribute)*+";

        $quiet = array_keys(array_merge(...array_values(array_intersect_key(HtmlRoles::TABLE, self::QUIET))));
        $lazyOrStyle = self::any(['style', ...array_keys(HtmlRoles::PAINT), ...$quiet, ...$lazy]).'|'.self::HANDLER;
        $one = '(?:'.self::any(
            array_values(
                array_unique(['src', 'href', 'srcset', 'style', ...$lazy, 'longdesc', 'lowsrc', 'dynsrc', ...$own]),
            ),
        ).'|'.self::HANDLER.')';
        $others = $dull($one.'|loading');
        $more = $dull($one);
        $loading = "loading$ws*+=$ws*+(?|\"([^\"]*+)\"|'([^']*+)'|([^\\t\\n\\f\\r\\x20>\"'][^\\t\\n\\f\\r\\x20>]*+))";
        $address = self::any(['src', 'href', ...array_keys($lazyAttributes, Notation::Url, true)]);
        $undecoded = '[^"\'&>\\x23\r\x00\t\n\f\x20][^"\'&>\r\x00\t\n\f\x20]*+';
        $noted = self::any([
            ...array_keys(self::INERT), ...array_keys(self::FOREIGN), ...array_keys(self::CHOOSING),
        ]);
        $named = self::any([
            ...array_keys(self::RAW_TEXT), ...array_keys(self::INERT), ...array_keys(self::FOREIGN),
            ...array_keys(self::CHOOSING), 'a', 'base',
            ...array_map(strval(...), array_keys(array_diff_key($rows, self::QUIET, ['*' => true]) + $elements)),
        ]);
        $this->walk = "~\\G(?:[^<]++|(?!<(?:img|a)[\\t\\n\\f\\r\\x20])(?:
              </?+(?:p|div|li|[uo]l|strong|em|b|i|br|span|h[1-6]|figcaption|figure|a|t(?:able|body|head|[dhr])
                    |html|head|section|article|main|small)>
            | <title>[^<]*+</title>
            | </(?!(?:$noted)$end)[a-z][^\\t\\n\\f\\r\\x20/>]*+$attributes/?+>
            | <(?!(?:$named)$end)[a-z][^-\\t\\n\\f\\r\\x20/>]*+(?!-){$dull($lazyOrStyle)}/?+>
            | $noTag
            ))*+
            (?| (<(?:img|a)$end$others($address)$ws*+=$ws*+([\"']?+))($undecoded)
                    (\\3(?=[\\t\\n\\f\\r\\x20/>])$others(?:$loading$others)?+/?+>)
              | (<(?:img|a)$end$more($one)$ws*+=$ws*+([\"']))([^\"'&\\r\\x00]*+)
                    (\\3$more($one)$ws*+=$ws*+([\"']))([^\"'&\\r\\x00]*+)(\\7$more/?+>)
              | (<source$end$more(srcset)$ws*+=$ws*+([\"']))([^\"'&\\r\\x00]*+)(\\3$more/?+>)
              | (</?+[a-z][^\\t\\n\\f\\r\\x20/>]*+$attributes/?+>|<!\\[CDATA\\[)
            )?+~xiS";
        $telling = self::any(
            array_values(
                array_unique(
                    [
                        ...array_keys(self::DECIDING), ...array_keys(HtmlRoles::PAINT), ...$lazy, ...$own,
                        ...array_merge(...array_map(array_keys(...), array_values(HtmlRoles::TABLE))),
                    ],
                ),
            ),
        ).'|'.self::HANDLER;
        $this->attribute = "~\\G{$dull($telling)}((?:$telling)(?=[\\t\\n\\f\\r\\x20/>=]|$)|(?=$free)[a-z][^\\t\\n\\f\\r\\x20/>=]*+)"
            ."(?:$ws*+=$ws*+(".self::VALUE.')?+)?+~iS';
    }

    /**
     * One of some names; what follows must see to it that the name ends there, for one may begin another. Names that
     * begin alike are told apart letter by letter, so that one look leaves most others alone.
     *
     * @param  list<string>  $names
     */
    private static function any(array $names): string
    {
        $branches = [];
        foreach ($names as $name) {
            $branches[$name[0] ?? ''][] = substr($name, 1);
        }
        $ends = isset($branches['']);
        unset($branches['']);
        $parts = [];
        foreach ($branches as $letter => $rests) {
            $rests = array_values(array_unique($rests));
            $parts[] = preg_quote((string) $letter, '~')
                .(count($rests) === 1 ? preg_quote($rests[0], '~') : self::any($rests));
        }

        return count($parts) === 1 && ! $ends ? $parts[0] : '(?:'.implode('|', $parts).($ends ? '|' : '').')';
    }
}
