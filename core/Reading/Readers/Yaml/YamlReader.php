<?php

declare(strict_types=1);

namespace Ylema\Reading\Readers\Yaml;

use Ylema\Reading\Collector;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Reader;
use Ylema\Reading\Readers\StructuredValues;
use Ylema\Reading\Rules;
use Ylema\Reading\Slice;

/** A text that is YAML as a whole, such as a file of data; of several documents in one, each begins at its own root. */
final readonly class YamlReader implements Reader
{
    private YamlValues $values;

    public function __construct()
    {
        $this->values = new YamlValues(new StructuredValues());
    }

    public function read(Slice $slice, Collector $found, Rules $rules, FieldReader $others): void
    {
        $mark = str_starts_with($slice->text, "\xEF\xBB\xBF") ? 3 : 0;
        // As many bytes, so that places stay.
        $text = strtr(substr($slice->text, $mark), ["\r\n" => " \n", "\r" => "\n"]);
        $this->values->read($slice, $text, $mark, $found, $rules, $others);
    }
}
