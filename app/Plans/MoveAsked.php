<?php

declare(strict_types=1);

namespace App\Plans;

use App\Models\MediaFile;
use App\Models\Site;
use Ylema\Addresses\Whose;
use Ylema\Move\MoveRequest;

/** What a person means who says what moves and where: paths as they are shown, or addresses. */
final class MoveAsked
{
    /** @throws PlanRefused */
    public static function of(Site $site, string $from, string $to, bool $keepsOld): MoveRequest
    {
        [$from, $to] = [trim($from), trim($to)];
        $areAddresses = [self::isAddress($from), self::isAddress($to)];
        if ($areAddresses === [true, true] && ! self::isOfFile($site, $from)) {
            return new MoveRequest(rtrim($from, '/').'/', rtrim($to, '/').'/', false);
        }
        $from = self::path($site, $from);
        $to = self::path($site, $to);
        // A folder may be said without its slash.
        if (! str_ends_with($from, '/') && ! self::isFile($site, $from)) {
            $from .= '/';
        }
        if (str_ends_with($from, '/') && $to !== '' && ! str_ends_with($to, '/')) {
            $to .= '/';
        }

        return new MoveRequest($from, $to, $keepsOld);
    }

    private static function isAddress(string $said): bool
    {
        return preg_match('~^https?://~i', $said) === 1;
    }

    private static function isOfFile(Site $site, string $address): bool
    {
        $place = $site->addresses()->locate($address);

        return $place?->whose === Whose::Own && self::isFile($site, (string) $place->path);
    }

    private static function isFile(Site $site, string $path): bool
    {
        return MediaFile::query()->where('site_id', $site->id)->where('path', $path)->exists();
    }

    /** @throws PlanRefused */
    private static function path(Site $site, string $said): string
    {
        if (! self::isAddress($said)) {
            return ltrim($said, '/');
        }
        $place = $site->addresses()->locate($said);

        return $place?->whose === Whose::Own && $place->path !== null
            ? $place->path
            : throw new PlanRefused("$said is no address of this site. Say a path, or two whole addresses.");
    }
}
