<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers;

use Ylema\Reading\Collector;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Layers\SrcsetCandidate;
use Ylema\Reading\Names;
use Ylema\Reading\Reader;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** A candidate list, parsed by the steps of the HTML Standard, 4.8.4.3.10 "Parsing a srcset attribute". */
final readonly class SrcsetReader implements Reader
{
    private const SPACE = "\t\n\f\r ";

    /** A candidate with a whole number for a descriptor, as nearly all are. */
    private const PLAIN = '~\G([^\t\n\f\r\x20,][^\t\n\f\r\x20]*+)(?<!,)[\t\n\f\r\x20]++([1-9][0-9]*+[wx])[\t\n\f\r\x20]*+(?:,[\t\n\f\r\x20]*+|\z)~S';

    public SrcsetCandidate $layer;

    public function __construct()
    {
        $this->layer = new SrcsetCandidate;
    }

    /**
     * The candidates of a list in which every one is plain.
     *
     * @return array{list<string>, list<string>, list<string>}|null each whole with what separates it from the next, its
     *       address, its descriptor; null
     *                                                            where there is more to it
     */
    public function plain(string $text): ?array
    {
        preg_match_all(self::PLAIN, $text, $candidates);

        return strlen(implode('', $candidates[0])) === strlen($text) ? $candidates : null;
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $text = $slice->text;
        $length = strlen($text);
        $role = $rules->role ?? 'srcset';
        $at = 0;
        while (true) {
            $at += strspn($text, self::SPACE.',', $at);
            if ($at >= $length) {
                return;
            }
            $start = $at;
            $at += strcspn($text, self::SPACE, $at);
            $url = substr($text, $start, $at - $start);
            $descriptor = '';
            if (str_ends_with($url, ',')) {
                $url = rtrim($url, ',');
            } else {
                $from = $at;
                $at = $this->endOfDescriptors($text, $at, $length);
                $descriptor = trim(substr($text, $from, $at - $from), self::SPACE.',');
            }
            // A candidate with descriptors that do not parse is dropped by the browser (steps 10–13).
            if ($this->descriptorsParse($descriptor)) {
                $found->add(
                    $slice, $start, strlen($url), $url, Names::Address, $role, Fetch::OnCondition, $this->layer,
                    descriptor: $descriptor,
                );
            }
        }
    }

    /** The descriptor tokeniser: a comma ends the candidate unless it stands in parentheses. */
    private function endOfDescriptors(string $text, int $at, int $length): int
    {
        $inParentheses = false;
        while ($at < $length) {
            $at += strcspn($text, $inParentheses ? ')' : ',(', $at);
            if ($at >= $length) {
                break;
            }
            if ($text[$at] === ',') {
                return $at + 1;
            }
            $inParentheses = $text[$at] === '(';
            $at++;
        }

        return $length;
    }

    private function descriptorsParse(string $descriptors): bool
    {
        // Nearly all are one whole number.
        if ($descriptors === '' || preg_match('~^[1-9][0-9]*+[wx]$~D', $descriptors) === 1) {
            return true;
        }
        $width = $density = $height = false;
        preg_match_all('~(?:[^'.self::SPACE.'(]++|\([^)]*+\)?+)++~', $descriptors, $each);
        foreach ($each[0] as $descriptor) {
            $valid = match (true) {
                preg_match('~^[0-9]+w$~D', $descriptor) === 1
                    && (int) $descriptor > 0 => ! $width
                    && ! $density
                    && ($width = true),
                preg_match('~^-?(?:[0-9]+(?:\.[0-9]+)?|\.[0-9]+)(?:[eE][+-]?[0-9]+)?x$~D', $descriptor) === 1
                    && (float) $descriptor >= 0 => ! $width
                    && ! $density
                    && ! $height
                    && ($density = true),
                preg_match('~^[0-9]+h$~D', $descriptor) === 1
                    && (int) $descriptor > 0 => ! $height
                    && ! $density
                    && ($height = true),
                default => false,
            };
            if (! $valid) {
                return false;
            }
        }

        return ! $height || $width;
    }
}
