<?php

declare(strict_types=1);

namespace App\Logs;

use App\Retire\WhoseLog;
use Carbon\CarbonImmutable;
use Ylema\Plan\Words;

/** What was new in one log. */
final readonly class LogRead
{
    /** @param  string  $example a line that could not be read, without whose it was */
    public function __construct(
        public string $name,
        public int $lines,
        public int $broken,
        public string $example,
        public int $requests,
        public ?CarbonImmutable $from,
        public ?CarbonImmutable $until,
        public ?WhoseLog $whose = null,
    ) {
    }

    public function sentence(): string
    {
        if ($this->lines === 0) {
            return "$this->name: nothing that was not read before.";
        }
        $span =
            $this->from === null || $this->until === null
                ? ''
                : " from {$this->from->format('Y-m-d')} to {$this->until->format('Y-m-d')}";

        return "$this->name: ".
            Words::many($this->lines, 'line')
            .$span.
            ', '.
            Words::many($this->requests, 'request')
            .' for files of the site'
            .($this->broken > 0 ? '; '.Words::many($this->broken, 'line').' could not be read' : '')
            .'.';
    }
}
