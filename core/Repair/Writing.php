<?php

declare(strict_types=1);

namespace Ylema\Repair;

use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\SiteAddresses;
use Ylema\Addresses\Whose;
use Ylema\Plan\Finding;
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
        return $this->path($reference, $path, $reading)
            .(preg_match('~[?#].*$~s', $reference->value, $behind) === 1 ? $behind[0] : '');
    }

    /**
     * A link to another page. Its part of the page stays; its query does so where the page is the same.
     *
     * @param  string  $page path below the root and query, or a whole address
     */
    public function link(Reference $reference, string $page, Finding $finding, Reading $reading): string
    {
        preg_match('~^[^?#]*(\?[^#]*)?(#.*)?$~s', $reference->value, $old);
        $part = $old[2] ?? '';
        if (preg_match('~^https?://~i', $page) === 1) {
            return $page.(str_contains($page, '#') ? '' : $part);
        }
        [$path, $query] = [...explode('?', $page, 2), null];
        $isSame = in_array($finding->kind, [OutcomeKind::FormerAddress, OutcomeKind::InsecureScheme], true);

        return $this->path($reference, (string) $path, $reading)
            .($query !== null ? "?$query" : ($isSame ? $old[1] ?? '' : ''))
            .$part;
    }

    /** A picture that came from elsewhere: what stood behind its old address meant something there. */
    public function home(Reference $reference, string $path, Reading $reading): string
    {
        return $this->areRootRelative($reading) || preg_match('~^(?:https?:)?//~i', $reference->value) !== 1
            ? $this->addresses->writeLike('/', $path)
            : $this->addresses->writeLike($reference->value, $path);
    }

    private function path(Reference $reference, string $path, Reading $reading): string
    {
        return preg_match('~^https?://~i', $reference->value) === 1 && $this->areRootRelative($reading)
            ? $this->addresses->writeLike('/', $path)
            : $this->addresses->writeLike($reference->value, $path);
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
