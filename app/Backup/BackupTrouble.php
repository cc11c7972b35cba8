<?php

declare(strict_types=1);

namespace App\Backup;

use RuntimeException;
use Ylema\Failure;

/** Why a backup could not be made or taken back, and what to do. */
final class BackupTrouble extends RuntimeException implements Failure
{
    public static function busy(): self
    {
        return new self('For five minutes a change let nobody look. Try again when it has ended.');
    }

    public static function step(string $what, string $why): self
    {
        $why = trim(preg_replace('~\s+~', ' ', $why) ?? '');

        return new self("$what did not work: ".($why === '' ? 'perhaps the disk is full.' : $why));
    }

    public static function place(string $file): self
    {
        $user = posix_getpwuid(posix_geteuid())['name'] ?? 'this user';
        $folder = dirname($file);

        return new self(
            is_dir($folder)
                ? "$user may not write to $folder. Give them that right, or say another folder."
                : "There is no folder $folder. Make it, or say another one.",
        );
    }

    public static function noBackup(string $file): self
    {
        return new self("$file is no backup of Ylema, or only the beginning of one. Nothing was changed.");
    }

    public static function damaged(string $path): self
    {
        return new self("In this backup \"$path\" is damaged or missing. Nothing was changed; take another one.");
    }

    public static function unlisted(string $path): self
    {
        return new self(
            "This backup holds \"$path\", which its list does not name, so somebody else has put it in. Nothing was "
                .'changed; take another one.',
        );
    }

    public static function newer(string $migration): self
    {
        return new self(
            "This backup was made by a newer Ylema (this one does not know $migration). Nothing was changed; install "
                .'that version first.',
        );
    }

    public static function inUse(int $others): self
    {
        return new self(
            "$others other connections work on this database. Nothing was changed; stop Ylema first (on a server: "
                .'systemctl stop ylema.target), then try again.',
        );
    }

    public static function hasSites(): self
    {
        return new self(
            'This installation has sites already. Nothing was changed; --over has the backup take the place of all '
                .'that Ylema knows here.',
        );
    }
}
