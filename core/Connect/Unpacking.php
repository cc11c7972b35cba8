<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** Ways in which sites keep texts otherwise than as they are, told by the values of a column; as maps call them. */
enum Unpacking: string
{
    case Base64 = 'base64';

    case Escaped = 'escaped';

    case Slashed = 'slashed';

    /** Characters below which a word may look packed by chance. */
    private const SHORT = 16;

    /**
     * @param  list<string>  $values
     * @return list<string>|null the texts of those that are packed; null where most are not
     */
    public function texts(array $values): ?array
    {
        $texts = [];
        foreach ($values as $value) {
            $text = match ($this) {
                self::Base64 => self::base64($value),
                self::Escaped => self::escaped($value),
                self::Slashed => self::slashed($value),
            };
            if ($text !== null) {
                $texts[] = $text;
            }
        }

        return count($texts) * 2 > count($values) ? $texts : null;
    }

    /** RFC 4648, where it holds what has a form of its own. */
    private static function base64(string $value): ?string
    {
        $bare = strtr(preg_replace('~\s+~', '', $value) ?? '', '-_', '+/');
        $text = strlen($bare) < self::SHORT ? false : base64_decode($bare, true);

        return $text !== false
            && preg_match('~^\s*(?:a:\d+:\{|O:\d+:"|[\[{]["\[{\d\]}]|<[a-z!])~i', $text) === 1
            ? $text
            : null;
    }

    /** Markup in which no tag stands, but entities of tags. */
    private static function escaped(string $value): ?string
    {
        return preg_match('~&lt;[a-z!/]~i', $value) === 1 && preg_match('~<[a-z!/]~i', $value) !== 1
            ? htmlspecialchars_decode($value, ENT_QUOTES | ENT_HTML5)
            : null;
    }

    /** Markup in which each quote has a slash before it. */
    private static function slashed(string $value): ?string
    {
        $isMarkup = preg_match('~<[a-z][^<>]*=\\\\["\']~i', $value) === 1;

        return $isMarkup && preg_match('~<[a-z][^<>]*=["\']~i', $value) !== 1 && json_decode($value) === null
            ? stripslashes($value)
            : null;
    }
}
