<?php

declare(strict_types=1);

namespace Ylema\Reading\Around;

use Ylema\Reading\Context;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\Fetch;
use Ylema\Reading\Layer;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;

/**
 * The outermost text, shared by all references of one reading. It counts lines from the place that was asked for last,
 * so that asking in any nearby order costs the distance and no table of lines is kept.
 *
 * @internal
 */
final class Document implements Surroundings
{
    private int $offset = 0;

    private int $line = 1;

    /** @param  Charset|null  $charset in which its words are, where they are not UTF-8 */
    public function __construct(public readonly string $text, public readonly ?Charset $charset = null)
    {
    }

    public function document(): self
    {
        return $this;
    }

    public function tag(int $anchor): ?array
    {
        return null;
    }

    public function beside(int $anchor, string $attribute, ?string $path): ?Reference
    {
        return null;
    }

    public function stretches(Reference $reference, int $anchor): ?array
    {
        $pieces = (new PlainPieces($this->text))->of(
            $reference->start,
            $reference->length,
            $reference->role,
            $reference->path,
        );

        // Offsets are those of the outermost text, so only what stands in it as it is can be looked for there.
        $notations = array_map(static fn (Layer $layer): Notation => $layer->notation(), $reference->layers);
        $isNear = $reference->path === null
            ? count($notations) <= 1
            : ($notations[0] ?? null) === Notation::Json
                && ! in_array(Notation::Json, array_slice($notations, 1), true)
                && ! in_array(Notation::PhpSerialized, $notations, true);

        return $pieces === null || ! $isNear
            ? null
            : array_map(
                fn (array $piece): Reference => new Reference(
                    $piece[0],
                    $piece[1] - $piece[0],
                    substr($this->text, $piece[0], $piece[1] - $piece[0]),
                    $reference->role,
                    Fetch::Never,
                    [],
                    $this,
                    names: Names::Stretch,
                ),
                $pieces,
            );
    }

    public function context(int $start, int $anchor, ?string $path, ?string $descriptor): Context
    {
        [$line, $column] = $this->place($start);

        return new Context($line, $column, path: $path, descriptor: $descriptor);
    }

    /** @return array{int, int} line and column, both from 1; the column in bytes */
    public function place(int $offset): array
    {
        $this->line
            += $offset >= $this->offset
                ? substr_count($this->text, "\n", $this->offset, $offset - $this->offset)
                : -substr_count($this->text, "\n", $offset, $this->offset - $offset);
        $this->offset = $offset;
        $break = $offset === 0 ? false : strrpos($this->text, "\n", $offset - 1 - strlen($this->text));

        return [$this->line, $break === false ? $offset + 1 : $offset - $break];
    }
}
