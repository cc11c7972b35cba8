<?php

declare(strict_types=1);

namespace Ylema\Net;

use Normalizer;
use Ylema\Reading\Decoding;
use Ylema\Reading\Encoding\Charset;

/**
 * The net under the readers: finds in any text, whatever it is written in, what names a file of the site.
 *
 * A text is searched as it stands and beneath all its layers of escapes, in parts of one size, so that memory does not
 * grow with it. Letter case and Unicode form make no difference (as in Resolver::fold()).
 *
 *     $net = new Net(new FileNames(['media/seal-colony.jpg']));
 *     $net->haul('{"hero":"\/media\/Seal-Colony.jpg"}')->mentions[0]->said(); // media/seal-colony.jpg
 */
final readonly class Net
{
    /** Bytes that are searched at once; a multiple of what one character takes in any encoding. */
    private const PART = 65_536;

    /** What two parts share, so that a name on their border is whole in one of them. */
    private const SHARED = 4096;

    /** How far before its end a part is cut where two characters meet. */
    private const NEAR = 512;

    /** Layers of escapes in each other; content has three or four. */
    private const LAYERS = 14;

    /** Layers beneath which bytes are tried in all encodings, and not in the commonest alone. */
    private const GUESSED = 2;

    /** Ways to read one part, over all its layers; more are made on purpose. */
    private const WAYS = 400;

    /** How far before a name its folders may begin, in bytes. */
    private const BEFORE = 240;

    /** What sizes of a picture are called behind its name, in the habits of many programs. */
    private const SIZE = '(?:[-_.@]?@?\d(?:\.\d)?x|[-_.@][wh]?\d{1,5}(?:w|px)?(?:x\d{1,5})?'
        .'|[-_.](?:thumb(?:nail)?|small|medium|large|scaled|mini|preview|min|cropped|crop|square|e\d{6,}))+';

    /** And before it. */
    private const SIZED = '~(?:^|[^a-z0-9\x80-\xff])(?:thumb(?:nail)?s?|tn|th|small|medium|large|mini|preview'
        .'|[wh]?\d{1,5}(?:x\d{1,5})?)[-_.]$~';

    /** A number of fewer digits is no name by itself. */
    private const DIGITS = 5;

    /** How far before a value its label begins. */
    private const LABEL = 24;

    /** Labels of what people read. */
    private const WORDS =
        '~(?:alt|title|caption|label|credit|text|words?|tags?|categor(?:y|ies))'
        .'\\\\?["\']?\s*[=:]\s*\[?\\\\?["\']$~D';

    public function __construct(public FileNames $names)
    {
    }

    /**
     * @param  list<array{int, int}>  $covered stretches that were read as references: offset and end, in any order
     * @param  Charset|null  $charset that the text is known to be in; where it is not, and is no UTF-8 either, it is
     *       searched in every encoding that could say one of the names
     */
    public function haul(string $text, array $covered = [], ?Charset $charset = null): Haul
    {
        if ($this->names->isEmpty()) {
            return new Haul([]);
        }
        $found = [];
        $left = null;
        $whole = Peeled::whole(self::without($text, $covered));
        if ($charset !== null && ! $charset->isUtf8() && ($charset->isWide() || $this->names->charsets() !== [])) {
            $whole = Encodings::in($charset, $whole);
        }
        $length = strlen($whole->text);
        for ($from = 0; $from < $length; $from = self::between($whole->text, $to - self::SHARED)) {
            $to = $from + self::PART < $length ? self::between($whole->text, $from + self::PART) : $length;
            $cuts = ($from > 0 ? [0 => true] : []) + ($to < $length ? [$to - $from => true] : []);
            if (! $this->part($whole->stretch($from, $to - $from, $cuts), $found)) {
                $left = 'It hides texts in each other in more ways than are followed.';
            }
            if ($to === $length) {
                break;
            }
        }

        return new Haul(self::open($found), $left);
    }

    /**
     * An offset near one where no character is cut, in whatever encoding: what is said with several bytes has none of
     * these signs in them. Bytes of nothing tell of characters of two or four bytes, which stay where they are.
     */
    private static function between(string $text, int $offset): int
    {
        $near = substr($text, $offset - self::NEAR, self::NEAR);

        return preg_match('~[\t\n\r\x20-\x2F][^\t\n\r\x20-\x2F\x00]*+$~D', $near, $m, PREG_OFFSET_CAPTURE) === 1
            && ! str_contains($near, "\0")
                ? $offset - self::NEAR + $m[0][1] + 1
                : $offset;
    }

    /**
     * The text with blanks for what is covered: most of what names files was read, and is not to be searched.
     *
     * @param  list<array{int, int}>  $covered
     */
    private static function without(string $text, array $covered): string
    {
        // Readers say them in their order, nearly always.
        for ($i = 1, $n = count($covered); $i < $n; $i++) {
            if ($covered[$i][0] < $covered[$i - 1][0]) {
                sort($covered);
                break;
            }
        }
        $open = '';
        $at = 0;
        foreach ($covered as [$from, $to]) {
            if ($to > $at) {
                $from = max($from, $at);
                $open .= substr($text, $at, $from - $at).str_repeat(' ', $to - $from);
                $at = $to;
            }
        }

        return $at === 0 ? $text : $open.substr($text, $at);
    }

    /**
     * @param  array<string, Mention>  $found
     * @return bool whether all its layers were searched
     */
    private function part(Peeled $part, array &$found): bool
    {
        $seen = [];
        $layer = [$part, ...Encodings::of($part, $this->names->charsets())];
        $ways = 0;
        for ($depth = 0; $layer !== []; $depth++) {
            $inner = [];
            // Escapes hide bytes of UTF-8, but for those of addresses; deeper ones are seldom anything else.
            $charsets = array_slice($this->names->charsets(), 0, $depth < self::GUESSED ? null : 1);
            foreach ($layer as $peeled) {
                $key = hash('xxh128', $peeled->text);
                if (isset($seen[$key])) {
                    continue;
                }
                if (++$ways > self::WAYS) {
                    return false;
                }
                $seen[$key] = true;
                $this->search($peeled, $found);
                $beneath = Escapes::peel($peeled);
                foreach ($beneath as $one) {
                    $inner[] = $one;
                    // Bytes that percent signs say may be of any encoding.
                    array_push($inner, ...Encodings::of($one, $charsets));
                }
            }
            if ($depth === self::LAYERS && $inner !== []) {
                return false;
            }
            $layer = $inner;
        }

        return true;
    }

    /** @param  array<string, Mention>  $found */
    private function search(Peeled $peeled, array &$found): void
    {
        $folded = $this->folded($peeled);
        $text = $folded->text;
        $plain = [];
        foreach ($this->names->in($text) as [$start, $stem]) {
            // Most of what is met are words among words, and numbers that say how much; they are let go before anything
            // more is asked.
            if (strlen($stem) < self::DIGITS && self::isAmount($text, $start, $stem)) {
                continue;
            }
            if (self::isAmongWords($text, $start, strlen($stem)) && $plain[$stem] ??= self::telling($stem) === null) {
                continue;
            }
            $mention = $this->mention($folded, $start, $stem);
            if ($mention === null) {
                continue;
            }
            // One place is met in several layers, and the same end beneath more of them has more of its folders.
            $key = ($mention->start + $mention->length)." $mention->stem";
            $known = $found[$key] ?? null;
            if ($known === null || strlen($known->said()) < strlen($mention->said())) {
                $found[$key] = $mention;
            }
        }
    }

    private function folded(Peeled $peeled): Peeled
    {
        $lower = strtolower($peeled->text);
        if (! $this->names->isWide() || preg_match('~[\x80-\xff]~', $lower) !== 1) {
            return $peeled->sameLength($lower);
        }
        $decoding = new Decoding($lower, 0);
        preg_match_all('~[a-z]?[\x80-\xff]++~', $lower, $found, PREG_OFFSET_CAPTURE);
        foreach ($found[0] as [$letters, $offset]) {
            $composed = mb_check_encoding($letters, 'UTF-8')
                ? mb_strtolower(self::composed($letters), 'UTF-8')
                : $letters;
            if ($composed !== $letters) {
                $decoding->replace($offset, strlen($letters), $composed);
            }
        }
        [$text, $breaks] = $decoding->done();

        return $breaks === null ? $peeled->sameLength($lower) : $peeled->without($text, $breaks);
    }

    private static function composed(string $letters): string
    {
        $composed = Normalizer::normalize($letters, Normalizer::FORM_C);

        return is_string($composed) ? $composed : $letters;
    }

    /** Whether it is a short number by itself: a file called so has its folder before it, or its ending behind. */
    private static function isAmount(string $text, int $start, string $stem): bool
    {
        return ctype_digit($stem)
            && ($text[$start - 1] ?? '') !== '/'
            && ! str_contains('.-_@', $text[$start + strlen($stem)] ?? ' ');
    }

    /** Whether a blank or a tag stands on both sides, and no sign that says of what this is the value. */
    private static function isAmongWords(string $text, int $start, int $length): bool
    {
        $before = $text[$start - 1] ?? '';
        $behind = $text[$start + $length] ?? '';

        return match ($behind) {
            ' ', '<' => match ($before) {
                ' ' => ! in_array($text[$start - 2] ?? '', [':', '=', ''], true),
                '>' => true,
                default => false,
            },
            default => false,
        };
    }

    private function mention(Peeled $in, int $start, string $stem): ?Mention
    {
        $text = $in->text;
        $end = $start + strlen($stem);
        $isSize = false;
        if (! self::begins($text, $start)) {
            if (preg_match(self::SIZED, substr($text, max(0, $start - 20), min(20, $start))) !== 1) {
                return null;
            }
            $isSize = true;
        }
        $behind = substr($text, $end, 64);
        $ending = '';
        // Its ending, also behind a size, and also with another behind it: `seal.w640.jpg`, `seal.jpg.webp`.
        if (
            preg_match('~^(?<size>'.self::SIZE.')?\.(?<ending>[a-z0-9]{1,10})(?![a-z0-9])~', $behind, $m) === 1
            && $this->names->knowsEnding($m['ending'])
        ) {
            $isSize = $isSize || $m['size'] !== '';
            $ending = $m['ending'];
            $end += strlen($m[0]);
        } elseif (preg_match('~^(?:[a-z0-9]|[-_.]+[a-z0-9])~', $behind) === 1 || self::isLetter($behind)) {
            return null;
        }
        $folder = self::folder($text, $start);
        $begins = $start - strlen($folder['raw']);
        if ($in->isCut($begins, $end) || $in->isCut($start, $end)) {
            return null;
        }
        $strength = match (true) {
            $ending !== '' => $isSize ? Strength::Stem : ($folder['path'] === '' ? Strength::Name : Strength::Path),
            $isSize => null,
            $folder['path'] !== '' && $this->names->knowsFolder($folder['path']) => Strength::Stem,
            default => self::alone($stem, $text, $start, $end),
        };
        if ($strength === null) {
            return null;
        }
        $from = $in->outer($begins);

        return new Mention($from, $in->outer($end) - $from, $strength, $folder['path'], $stem, $ending);
    }

    /** Whether a name may begin there, rather than be the rest of another. */
    private static function begins(string $text, int $start): bool
    {
        $before = substr($text, max(0, $start - 12), min(12, $start));
        $rest = rtrim($before, '-_.~+');
        $last = $rest === '' ? 0 : ord($rest[-1]);

        return match (true) {
            $last < 0x80 => $rest === '' || ! ctype_alnum($rest[-1]),
            default => ! self::endsInLetter($rest),
        };
    }

    private static function endsInLetter(string $before): bool
    {
        // The first bytes may be the end of a character that was cut.
        return preg_match('~[\p{L}\p{M}\p{N}]$~Du', ltrim($before, "\x80..\xBF")) === 1;
    }

    private static function isLetter(string $behind): bool
    {
        return ord($behind) >= 0x80 && preg_match('~^[\p{L}\p{M}\p{N}]~u', mb_strcut($behind, 0, 8)) === 1;
    }

    /** @return array{raw: string, path: string} what stands before a name up to where its path begins */
    private static function folder(string $text, int $start): array
    {
        $before = substr($text, max(0, $start - self::BEFORE), min(self::BEFORE, $start));
        if (preg_match('~[^\s"\'<>(){}|,;=:?&*$`\[\]\\\\\x00-\x1f]*+(?<=/)$~D', $before, $m) !== 1) {
            return ['raw' => '', 'path' => ''];
        }
        // Without the host that two slashes stand before, and without steps to folders above.
        $path = (string) preg_replace(['~^//[^/]*/~', '~^(?:\.{0,2}/)+~'], '', $m[0]);

        return ['raw' => $m[0], 'path' => $path];
    }

    /** What a name says without its ending. */
    private static function alone(string $stem, string $text, int $start, int $end): ?Strength
    {
        if (preg_match('~\p{L}~u', $stem) !== 1) {
            // A number is no name.
            return preg_match_all('~\d~', $stem) >= self::DIGITS ? self::asValue($text, $start, $end) : null;
        }

        return self::telling($stem) ?? self::asValue($text, $start, $end);
    }

    /** What a name says wherever it stands: one that is rare names its file, a plain word does not. */
    private static function telling(string $stem): ?Strength
    {
        $letters = (int) preg_match_all('~\p{L}~u', $stem);
        $digits = (int) preg_match_all('~\d~', $stem);
        $isDigest = $digits > 0 && preg_match('~^[0-9a-f]{16,}$~D', $stem) === 1;
        $words = (int) preg_match_all('~\p{L}{2,}~u', $stem);
        $isOfWords = $words > 1 && $letters >= 10 && ! str_contains($stem, ' ');

        return $letters > 0 && ($isDigest || $digits >= 3 || $isOfWords) ? Strength::Stem : null;
    }

    /** A plain word counts where it is a value by itself: in quotes, behind a colon, as a field of a list. */
    private static function asValue(string $text, int $start, int $end): ?Strength
    {
        $before = substr($text, max(0, $start - self::LABEL), min(self::LABEL, $start));
        $behind = substr($text, $end, 2);
        $isValue = preg_match('~["\'`]$~D', $before, $quote) === 1
            ? str_starts_with(ltrim($behind, '\\'), $quote[0])
            : preg_match('~(?:^|[=:(\[,;|\n\t\x00]|[:=] )$~D', $before) === 1
                && preg_match('~^(?:[)\],;|&\r\n\t\x00]|$)~', $behind) === 1;

        // What is there to be read by people says words, and names nothing.
        return $isValue && preg_match(self::WORDS, $before) !== 1 ? Strength::Word : null;
    }

    /**
     * Without a shorter name within a longer one.
     *
     * @param  array<string, Mention>  $found
     * @return list<Mention>
     */
    private static function open(array $found): array
    {
        $mentions = array_values($found);
        usort(
            $mentions,
            static fn (Mention $a, Mention $b): int => [$a->start, $b->length, strlen($b->stem)]
                <=> [$b->start, $a->length, strlen($a->stem)],
        );
        $open = [];
        $until = -1;
        foreach ($mentions as $mention) {
            $end = $mention->start + $mention->length;
            if ($end > $until) {
                $until = $end;
                $open[] = $mention;
            }
        }

        return $open;
    }
}
