<?php

declare(strict_types=1);

namespace Ylema\Retire;

/** Words of a text that may name a file: an address, a path, or a bare name. */
final readonly class Mention
{
    /**
     * @param  string  $said decoded, without scheme and host, in lower case, without `./` and `../` before it
     * @param  int  $line counted from one
     */
    public function __construct(public string $said, public int $line)
    {
    }

    /** The last part of it. */
    public function name(): string
    {
        $slash = strrpos($this->said, '/');

        return $slash === false ? $this->said : substr($this->said, $slash + 1);
    }
}
