<?php

declare(strict_types=1);

namespace Ylema\Imaging\Svg;

use LibXMLError;
use XMLReader;
use Ylema\Imaging\CheckedPicture;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/**
 * Judges an uploaded drawing as an XML parser sees it (Namespaces in XML 1.0): every element and attribute is of the
 * vocabulary, by its name space and not by its prefix, and every address stays inside of the drawing. What is left
 * cannot run anything at a visitor's, nor fetch anything from elsewhere. It is read once, from front to back.
 */
final class DrawingCheck
{
    /** A drawing this wide has lost its units. */
    private const WIDEST = 100_000;

    /** What a browser reads as Latin letters, and this parser as well; any other could say two things to the two. */
    private const ENCODINGS = '~^(?:utf-?8|us-ascii|iso-8859-1|latin1|windows-1252)$~iD';

    /** In which a page comes along; only for the words of the refusal. */
    private const WEB = ['foreignobject', 'iframe', 'embed', 'object', 'audio', 'video', 'canvas', 'handler'];

    private const BEGINNING = '~^(?:\xEF\xBB\xBF)?\s*+(?:<\?xml|<!--|<!DOCTYPE|<(?:[\w-]+:)?svg)~i';

    /**
     * The parser compares each attribute of an element with all others. A value that holds a bracket is not well-formed
     * and ends the parser's work as well.
     */
    private const TOO_MANY = '~(?(DEFINE)(?<one>\s*+[^\s=<>/"\']++\s*+=\s*+(?:"[^"<]*+"|\'[^\'<]*+\')))'
        .'<[^\s<>/!?][^\s<>/]*+(?&one){500}~S';

    /** Without any of this a value names nothing to fetch (CSS Images 4, 2; CSS Values 4, 4.5). */
    private const MAY_FETCH = '~\\\\|url|src|image|import|fade|expression|binding|behavi~i';

    /** CSS units in pixels (CSS Values 4, 6.2). */
    private const UNITS = [
        '' => 1.0,
        'px' => 1.0,
        'pt' => 96 / 72,
        'pc' => 16.0,
        'mm' => 96 / 25.4,
        'cm' => 96 / 2.54,
        'in' => 96.0,
        'q' => 96 / 101.6,
    ];

    /** Where editors say that the types of drawings lie; no browser fetches them. */
    private const KNOWN_TYPE = '~^https?://www\.w3\.org/(?:Graphics/SVG|TR)/[\w./-]+\.dtd$~D';

    private ?Size $size = null;

    /** @var string|null the text of the style element that is open; its pieces are one sheet */
    private ?string $sheet = null;

    private function __construct(
        private readonly XMLReader $xml,
        private readonly FieldReader $css,
        private readonly string $name,
    ) {
    }

    /** Whether the bytes mean to be a drawing. */
    public static function begins(string $bytes): bool
    {
        return preg_match(self::BEGINNING, substr($bytes, 0, 512)) === 1
            && preg_match('~<(?:[\w-]+:)?svg[\s>/]~i', $bytes) === 1;
    }

    /** @throws UploadRefused with a sentence that says why and what to do */
    public static function judge(string $bytes, string $name): CheckedPicture
    {
        $before = libxml_use_internal_errors(true);
        libxml_clear_errors();
        try {
            $xml = new XMLReader();
            self::prolog($bytes);
            if (! $xml->XML($bytes, null, LIBXML_NONET | LIBXML_COMPACT)) {
                throw self::damaged($name, null);
            }
            $drawing = new self($xml, new FieldReader(), $name);
            $drawing->walk();
            $error = libxml_get_last_error();
            if ($error !== false && $error->level >= LIBXML_ERR_ERROR) {
                throw self::damaged($name, $error);
            }

            return new CheckedPicture('svg', 'image/svg+xml', $drawing->size);
        } catch (Refusal $refusal) {
            $line = $refusal->atLine > 0 ? " (line {$refusal->atLine})" : '';
            throw new UploadRefused(
                "\"$name\" contains {$refusal->getMessage()}$line, which could run or load something on your visitors' "
                    .'machines. Export it as a plain drawing and try again.',
            );
        } finally {
            libxml_clear_errors();
            libxml_use_internal_errors($before);
        }
    }

    /** What stands before the root: an encoding that all read alike, and no declarations that the parser would obey. */
    private static function prolog(string $bytes): void
    {
        if (preg_match('~^(?:\xEF\xBB\xBF)?<\?xml[^>]*?\sencoding\s*+=\s*+["\']([^"\']*+)~', $bytes, $m) === 1
            && preg_match(self::ENCODINGS, $m[1]) !== 1
        ) {
            throw new Refusal("text in the encoding \"$m[1]\"", 1);
        }
        // Wherever they stand, be it in a comment: what could hide them is not looked into.
        if (preg_match('~<!(?:ENTITY|ATTLIST|ELEMENT|NOTATION)~i', $bytes) === 1) {
            throw new Refusal('entity declarations', 0);
        }
        self::expectKnownType($bytes);
        if (preg_match(self::TOO_MANY, $bytes) !== 0) {
            throw new Refusal('an element with more than 500 attributes', 0);
        }
    }

    /** Of types of documents only W3C's own: whoever reads a drawing may fetch any other, and obey what it declares. */
    private static function expectKnownType(string $bytes): void
    {
        preg_match_all('~<!DOCTYPE[^>\[]{0,2000}~i', $bytes, $types);
        foreach ($types[0] as $type) {
            if (preg_match('~\s(?:PUBLIC|SYSTEM)\b~i', $type) !== 1) {
                continue;
            }
            preg_match_all('~"([^"]*)"|\'([^\']*)\'~', $type, $said, PREG_SET_ORDER);
            $last = $said === [] ? [] : $said[count($said) - 1];
            if (preg_match(self::KNOWN_TYPE, $last[2] ?? $last[1] ?? '') !== 1) {
                throw new Refusal('a document type that lies elsewhere', 0);
            }
        }
    }

    private function walk(): void
    {
        while ($this->xml->read()) {
            match ($this->xml->nodeType) {
                XMLReader::ELEMENT => $this->element(),
                XMLReader::END_ELEMENT => $this->endSheet(),
                XMLReader::PI => $this->instruction(),
                XMLReader::TEXT, XMLReader::CDATA, XMLReader::SIGNIFICANT_WHITESPACE => $this->text(),
                XMLReader::ENTITY_REF => $this->refuse('entity declarations'),
                default => null,
            };
        }
    }

    private function element(): void
    {
        $xml = $this->xml;
        $name = $xml->localName;
        if ($this->sheet !== null) {
            $this->refuse("elements in a style sheet (<{$xml->name}>)");
        }
        if ($xml->namespaceURI !== Vocabulary::SVG) {
            if ($xml->depth === 0) {
                throw new UploadRefused(
                    'No browser would show "'.$this->name.'": it is not in the name space '.Vocabulary::SVG
                        .'. Export it again as SVG.',
                );
            }
            if (! Vocabulary::isNote($xml->namespaceURI)) {
                $this->refuse("embedded web content or foreign elements (<{$xml->name}>)");
            }

            return;
        }
        if ($xml->depth === 0 && $name !== 'svg') {
            throw new UploadRefused(
                "\"{$this->name}\" is a part of a drawing (<$name>), and none by itself. Export it again as SVG.",
            );
        }
        if (! Vocabulary::isElement($name)) {
            $this->refuse(
                match (true) {
                    strcasecmp($name, 'script') === 0 => 'a script',
                    in_array(strtolower($name), self::WEB, true) => "embedded web content (<$name>)",
                    default => "the element <$name>, which is none of a plain drawing",
                },
            );
        }
        if ($xml->depth === 0) {
            $this->size = $this->size();
        }
        $isSheet = $name === 'style' && ! $xml->isEmptyElement;
        while ($xml->moveToNextAttribute()) {
            $this->attribute($name, $xml->namespaceURI, $xml->localName, $xml->value);
        }
        $xml->moveToElement();
        $this->sheet = $isSheet ? '' : null;
    }

    private function text(): void
    {
        if ($this->sheet !== null) {
            $this->sheet .= $this->xml->value;
        }
    }

    private function endSheet(): void
    {
        if ($this->sheet !== null) {
            $this->style($this->sheet, 'a style sheet');
            $this->sheet = null;
        }
    }

    private function attribute(string $element, string $space, string $name, string $value): void
    {
        if ($space === '' && strncasecmp($name, 'on', 2) === 0) {
            $this->refuse("code that runs on an event ($name)");
        }
        if (! Vocabulary::isAttribute($space, $name)) {
            $this->refuse("the attribute {$this->xml->name}, which is none of a plain drawing");
        }
        if ($name === 'href' && in_array($space, ['', Vocabulary::XLINK], true)) {
            $this->address($element, $value);
        } elseif ($space !== '') {
            return;
        } elseif ($name === 'attributeName') {
            // What is animated may be written with any prefix.
            if (preg_match('~(?:^|:)\s*+(?:href|on|style|xmlns|src)~i', trim($value)) === 1) {
                $this->refuse("an animation of \"$value\"");
            }
        } elseif ($name === 'style') {
            $this->style("x{{$value}}", 'a style');
        } elseif (preg_match(self::MAY_FETCH, $value) === 1) {
            $this->style("x{y:$value}", "the attribute $name");
        }
    }

    /** The scheme of an address as a browser sees it: without what it strips (URL Standard, 4.4, steps 1 to 3). */
    private function address(string $element, string $value): void
    {
        $value = ltrim(str_replace(["\t", "\n", "\r"], '', $value), "\x00..\x20");
        if ($value === '' || $value[0] === '#') {
            return;
        }
        $scheme = preg_match('~^([a-z][a-z0-9+.-]*+):~i', $value, $m) === 1 ? strtolower($m[1]) : '';
        if ($element === 'a' && in_array($scheme, ['', 'http', 'https', 'mailto', 'tel'], true)) {
            return;
        }
        if (in_array($element, ['image', 'feImage'], true) && self::isInlinePicture($value)) {
            return;
        }
        $this->refuse(
            in_array($scheme, ['', 'http', 'https'], true)
                ? 'something from outside of it ('.mb_strcut(mb_scrub($value), 0, 80).')'
                : "a link that runs code or brings a document (\"$scheme:\")",
        );
    }

    private static function isInlinePicture(string $value): bool
    {
        return preg_match('~^data:\s*+image/(?:png|jpe?g|gif|webp|avif)\s*+[;,]~i', $value) === 1;
    }

    /** Whatever a style would fetch is a reference to the reader of style sheets, however it is spelt. */
    private function style(string $css, string $where): void
    {
        $reading = $this->css->read($css, Notation::Css, new Rules());
        foreach ($reading->references as $reference) {
            $value = ltrim($reference->value, "\x00..\x20");
            if (
                $value !== ''
                && $value[0] !== '#'
                && ! self::isInlinePicture($value)
                && preg_match('~^data:(?:font/|application/(?:x-)?font)~i', $value) !== 1
            ) {
                $this->refuse("something from outside of it, in $where (".mb_strcut(mb_scrub($value), 0, 80).')');
            }
        }
        if ($reading->problems !== []) {
            $this->refuse("$where that cannot be read");
        }
        if (preg_match('~@import\b|\bexpression\s*+\(|-moz-binding|\bbehaviou?r\s*+:~i', self::unescaped($css)) === 1) {
            $this->refuse("code or an import in $where");
        }
    }

    /** CSS Syntax 3, 4.3.7. */
    private static function unescaped(string $css): string
    {
        return (string) preg_replace_callback(
            '~\\\\([0-9a-f]{1,6})\s?~i',
            static fn (array $m): string => hexdec($m[1]) < 128 ? chr((int) hexdec($m[1])) : '',
            $css,
        );
    }

    private function instruction(): void
    {
        if ($this->xml->name === 'xml-stylesheet') {
            $this->refuse('a style sheet from elsewhere');
        }
        // Packets of metadata are wrapped in these (ISO 16684-1, 7.3.2); a server might run what others hold.
        if ($this->xml->name !== 'xpacket') {
            $this->refuse("the instruction <?{$this->xml->name}?>");
        }
    }

    /** SVG 2, 8.2: width and height, or else the shape of the viewBox. */
    private function size(): ?Size
    {
        $lengths = array_map(self::pixels(...), [
            (string) $this->xml->getAttribute('width'),
            (string) $this->xml->getAttribute('height'),
        ]);
        if (min($lengths) < 1) {
            $number = '[+-]?(?:\d++\.?\d*+|\.\d++)(?:e[+-]?\d++)?';
            $box = preg_match_all("~$number~i", (string) $this->xml->getAttribute('viewBox'), $m) === 4 ? $m[0] : [];
            $lengths = [(float) ($box[2] ?? 0), (float) ($box[3] ?? 0)];
        }
        if (min($lengths) < 1) {
            return null;
        }
        if (max($lengths) > self::WIDEST) {
            $this->refuse('a size of more than '.number_format(self::WIDEST).' pixels');
        }

        return new Size((int) round($lengths[0]), (int) round($lengths[1]));
    }

    private static function pixels(string $length): float
    {
        return preg_match('~^\s*+(\d++\.?\d*+|\.\d++)(px|pt|pc|mm|cm|in|q|)\s*+$~iD', $length, $m) === 1
            ? (float) $m[1] * self::UNITS[strtolower($m[2])]
            : 0.0;
    }

    private function refuse(string $what): never
    {
        $node = $this->xml->nodeType === XMLReader::NONE ? false : @$this->xml->expand();
        throw new Refusal($what, $node === false ? 0 : $node->getLineNo());
    }

    private static function damaged(string $name, ?LibXMLError $error): UploadRefused
    {
        // 4, 5, 77: what begins is never ended (libxml2, xmlerror.h).
        if ($error === null || in_array($error->code, [4, 5, 73, 77], true)) {
            return new UploadRefused(
                "\"$name\" ends in the middle: part of the file is missing. Copy or export it again.",
            );
        }

        return new UploadRefused(
            "\"$name\" is not well-formed XML (line {$error->line}: ".trim($error->message).'). Browsers would not '
                .'show it; export it again.',
        );
    }
}
