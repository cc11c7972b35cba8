<?php

declare(strict_types=1);

namespace Ylema\Imaging;

/** What came of looking closely at two pictures. */
final readonly class Compared
{
    /**
     * @param  list<array{x: float, y: float, width: float, height: float}>  $places where they differ, in shares of the
     *       first; none where both show the same
     * @param  bool  $isMarked whether that is a translucent mark over the one, beneath which both show the same
     * @param  bool  $isOther whether so much differs that they are two pictures, at whatever resolution
     * @param  Laid  $laid how the second lies on the first
     */
    public function __construct(
        public array $places,
        public bool $isMarked,
        public bool $isOther = false,
        public Laid $laid = new Laid(),
    ) {
    }

    public function isSame(): bool
    {
        return $this->places === [] || $this->isMarked;
    }
}
