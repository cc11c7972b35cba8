<?php

declare(strict_types=1);

namespace Ylema\Reading\Encoding;

use Ylema\Reading\Layers\EncodedText;
use Ylema\Reading\Notation;

/**
 * The encoding that a text is in, by the Encoding Standard: what a browser makes of its bytes, and which bytes a
 * character is written in.
 */
final class Charset
{
    /** What iconv calls an encoding, where it is not what the standard does. */
    private const CONVERTERS = [
        'windows-874' => 'CP874', 'windows-1250' => 'CP1250', 'windows-1251' => 'CP1251', 'windows-1252' => 'CP1252',
        'windows-1253' => 'CP1253', 'windows-1254' => 'CP1254', 'windows-1255' => 'CP1255', 'windows-1256' => 'CP1256',
        'windows-1257' => 'CP1257', 'windows-1258' => 'CP1258', 'macintosh' => 'MACINTOSH',
        'x-mac-cyrillic' => 'MAC-UK',
        'GBK' => 'GB18030', 'gb18030' => 'GB18030', 'Big5' => 'BIG5-HKSCS', 'Shift_JIS' => 'CP932', 'EUC-KR' => 'CP949',
        'EUC-JP' => 'EUC-JP-MS',
    ];

    /** What one character can look like, where it can be more than a byte. */
    private const CHARACTERS = [
        'Shift_JIS' => '[\x81-\x9F\xE0-\xFC][\x40-\x7E\x80-\xFC]|[\x80-\xFF]',
        'EUC-JP' => '\x8F[\xA1-\xFE]{2}|[\x8E\xA1-\xFE][\xA1-\xFE]|[\x80-\xFF]',
        'GBK' => '[\x81-\xFE][\x30-\x39][\x81-\xFE][\x30-\x39]|[\x81-\xFE][\x40-\x7E\x80-\xFE]|[\x80-\xFF]',
        'gb18030' => '[\x81-\xFE][\x30-\x39][\x81-\xFE][\x30-\x39]|[\x81-\xFE][\x40-\x7E\x80-\xFE]|[\x80-\xFF]',
        'Big5' => '[\x81-\xFE][\x40-\x7E\xA1-\xFE]|[\x80-\xFF]',
        'EUC-KR' => '[\x81-\xFE][\x41-\xFE]|[\x80-\xFF]',
        'UTF-16BE' => '[\xD8-\xDB].[\xDC-\xDF].|..|.',
        'UTF-16LE' => '.[\xD8-\xDB].[\xDC-\xDF]|..|.',
        // From one escape to the next, so that each stretch says its state itself.
        'ISO-2022-JP' => '\x1B(?:\([BJI]|\$[@B])[^\x1B]*+|[\x0E\x0F\x1B\x80-\xFF]',
    ];

    /** Encodings in which a byte of ASCII may be part of another character, or stand for another. */
    private const HIDING = [
        'Shift_JIS' => true, 'GBK' => true, 'gb18030' => true, 'Big5' => true, 'EUC-KR' => true,
    ];

    /** @var array<string, string> bytes of a character → UTF-8 */
    private array $known = [];

    private ?EncodedText $layer = null;

    private function __construct(public readonly string $name, public readonly string $label)
    {
    }

    /** What a Content-Type says (MIME Sniffing Standard, 4.4): the label behind `charset=`. */
    public static function labelIn(?string $contentType): ?string
    {
        $pattern = '~;[\t\n\r ]*+charset=(?:"([^"]*+)"|([^;\t\n\r ]++))~i';

        return preg_match($pattern, $contentType ?? '', $m) === 1 ? (string) end($m) : null;
    }

    public static function utf8(): self
    {
        return new self('UTF-8', 'UTF-8');
    }

    /** @param  string|null  $transport the label that came with the text, such as in a Content-Type */
    public static function of(string $text, Notation $notation, ?string $transport = null): self
    {
        return new self(...Declaration::of($text, $notation, $transport));
    }

    /** @return self|null null where no browser knows the label */
    public static function called(string $label): ?self
    {
        $name = Labels::name($label);

        return $name === null ? null : new self($name, $label);
    }

    /** In which what is written is said in this encoding. */
    public function layer(): EncodedText
    {
        return $this->layer ??= new EncodedText($this);
    }

    public function isUtf8(): bool
    {
        return $this->name === 'UTF-8';
    }

    /** Whether a byte of a character can look like a sign of its own, a backslash or a backtick. */
    public function hidesSigns(): bool
    {
        return isset(self::HIDING[$this->name]);
    }

    /** Whether ASCII stands in bytes that are none of its own: in pairs of bytes, or behind escapes. */
    public function isWide(): bool
    {
        return in_array($this->name, ['UTF-16BE', 'UTF-16LE', 'ISO-2022-JP'], true);
    }

    /** Whether browsers read nothing in it at all (Encoding Standard, 14.1). */
    public function isReplacement(): bool
    {
        return $this->name === 'replacement';
    }

    /** A pattern for one character that is not ASCII. */
    public function character(): string
    {
        return self::CHARACTERS[$this->name] ?? '[\x80-\xFF]';
    }

    /**
     * @param  string  $bytes of one character
     * @return string U+FFFD for what is none; a byte of ASCII behind a broken character stays what it is
     */
    public function decode(string $bytes): string
    {
        return $this->known[$bytes] ??= $this->decoded($bytes);
    }

    /** A few words for the eye. */
    public function text(string $text): string
    {
        if ($this->isUtf8()) {
            return LegacyDecoder::mended($text);
        }
        // All at once, where all of it is text.
        $whole = $this->isWide() || $this->name === 'x-user-defined'
            ? ''
            : self::converted($this->converter(), 'UTF-8', $text);
        if ($whole !== '') {
            return $whole;
        }
        $pattern = '~'.$this->character().'~s';

        return preg_replace_callback($pattern, fn (array $m): string => $this->decode($m[0]), $text) ?? '';
    }

    /** @return string|null null where the encoding does not have the character */
    public function encode(string $character): ?string
    {
        if ($this->name === 'UTF-8') {
            return $character;
        }
        if ($this->name === 'x-user-defined') {
            $point = mb_ord($character, 'UTF-8');

            return $point >= 0xF780 && $point <= 0xF7FF ? chr($point - 0xF700) : null;
        }
        $bytes = self::converted('UTF-8', $this->converter(), $character);
        // GBK has none of what gb18030 writes in four bytes (10.1.2).
        if ($bytes !== '' && ($this->name !== 'GBK' || strlen($bytes) < 4)) {
            return $bytes;
        }
        $control = self::control($character);

        return $control !== '' && $this->decoded($control) === $character ? $control : null;
    }

    /** The byte that a control character above ASCII would be, in the encodings that leave it to them. */
    private static function control(string $character): string
    {
        $point = mb_ord($character, 'UTF-8');

        return $point >= 0x80 && $point <= 0x9F ? chr($point) : '';
    }

    private function decoded(string $bytes): string
    {
        if ($bytes === '') {
            return '';
        }
        if ($this->name === 'x-user-defined') {
            return CodePoint::character(0xF700 + ord($bytes));
        }
        $character = self::converted($this->converter(), 'UTF-8', $bytes);
        if ($character !== '') {
            return $character;
        }
        $last = $bytes[-1];
        if (strlen($bytes) === 2 && $last < "\x80" && ! $this->isWide()) {
            return "\u{FFFD}".$last;
        }
        // The indexes of the standard leave what the code pages leave out to the control characters.
        $isControl = strlen($bytes) === 1 && $bytes <= "\x9F" && str_starts_with($this->name, 'windows-');

        return $isControl ? CodePoint::character(ord($bytes)) : "\u{FFFD}";
    }

    private function converter(): string
    {
        return self::CONVERTERS[$this->name] ?? $this->name;
    }

    /** @return string empty where one has no character for it, which iconv calls a notice */
    private static function converted(string $from, string $to, string $text): string
    {
        set_error_handler(static fn (): bool => true, E_NOTICE);
        $converted = iconv($from, $to, $text);
        restore_error_handler();

        return (string) $converted;
    }
}
