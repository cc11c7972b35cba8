<?php

declare(strict_types=1);

namespace Ylema\Reading;

use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\Encoding\LegacyDecoder;
use Ylema\Reading\Layers\SerializedString;
use Ylema\Reading\Readers\Addresses;
use Ylema\Reading\Readers\CssReader;
use Ylema\Reading\Readers\CsvReader;
use Ylema\Reading\Readers\Html\HtmlReader;
use Ylema\Reading\Readers\Html\NamedInText;
use Ylema\Reading\Readers\JavaScript\JavaScriptReader;
use Ylema\Reading\Readers\JsonReader;
use Ylema\Reading\Readers\Markdown\MarkdownReader;
use Ylema\Reading\Readers\SerializedReader;
use Ylema\Reading\Readers\SrcsetReader;
use Ylema\Reading\Readers\TextReader;
use Ylema\Reading\Readers\TokenReader;
use Ylema\Reading\Readers\WholeFieldReader;
use Ylema\Reading\Readers\Xml\XmlReader;
use Ylema\Reading\Readers\Yaml\YamlReader;

/**
 * The entry to this folder: the text of one field in, its references out.
 *
 *     $reading = (new FieldReader)->read('<img src="/media/boat.jpg">', Notation::Html, new Rules);
 *     $reading->references[0]->start; // 10
 */
final class FieldReader
{
    /** Deeper nesting than this is damage or an attack, not content. */
    public const MAX_LAYERS = 12;

    /** @var array<string, Reader> */
    private array $readers;

    private TokenReader $tokens;

    private NamedInText $words;

    public function __construct()
    {
        $whole = new WholeFieldReader();
        $this->tokens = new TokenReader();
        $this->words = new NamedInText();
        $this->readers = [
            Notation::Html->value => new HtmlReader(),
            Notation::Css->value => new CssReader(),
            Notation::Srcset->value => new SrcsetReader(),
            Notation::Json->value => new JsonReader(),
            Notation::PhpSerialized->value => new SerializedReader(),
            Notation::Markdown->value => new MarkdownReader(),
            Notation::Yaml->value => new YamlReader(),
            Notation::Csv->value => new CsvReader(),
            Notation::Xml->value => new XmlReader(),
            Notation::JavaScript->value => new JavaScriptReader(),
            Notation::Text->value => new TextReader(),
            Notation::Url->value => $whole,
            Notation::Addresses->value => new Addresses(),
            Notation::MediaId->value => $whole,
            Notation::RecordKey->value => $whole,
            Notation::Token->value => $this->tokens,
        ];
    }

    /** @param  string|null  $transport the encoding that came with the text, such as in a Content-Type */
    public function read(string $text, Notation $notation, Rules $rules, ?string $transport = null): Reading
    {
        if (str_starts_with($text, "\0\0\xFE\xFF") || str_starts_with($text, "\xFF\xFE\0\0")) {
            return new Reading([], [
                new Problem(
                    0, 1, 'This text is in UTF-32, by its first bytes; it was not read. Store it as UTF-8.',
                ),
            ]);
        }
        $charset = Charset::of($text, $notation, $transport ?? $rules->encoding);
        if ($charset->isReplacement()) {
            return new Reading([], [
                new Problem(
                    0,
                    1,
                    "This text says that it is in {$charset->label}, of which browsers show nothing; it was not "
                        .'read.',
                ),
            ]);
        }
        if (! $charset->isUtf8()) {
            return $this->pass(new Collector($text, $charset), $text, $notation, $rules);
        }
        $reading = $this->pass(new Collector($text), $text, $notation, $rules);
        // References are found byte by byte, so only what they say shows that the text is broken there.
        if (LegacyDecoder::isNeeded(implode("\n", array_column($reading->references, 'value')))) {
            return $this->pass(new Collector($text, $charset), $text, $notation, $rules);
        }

        return $reading;
    }

    private function pass(Collector $found, string $text, Notation $notation, Rules $rules): Reading
    {
        $this->into(Slice::whole($text), $notation, $found, $rules);
        if ($rules->schemes !== [] || $rules->scripts !== []) {
            $found->translate($rules->schemes, $rules->scripts);
        }

        return $found->reading();
    }

    /** Reads an inner layer; the readers call each other through this. */
    public function into(Slice $slice, Notation $notation, Collector $found, Rules $rules): void
    {
        if (count($slice->layers) > self::MAX_LAYERS) {
            $found->problem(
                $slice->outer(0),
                'The layers are nested deeper than '.self::MAX_LAYERS.' levels; what lies deeper was not read.',
            );

            return;
        }
        if ($found->charset !== null && ! $slice->decoded && $this->isToDecode($slice, $notation, $found->charset)) {
            $decoded = LegacyDecoder::decode($slice, $slice->text, 0, $found->charset);
            if ($decoded === null) {
                $found->problem(
                    $slice->outer(0),
                    "These bytes are no text in {$found->charset->label}; they were not read.",
                );

                return;
            }
            $slice = $decoded;
        }
        $before = count($found->references);
        $mark = $found->mark();
        try {
            $this->reader($notation)->read($slice, $found, $rules, $this);
        } catch (PatternGaveUp $e) {
            $found->restore($mark);
            $found->problem(
                $slice->outer(0),
                "Part of this text is too long or too tangled to read ({$e->getMessage()}); it was not read to "
                    .'its end.',
            );
        }
        // Tokens are expanded by the site before a browser sees the markup, so they count also between tags.
        if ($rules->haveTokens() && in_array($notation, [Notation::Html, Notation::Markdown, Notation::Text], true)) {
            $this->tokens->shown($notation, $slice, $found, $rules, $this);
        }
        if ($notation === Notation::Html && $rules->mediaFolders !== [] && ! $found->isConditional()) {
            $this->words->read($slice, $found, $rules->mediaFolders, $before);
        }
    }

    /**
     * Markup is walked in its own bytes, for none of its signs can be part of another character, and only values are
     * decoded. Serialized text counts bytes, so where nothing else is around it, each string is decoded by itself.
     */
    private function isToDecode(Slice $slice, Notation $notation, Charset $charset): bool
    {
        if ($notation === Notation::PhpSerialized) {
            foreach ($slice->layers as $layer) {
                if (! $layer instanceof SerializedString) {
                    return true;
                }
            }

            return false;
        }

        return $charset->isWide() || $notation !== Notation::Html;
    }

    private function reader(Notation $notation): Reader
    {
        $reader = $this->readers[$notation->value];
        if ($reader instanceof WholeFieldReader) {
            return $reader->as($notation);
        }

        return $reader;
    }
}
