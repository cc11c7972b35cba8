<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * Where in the markup the html reader stands: the last heading, figure and link that began, and the element.
 *
 * Only the places are noted while walking; the words are looked up when a reference asks for them.
 *
 * @internal
 */
final class Surroundings
{
    public string $element = '';

    /** @var array<string, string> */
    public array $attributes = [];

    private int $at = 0;

    /** @var array{string, int, string|null}|null [name, offset behind its start tag, its words once asked for] */
    private ?array $heading = null;

    /** @var array{int, int, string|null}|null [offset behind the start tag, offset of its end, its caption], the last two once asked for */
    private ?array $figure = null;

    /** @var array{string, int}|null [address, offset behind the start tag] */
    private ?array $link = null;

    public function __construct(private readonly string $text)
    {
    }

    /** @param  array<string, string>  $attributes decoded */
    public function element(string $name, array $attributes, int $at): void
    {
        $this->element = $name;
        $this->attributes = $attributes;
        $this->at = $at;
    }

    public function heading(string $name, int $at): void
    {
        $this->heading = [$name, $at, null];
    }

    public function figure(int $at): void
    {
        $this->figure = [$at, -1, null];
    }

    public function link(?string $address, int $at): void
    {
        $this->link = $address === null ? null : [$address, $at];
    }

    public function headingWords(): ?string
    {
        if ($this->heading === null) {
            return null;
        }
        if ($this->heading[2] === null) {
            $window = substr($this->text, $this->heading[1], 600);
            $stop = stripos($window, '</'.$this->heading[0]);
            $this->heading[2] = self::words($stop === false ? $window : substr($window, 0, $stop));
        }

        return $this->heading[2] === '' ? null : $this->heading[2];
    }

    /** The caption of the figure that the element stands in. */
    public function caption(): ?string
    {
        if ($this->figure === null) {
            return null;
        }
        if ($this->figure[1] < 0) {
            $window = substr($this->text, $this->figure[0], 4096);
            $end = stripos($window, '</figure');
            $inside = $end === false ? $window : substr($window, 0, $end);
            $this->figure[1] = $this->figure[0] + strlen($inside);
            $this->figure[2] = preg_match('~<figcaption\b[^>]*+>(.*?)(?:</figcaption|$)~is', $inside, $m) === 1 ? self::words($m[1]) : '';
        }
        if ($this->at > $this->figure[1]) {
            $this->figure = null;

            return null;
        }

        return $this->figure[2] === '' ? null : $this->figure[2];
    }

    /** The address that the enclosing link leads to; a link's own reference stands in none. */
    public function linkAddress(): ?string
    {
        if ($this->link === null || $this->element === 'a') {
            return null;
        }
        $between = substr($this->text, $this->link[1], $this->at - $this->link[1]);
        if (stripos($between, '</a') !== false) {
            $this->link = null;

            return null;
        }

        return $this->link[0];
    }

    private static function words(string $markup): string
    {
        $plain = html_entity_decode(preg_replace('~<[^>]*+>~', '', $markup) ?? '', ENT_QUOTES | ENT_HTML5);

        return trim(preg_replace('~\s+~', ' ', $plain) ?? '');
    }
}
