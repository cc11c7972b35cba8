<?php

declare(strict_types=1);

namespace App\Reading;

use Ylema\Net\Mention;
use Ylema\Net\Strength;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Names;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/** Finds the site's own tokens in texts in which the site does not look for them, and the items that they name. */
final readonly class NamedItems
{
    private FieldReader $reader;

    public function __construct(private Rules $rules)
    {
        $this->reader = new FieldReader();
    }

    /**
     * @param  list<array{int, int}>  $covered stretches that were read: offset and end
     * @return list<Mention>
     */
    public function in(string $text, array $covered = []): array
    {
        $mentions = [];
        if (! $this->rules->haveTokens()) {
            return [];
        }
        foreach ($this->reader->read($text, Notation::Token, $this->rules)->references as $reference) {
            if ($reference->names !== Names::MediaItem) {
                continue;
            }
            foreach ($covered as [$from, $to]) {
                if ($from <= $reference->start && $reference->end() <= $to) {
                    continue 2;
                }
            }
            $mentions[] = new Mention(
                $reference->start,
                $reference->length,
                Strength::Name,
                item: $reference->value,
            );
        }

        return $mentions;
    }
}
