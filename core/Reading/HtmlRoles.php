<?php

declare(strict_types=1);

namespace Ylema\Reading;

/**
 * Which attributes of which elements hold references, in which notation, and whether a browser fetches them.
 *
 * The rows follow the attribute index of the HTML Standard; the presentational ones (`background`) follow
 * its section 16.3. An attribute under `*` counts on every element.
 */
final class HtmlRoles
{
    /** element → attribute → [notation, fetch] */
    public const TABLE = [
        '*' => [
            'style' => [Notation::Css, Fetch::Always],
        ],
        'img' => [
            'src' => [Notation::Url, Fetch::Always],
            'srcset' => [Notation::Srcset, Fetch::OnCondition],
            'longdesc' => [Notation::Url, Fetch::WhenFollowed],
        ],
        'source' => ['src' => [Notation::Url, Fetch::OnCondition], 'srcset' => [Notation::Srcset, Fetch::OnCondition]],
        'video' => ['src' => [Notation::Url, Fetch::Always], 'poster' => [Notation::Url, Fetch::Always]],
        'audio' => ['src' => [Notation::Url, Fetch::Always]],
        'track' => ['src' => [Notation::Url, Fetch::OnCondition]],
        'object' => ['data' => [Notation::Url, Fetch::Always]],
        'embed' => ['src' => [Notation::Url, Fetch::Always]],
        'input' => ['src' => [Notation::Url, Fetch::Always]],
        'iframe' => ['src' => [Notation::Url, Fetch::Always], 'srcdoc' => [Notation::Html, Fetch::Always]],
        'script' => ['src' => [Notation::Url, Fetch::Always]],
        'link' => ['href' => [Notation::Url, Fetch::Always], 'imagesrcset' => [Notation::Srcset, Fetch::OnCondition]],
        'a' => ['href' => [Notation::Url, Fetch::WhenFollowed]],
        'area' => ['href' => [Notation::Url, Fetch::WhenFollowed]],
        'meta' => ['content' => [Notation::Url, Fetch::WhenFollowed]],
        'body' => ['background' => [Notation::Url, Fetch::Always]],
        'table' => ['background' => [Notation::Url, Fetch::Always]],
        'td' => ['background' => [Notation::Url, Fetch::Always]],
        'th' => ['background' => [Notation::Url, Fetch::Always]],
        'image' => ['href' => [Notation::Url, Fetch::Always], 'xlink:href' => [Notation::Url, Fetch::Always]],
        'use' => ['href' => [Notation::Url, Fetch::Always], 'xlink:href' => [Notation::Url, Fetch::Always]],
        'feimage' => ['href' => [Notation::Url, Fetch::Always], 'xlink:href' => [Notation::Url, Fetch::Always]],
    ];

    /** Those of the table that are elements of SVG, too; all others mean nothing in a drawing. */
    public const DRAWING = [
        'a' => true,
        'image' => true,
        'use' => true,
        'feimage' => true,
        'style' => true,
        'script' => true,
    ];

    /** The names by which a meta element gives a picture, a video or a sound. */
    public const META = [
        'og:image',
        'og:image:url',
        'og:image:secure_url',
        'og:video',
        'og:video:url',
        'og:audio',
        'twitter:image',
        'twitter:image:src',
        'twitter:player:stream',
        'msapplication-tileimage',
        'msapplication-square150x150logo',
        'msapplication-square70x70logo',
        'msapplication-wide310x150logo',
        'msapplication-square310x310logo',
        'thumbnail',
        'image',
        'thumbnailurl',
        'contenturl',
        'logo',
    ];

    /** The relations of a link element that lead to a file which belongs to the page. */
    public const LINKS = [
        'icon' => Fetch::Always,
        'apple-touch-icon' => Fetch::OnCondition,
        'mask-icon' => Fetch::OnCondition,
        'stylesheet' => Fetch::Always,
        'preload' => Fetch::Always,
        'prefetch' => Fetch::OnCondition,
        'image_src' => Fetch::WhenFollowed,
        'manifest' => Fetch::OnCondition,
        'modulepreload' => Fetch::Always,
        'enclosure' => Fetch::WhenFollowed,
        'alternate' => Fetch::WhenFollowed,
    ];

    /**
     * Narrows the table's word for elements whose other attributes decide.
     *
     * @param  array<string, string>  $values the element's deciding attributes, decoded
     * @return Fetch|null null where the attribute refers to nothing
     */
    public static function fetch(string $element, string $attribute, array $values, Fetch $fetch): ?Fetch
    {
        switch ($element) {
            case 'img':
            case 'iframe':
                // With a candidate list, src is only what browsers without one take.
                $waits =
                    self::isLazy($values['loading'] ?? '')
                    || ($element === 'img' && $attribute === 'src' && isset($values['srcset']));

                return $waits && $fetch === Fetch::Always && $attribute !== 'style' ? Fetch::OnCondition : $fetch;
            case 'meta':
                if ($attribute !== 'content') {
                    return $fetch;
                }
                $says = strtolower($values['property'] ?? ($values['name'] ?? ($values['itemprop'] ?? '')));

                return in_array($says, self::META, true) ? $fetch : null;
            case 'link':
                return $attribute === 'href' ? self::linked($values) : $fetch;
            case 'input':
                return $attribute === 'src' && strtolower($values['type'] ?? '') !== 'image' ? null : $fetch;
            case 'audio':
            case 'video':
                return $attribute === 'src' && strtolower($values['preload'] ?? '') === 'none'
                    ? Fetch::OnCondition
                    : $fetch;
            default:
                return $fetch;
        }
    }

    /** The state of a loading attribute (HTML Standard, 2.5.7 "Lazy loading attributes"). */
    public static function isLazy(string $loading): bool
    {
        return strcasecmp($loading, 'lazy') === 0;
    }

    /** @param  array<string, string>  $values of a link element */
    private static function linked(array $values): ?Fetch
    {
        foreach (preg_split('~\s+~', strtolower(trim($values['rel'] ?? ''))) ?: [] as $relation) {
            $fetch = self::LINKS[$relation] ?? null;
            if ($fetch !== null) {
                return isset($values['media']) && $fetch === Fetch::Always ? Fetch::OnCondition : $fetch;
            }
        }

        return isset($values['itemprop']) ? Fetch::WhenFollowed : null;
    }
}
