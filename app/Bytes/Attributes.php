<?php

declare(strict_types=1);

namespace App\Bytes;

use Ylema\Sites\FileState;

/** What a file has besides its bytes, and gets before anybody can see it under its name. */
final readonly class Attributes
{
    /**
     * @param  int  $mode permission bits
     * @param  string|null  $owner user and group by number, `33:33`; null for whoever writes
     * @param  int|null  $modified seconds since 1970; null for now
     */
    public function __construct(public int $mode, public ?string $owner = null, public ?int $modified = null)
    {
    }

    /** As a file was, and where nothing is known of that, as what lies in its place has them. */
    public static function of(?FileState $as, ?string $replaced, int $usual): self
    {
        $old = $replaced !== null && is_file($replaced) ? @stat($replaced) : false;

        return new self(
            $as->mode ?? (is_array($old) ? $old['mode'] & 0o7777 : $usual),
            $as->owner ?? (is_array($old) ? "{$old['uid']}:{$old['gid']}" : null),
            $as?->modified,
        );
    }

    public function putOn(string $file): void
    {
        @chmod($file, $this->mode);
        if ($this->owner !== null) {
            [$user, $group] = array_map(intval(...), explode(':', $this->owner.':'));
            // Only root may give files away; for all others the owner is who writes, and the group where it may be.
            if (fileowner($file) !== $user) {
                @chown($file, $user);
            }
            if (filegroup($file) !== $group) {
                @chgrp($file, $group);
            }
            // Giving a file away takes the bits from it that lend its owner's rights (chown(2)).
            @chmod($file, $this->mode);
        }
        if ($this->modified !== null) {
            @touch($file, $this->modified);
        }
    }
}
