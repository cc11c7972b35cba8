<?php

declare(strict_types=1);

namespace Ylema\Repair;

use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Whose;
use Ylema\Reading\Names;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;

/** How a place says the path that it should have named all along: in the way of its neighbours. */
final readonly class Writing
{
    public function __construct(private SiteAddresses $addresses)
    {
    }

    /** What stands behind the path, a version or a part of the file, is said as before. */
    public function value(Reference $reference, string $path, Reading $reading): string
    {
        $new = $this->addresses->writeLike($reference->value, $path);
        if (preg_match('~^https?://~i', $reference->value) === 1 && $this->areRootRelative($reading)) {
            $new = $this->addresses->writeLike('/', $path);
        }

        return $new.(preg_match('~[?#].*$~s', $reference->value, $behind) === 1 ? $behind[0] : '');
    }

    /** Whether what the field names at the site's own address is mostly written without the address. */
    private function areRootRelative(Reading $reading): bool
    {
        $relative = $whole = 0;
        foreach ($reading->references as $reference) {
            if ($reference->names !== Names::Address) {
                continue;
            }
            if (preg_match('~^/(?!/)~', $reference->value) === 1) {
                $relative++;
            } elseif ($this->addresses->locate($reference->value)?->whose === Whose::Own) {
                $whole += preg_match('~^https?://~i', $reference->value) === 1 ? 1 : 0;
            }
        }

        return $relative > $whole;
    }
}
