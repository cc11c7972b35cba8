<?php

declare(strict_types=1);

namespace Ylema\Reading\Encoding;

use Ylema\Reading\Notation;

/** An encoding that a text says it is in, other than UTF-8; by the names of the Encoding Standard, 4.2. */
final class Charset
{
    /** A browser looks for the declaration this far (HTML Standard, 13.2.3.2). */
    private const PRESCANNED = 1024;

    /** label → name for iconv; labels of one encoding that differ only in how they are spelt are folded before. */
    private const NAMES = [
        'iso88591' => 'CP1252',
        'latin1' => 'CP1252',
        'l1' => 'CP1252',
        'ascii' => 'CP1252',
        'usascii' => 'CP1252',
        'cp819' => 'CP1252',
        'iso88592' => 'ISO-8859-2',
        'latin2' => 'ISO-8859-2',
        'iso88593' => 'ISO-8859-3',
        'iso88594' => 'ISO-8859-4',
        'iso88595' => 'ISO-8859-5',
        'iso88596' => 'ISO-8859-6',
        'iso88597' => 'ISO-8859-7',
        'greek' => 'ISO-8859-7',
        'iso88598' => 'ISO-8859-8',
        'iso88599' => 'CP1254',
        'latin5' => 'CP1254',
        'iso885910' => 'ISO-8859-10',
        'iso885911' => 'CP874',
        'tis620' => 'CP874',
        'iso885913' => 'ISO-8859-13',
        'iso885914' => 'ISO-8859-14',
        'iso885915' => 'ISO-8859-15',
        'latin9' => 'ISO-8859-15',
        'iso885916' => 'ISO-8859-16',
        'koi8r' => 'KOI8-R',
        'koi8u' => 'KOI8-U',
        'ibm866' => 'IBM866',
        'cp866' => 'IBM866',
        'macintosh' => 'MACINTOSH',
        'shiftjis' => 'CP932',
        'sjis' => 'CP932',
        'xsjis' => 'CP932',
        'windows31j' => 'CP932',
        'mskanji' => 'CP932',
        'eucjp' => 'EUC-JP',
        'gbk' => 'GB18030',
        'gb2312' => 'GB18030',
        'gb18030' => 'GB18030',
        'big5' => 'CP950',
        'euckr' => 'CP949',
        'ksc56011987' => 'CP949',
    ];

    /** What one character can look like, where it can be more than a byte. */
    private const CHARACTERS = [
        'CP932' => '[\x81-\x9F\xE0-\xFC][\x40-\x7E\x80-\xFC]|[\x80-\xFF]',
        'EUC-JP' => '\x8F[\xA1-\xFE]{2}|[\x8E\xA1-\xFE][\xA1-\xFE]|[\x80-\xFF]',
        'GB18030' => '[\x81-\xFE][\x30-\x39][\x81-\xFE][\x30-\x39]|[\x81-\xFE][\x40-\x7E\x80-\xFE]|[\x80-\xFF]',
        'CP950' => '[\x81-\xFE][\x40-\x7E\xA1-\xFE]|[\x80-\xFF]',
        'CP949' => '[\x81-\xFE][\x41-\xFE]|[\x80-\xFF]',
    ];

    /** @var array<string, string> bytes of a character → UTF-8 */
    private array $known = [];

    private function __construct(public readonly string $label, private readonly string $name)
    {
    }

    /** @return self|null null where the text says nothing, says UTF-8, or says what no browser knows */
    public static function declared(string $text, Notation $notation): ?self
    {
        $pattern = match ($notation) {
            Notation::Html => '~<meta[^>]*?charset\s*+=\s*+["\']?\s*+([\w.:+-]++)~i',
            Notation::Css => '~^@charset "([^"]++)";~',
            Notation::Xml => '~^<\?xml[^>]*?\sencoding\s*+=\s*+["\']([\w.:+-]++)~',
            default => null,
        };
        $isMarked = str_starts_with($text, "\xEF\xBB\xBF");

        return $pattern !== null
            && ! $isMarked
            && preg_match($pattern, substr($text, 0, self::PRESCANNED), $m) === 1
                ? self::called($m[1])
                : null;
    }

    public static function called(string $label): ?self
    {
        $folded = str_replace(['-', '_', ':'], '', strtolower(trim($label)));
        $name = preg_match('~^(?:x?cp|windows)(125[0-8]|874)$~D', $folded, $m) === 1
            ? "CP$m[1]"
            : (self::NAMES[$folded] ?? null);

        return $name === null ? null : new self($label, $name);
    }

    /** Whether a byte of a character can look like a sign of its own, a backslash or a backtick. */
    public function hidesSigns(): bool
    {
        return isset(self::CHARACTERS[$this->name]) && $this->name !== 'EUC-JP';
    }

    /** A pattern for one character that is not ASCII. */
    public function character(): string
    {
        return self::CHARACTERS[$this->name] ?? '[\x80-\xFF]';
    }

    /** @param  string  $bytes of one character */
    public function decode(string $bytes): string
    {
        $known = $this->known[$bytes] ??= self::converted($this->name, 'UTF-8', $bytes);

        return $known === '' ? "\u{FFFD}" : $known;
    }

    /** @return string|null null where the encoding does not have the character */
    public function encode(string $character): ?string
    {
        $bytes = self::converted('UTF-8', $this->name, $character);

        return $bytes === '' ? null : $bytes;
    }

    /** @return string empty where one has no character for it, which iconv calls a notice */
    private static function converted(string $from, string $to, string $text): string
    {
        set_error_handler(static fn (): bool => true);
        try {
            return (string) iconv($from, $to, $text);
        } finally {
            restore_error_handler();
        }
    }
}
