<?php

declare(strict_types=1);

namespace Ylema\Reading;

use Ylema\Reading\Readers\Html\ScriptType;

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
            // Of browsers that are gone; they still name a file.
            'lowsrc' => [Notation::Url, Fetch::WhenFollowed],
            'dynsrc' => [Notation::Url, Fetch::WhenFollowed],
        ],
        'source' => ['src' => [Notation::Url, Fetch::OnCondition], 'srcset' => [Notation::Srcset, Fetch::OnCondition]],
        'video' => ['src' => [Notation::Url, Fetch::Always], 'poster' => [Notation::Url, Fetch::Always]],
        'audio' => ['src' => [Notation::Url, Fetch::Always]],
        'track' => ['src' => [Notation::Url, Fetch::OnCondition]],
        'object' => ['data' => [Notation::Url, Fetch::Always]],
        'embed' => ['src' => [Notation::Url, Fetch::Always]],
        'input' => ['src' => [Notation::Url, Fetch::Always], 'formaction' => [Notation::Url, Fetch::WhenFollowed]],
        'iframe' => ['src' => [Notation::Url, Fetch::Always], 'srcdoc' => [Notation::Html, Fetch::Always]],
        'frame' => ['src' => [Notation::Url, Fetch::Always], 'longdesc' => [Notation::Url, Fetch::WhenFollowed]],
        'applet' => [
            'archive' => [Notation::Url, Fetch::WhenFollowed],
            'code' => [Notation::Url, Fetch::WhenFollowed],
            'object' => [Notation::Url, Fetch::WhenFollowed],
        ],
        'bgsound' => ['src' => [Notation::Url, Fetch::WhenFollowed]],
        'param' => ['value' => [Notation::Url, Fetch::WhenFollowed]],
        'script' => ['src' => [Notation::Url, Fetch::Always]],
        'svg:script' => ['href' => [Notation::Url, Fetch::Always], 'xlink:href' => [Notation::Url, Fetch::Always]],
        'link' => ['href' => [Notation::Url, Fetch::Always], 'imagesrcset' => [Notation::Srcset, Fetch::OnCondition]],
        'a' => ['href' => [Notation::Url, Fetch::WhenFollowed], 'xlink:href' => [Notation::Url, Fetch::WhenFollowed]],
        'area' => ['href' => [Notation::Url, Fetch::WhenFollowed]],
        'form' => ['action' => [Notation::Url, Fetch::WhenFollowed]],
        'button' => ['formaction' => [Notation::Url, Fetch::WhenFollowed]],
        'blockquote' => ['cite' => [Notation::Url, Fetch::WhenFollowed]],
        'q' => ['cite' => [Notation::Url, Fetch::WhenFollowed]],
        'ins' => ['cite' => [Notation::Url, Fetch::WhenFollowed]],
        'del' => ['cite' => [Notation::Url, Fetch::WhenFollowed]],
        'meta' => ['content' => [Notation::Url, Fetch::WhenFollowed]],
        'body' => ['background' => [Notation::Url, Fetch::Always]],
        'table' => ['background' => [Notation::Url, Fetch::Always]],
        'thead' => ['background' => [Notation::Url, Fetch::Always]],
        'tbody' => ['background' => [Notation::Url, Fetch::Always]],
        'tfoot' => ['background' => [Notation::Url, Fetch::Always]],
        'tr' => ['background' => [Notation::Url, Fetch::Always]],
        'td' => ['background' => [Notation::Url, Fetch::Always]],
        'th' => ['background' => [Notation::Url, Fetch::Always]],
        'col' => ['background' => [Notation::Url, Fetch::OnCondition]],
        'colgroup' => ['background' => [Notation::Url, Fetch::OnCondition]],
        'image' => ['href' => [Notation::Url, Fetch::Always], 'xlink:href' => [Notation::Url, Fetch::Always]],
        'use' => ['href' => [Notation::Url, Fetch::Always], 'xlink:href' => [Notation::Url, Fetch::Always]],
        'feimage' => ['href' => [Notation::Url, Fetch::Always], 'xlink:href' => [Notation::Url, Fetch::Always]],
    ];

    /**
     * Elements of SVG → their rows in the table; all others mean nothing in a drawing.
     */
    public const DRAWING = [
        'a' => 'a',
        'image' => 'image',
        'use' => 'use',
        'feimage' => 'feimage',
        'style' => 'svg:style',
        'script' => 'svg:script',
    ];

    /** Presentation attributes that take `url()`, in a drawing (SVG 2, 6.6 and 13 to 15). */
    public const PAINT = [
        'fill' => true,
        'stroke' => true,
        'filter' => true,
        'mask' => true,
        'clip-path' => true,
        'marker' => true,
        'marker-start' => true,
        'marker-mid' => true,
        'marker-end' => true,
        'cursor' => true,
    ];

    /** Attributes by which elements of a site's own (HTML Standard, 4.13.3) name a file, as html's elements do. */
    public const OWN = ['src' => true, 'href' => true, 'poster' => true, 'image' => true, 'background' => true];

    /** An address, whole or of any kind of path, that ends like the name of a file which pages show or offer. */
    public const FILE = '~^\s*+(?!data:|javascript:)[^\s<>{}"\'\\\\`]*\.(?:jpe?g|png|gif|webp|avif|jxl|svgz?|ico'
        .'|bmp|tiff?|heic'
        .'|mp[34]|m4[av]|webm|og[gva]|wav|mov|pdf|docx?|xlsx?|pptx?|odt|zip|vtt)(?:[?#]\S*+)?\s*$~iD';

    /** The names by which a parameter of an embedded film or program gives its file. */
    private const PARAMETERS = ['movie', 'src', 'url', 'filename', 'file', 'data', 'poster', 'image', 'archive'];

    /** What a preload can be for so that browsers fetch it at once (HTML Standard, 4.6.7.16 "preload"). */
    private const PRELOADED = ['fetch', 'font', 'image', 'script', 'style', 'track'];

    /** Types that browsers take; a preload of any other is left alone. */
    private const TYPES = '~^(?:image/(?:jpeg|png|gif|webp|avif|svg\+xml|bmp|x-icon|vnd\.microsoft\.icon|apng)'
        .'|text/(?:css|javascript|vtt|plain|html|xml)|application/(?:json|javascript|xml|font-\w+|x-font-\w+)'
        .'|font/(?:woff2?|ttf|otf|collection|sfnt))(?:$|;)~i';

    /** Types that every browser shows in an `embed` or `object`, or none, which leaves it to the file. */
    private const SHOWN = '~^(?:|image/(?:jpeg|png|gif|webp|avif|svg\+xml|bmp|apng)|text/(?:html|plain|xml)'
        .'|application/(?:xhtml\+xml|xml))(?:$|;)~i';

    /** The names by which a meta element gives a picture, a video or a sound. */
    public const META = [
        'og:image',
        'og:image:url',
        'og:image:secure_url',
        'og:video',
        'og:video:url',
        'og:video:secure_url',
        'og:audio',
        'og:audio:url',
        'og:audio:secure_url',
        'og:logo',
        'twitter:image',
        'twitter:image:src',
        'twitter:image0',
        'twitter:image1',
        'twitter:image2',
        'twitter:image3',
        'vk:image',
        'fb:image',
        'pin:media',
        'pinterest:media',
        'sailthru.image.full',
        'sailthru.image.thumb',
        'parsely-image-url',
        'msapplication-config',
        'twitter:player:stream',
        'msapplication-tileimage',
        'msapplication-square150x150logo',
        'msapplication-square70x70logo',
        'msapplication-wide310x150logo',
        'msapplication-square310x310logo',
        'thumbnail',
        'thumbnail_url',
        'image_src',
        'primaryimageofpage',
        'screenshot',
        'photo',
        'embedurl',
        'image',
        'thumbnailurl',
        'contenturl',
        'logo',
    ];

    /** The relations of a link element that lead to a file which belongs to the page. */
    public const LINKS = [
        'icon' => Fetch::Always,
        'apple-touch-icon' => Fetch::OnCondition,
        'apple-touch-icon-precomposed' => Fetch::OnCondition,
        'apple-touch-startup-image' => Fetch::OnCondition,
        'fluid-icon' => Fetch::WhenFollowed,
        'mask-icon' => Fetch::OnCondition,
        'stylesheet' => Fetch::Always,
        'preload' => Fetch::Always,
        'prefetch' => Fetch::OnCondition,
        'image_src' => Fetch::WhenFollowed,
        'video_src' => Fetch::WhenFollowed,
        'audio_src' => Fetch::WhenFollowed,
        'preview' => Fetch::WhenFollowed,
        'thumbnail' => Fetch::WhenFollowed,
        'logo' => Fetch::WhenFollowed,
        'search' => Fetch::WhenFollowed,
        'manifest' => Fetch::OnCondition,
        'modulepreload' => Fetch::Always,
        'enclosure' => Fetch::WhenFollowed,
        'alternate' => Fetch::WhenFollowed,
        'canonical' => Fetch::WhenFollowed,
        'next' => Fetch::WhenFollowed,
        'prev' => Fetch::WhenFollowed,
        'amphtml' => Fetch::WhenFollowed,
        'shortlink' => Fetch::WhenFollowed,
        'author' => Fetch::WhenFollowed,
        'license' => Fetch::WhenFollowed,
        'help' => Fetch::WhenFollowed,
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
                // With a candidate list, src is only what browsers without one take; and with a document, none does.
                $waits =
                    self::isLazy($values['loading'] ?? '')
                    || ($attribute === 'src' && isset($values[$element === 'img' ? 'srcset' : 'srcdoc']));

                return $waits && $fetch === Fetch::Always && $attribute !== 'style' ? Fetch::OnCondition : $fetch;
            case 'meta':
                if ($attribute !== 'content') {
                    return $fetch;
                }
                // Each may say several (RDFa Core 1.1, 5; HTML Standard, 5.2.3).
                $says = implode(' ', array_intersect_key($values, ['property' => 0, 'name' => 0, 'itemprop' => 0]));
                $words = preg_split('~[\s]++~', strtolower($says)) ?: [];

                return array_intersect($words, self::META) !== [] ? $fetch : null;
            case 'link':
                return $attribute === 'href' ? self::linked($values) : $fetch;
            case 'script':
                // A script of no type that browsers run is data, and its src means nothing (4.12.1).
                $runs = ScriptType::notation($values['type'] ?? '') === Notation::JavaScript;

                return $attribute === 'src' && (isset($values['nomodule']) || ! $runs) ? Fetch::OnCondition : $fetch;
            case 'embed':
            case 'object':
                // What is of a type that no browser shows by itself is left to who does (4.8.6, 4.8.7).
                $isShown = preg_match(self::SHOWN, trim($values['type'] ?? '')) === 1;

                return $fetch === Fetch::Always && ! $isShown && $attribute !== 'style' ? Fetch::OnCondition : $fetch;
            case 'param':
                $isFile = in_array(strtolower($values['name'] ?? ''), self::PARAMETERS, true);

                return $attribute === 'value' && ! $isFile ? null : $fetch;
            case 'a':
            case 'image':
            case 'use':
            case 'feimage':
            case 'svg:script':
                // The old spelling counts only without the new one (SVG 2, 16.1.6).
                return $attribute === 'xlink:href' && isset($values['href']) && $fetch === Fetch::Always
                    ? Fetch::OnCondition
                    : $fetch;
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

    /**
     * Whether browsers apply what a `style` element holds: of no other type than CSS (4.2.6, "update a style block").
     *
     * @param  array<string, string>  $values the element's deciding attributes, decoded
     */
    public static function isSheet(array $values): bool
    {
        return preg_match('~^\s*+(?:text/css\s*+(?:;.*)?)?$~Di', $values['type'] ?? '') === 1;
    }

    /** The state of a loading attribute (HTML Standard, 2.5.7 "Lazy loading attributes"). */
    public static function isLazy(string $loading): bool
    {
        return strcasecmp($loading, 'lazy') === 0;
    }

    /**
     * Of several relations, the one that makes a browser do most.
     *
     * @param  array<string, string>  $values of a link element
     */
    private static function linked(array $values): ?Fetch
    {
        $relations = preg_split('~\s+~', strtolower(trim($values['rel'] ?? ''))) ?: [];
        $found = array_values(array_intersect_key(self::LINKS, array_flip($relations)));
        $fetch = match (true) {
            $found === [] => isset($values['itemprop']) ? Fetch::WhenFollowed : null,
            in_array(Fetch::Always, $found, true) => Fetch::Always,
            in_array(Fetch::OnCondition, $found, true) => Fetch::OnCondition,
            default => Fetch::WhenFollowed,
        };
        if ($fetch !== Fetch::Always) {
            return $fetch;
        }
        $waits = isset($values['media'])
            || isset($values['disabled'])
            // A sheet of another type is none (4.6.7.20), and an alternate one is one to choose (4.6.7.1).
            || (in_array('stylesheet', $relations, true) && ! self::isSheet($values))
            || in_array('alternate', $relations, true)
            || (in_array('preload', $relations, true) && ! self::isPreloaded($values));

        return $waits ? Fetch::OnCondition : Fetch::Always;
    }

    /** @param  array<string, string>  $values of a link element */
    private static function isPreloaded(array $values): bool
    {
        return in_array(strtolower(trim($values['as'] ?? '')), self::PRELOADED, true)
            && ! isset($values['imagesrcset'])
            && (trim($values['type'] ?? '') === '' || preg_match(self::TYPES, trim($values['type'])) === 1);
    }
}
