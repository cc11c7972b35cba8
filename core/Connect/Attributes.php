<?php

declare(strict_types=1);

namespace Ylema\Connect;

use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/** Finds attributes that name files of the site and that no reading knows: those of its own scripts and elements. */
final readonly class Attributes
{
    /** Values of one attribute that are looked at. */
    private const EACH = 60;

    /** Of them, so many must name files. */
    private const ENOUGH = 0.5;

    /** So many different ids must be met before an attribute is taken to hold some. */
    private const TELLING = 3;

    /** A number, a UUID (RFC 9562) or a hash. */
    private const ID = '~^(?:[1-9]\d{0,17}|[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}|[0-9a-f]{16,64})$~Di';

    /** What may be said of an attribute. */
    private const NOTATIONS = [
        Notation::Url,
        Notation::Srcset,
        Notation::Addresses,
        Notation::Css,
        Notation::Html,
        Notation::Json,
        Notation::Markdown,
    ];

    private const TAG = '~<([a-z][\w:-]*)((?:\s+[^\s<>="\'/]+(?:\s*=\s*(?:"[^"]*"|\'[^\']*\'|[^\s<>"\']+))?)+)\s*/?>~i';

    private const ATTRIBUTE = '~([^\s<>="\'/]+)\s*=\s*(?:"([^"]*)"|\'([^\']*)\'|([^\s<>"\']+))~';

    private FieldReader $reader;

    /** @param  MediaTable|null  $media whose ids may stand in attributes */
    public function __construct(
        private Looker $looker,
        private ?Relations $relations = null,
        private ?MediaTable $media = null,
    ) {
        $this->reader = new FieldReader();
    }

    /**
     * @param  iterable<string>  $texts
     * @return array{lazy: array<string, string>, elements: array<string, array<string, string>>} as the field map says
     *     them
     */
    public function in(iterable $texts): array
    {
        $unread = [];
        foreach ($texts as $text) {
            foreach ($this->looker->leaves($text) as $leaf) {
                if (str_contains($leaf, '<') && str_contains($leaf, '=')) {
                    $this->gather($leaf, $unread);
                }
            }
        }
        $lazy = $elements = [];
        foreach ($unread as $element => $attributes) {
            foreach ($attributes as $attribute => $values) {
                if ($this->areIds((string) $attribute, $values)) {
                    $notation = Notation::MediaId->value;
                    if (str_starts_with((string) $attribute, 'data-')) {
                        $lazy[(string) $attribute] = $notation;
                    } else {
                        $elements[(string) $element][(string) $attribute] = $notation;
                    }

                    continue;
                }
                $look = $this->looker->look($values);
                $isSure = $look->used >= self::ENOUGH * count($values) && $look->used > 0 && $look->below === null;
                if (! $isSure || ! in_array($look->notation, self::NOTATIONS, true)) {
                    continue;
                }
                // An element of the site's own says what it wants; elsewhere, scripts look for the attribute.
                if (str_contains((string) $element, '-') && ! str_starts_with((string) $attribute, 'data-')) {
                    $elements[(string) $element][(string) $attribute] = $look->notation->value;
                } else {
                    $lazy[(string) $attribute] = $look->notation->value;
                }
            }
        }

        return ['lazy' => $lazy, 'elements' => $elements];
    }

    /**
     * Whether an attribute that is called so holds ids of media.
     *
     * @param  list<string>  $values
     */
    private function areIds(string $attribute, array $values): bool
    {
        $ids = array_values(array_unique($values));

        return $this->media !== null
            && count($ids) >= self::TELLING
            && Hints::say(Hints::MEDIA, preg_replace('~^data-~', '', $attribute) ?? $attribute)
            && count(preg_grep(self::ID, $ids) ?: []) === count($ids)
            && $this->relations?->areKeys($ids, $this->media->table) === true;
    }

    /** @param  array<string, array<string, list<string>>>  $unread element → attribute → values, added to */
    private function gather(string $markup, array &$unread): void
    {
        if (preg_match_all(self::TAG, $markup, $tags, PREG_SET_ORDER | PREG_OFFSET_CAPTURE) === 0) {
            return;
        }
        $read = [];
        foreach ($this->reader->read($markup, Notation::Html, new Rules())->references as $reference) {
            $read[] = $reference->start;
        }
        sort($read);
        foreach ($tags as $tag) {
            preg_match_all(self::ATTRIBUTE, $tag[2][0], $attributes, PREG_SET_ORDER | PREG_OFFSET_CAPTURE);
            foreach ($attributes as $attribute) {
                [$value, $start] = end($attribute);
                $start += $tag[2][1];
                [$element, $name] = [strtolower($tag[1][0]), strtolower($attribute[1][0])];
                $couldName = preg_match('~[/.]\S*\.[a-z0-9]{2,5}|^[\w-]+\.[a-z0-9]{2,5}$~i', $value) === 1
                    || preg_match(self::ID, $value) === 1;
                if ($couldName && ! self::isRead($read, $start, strlen($value))) {
                    $values = $unread[$element][$name] ?? [];
                    if (count($values) < self::EACH) {
                        $unread[$element][$name][] = html_entity_decode($value, ENT_QUOTES | ENT_HTML5);
                    }
                }
            }
        }
    }

    /** @param  list<int>  $read where references begin, in order */
    private static function isRead(array $read, int $start, int $length): bool
    {
        foreach ($read as $at) {
            if ($at >= $start) {
                return $at < $start + $length;
            }
        }

        return false;
    }
}
