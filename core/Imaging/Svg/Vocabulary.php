<?php

declare(strict_types=1);

namespace Ylema\Imaging\Svg;

/**
 * What a drawing may consist of: the elements and attributes of SVG that draw, move and describe (SVG 1.1 and SVG 2,
 * appendix "Element Index" and "Attribute Index"), and the name spaces in which drawing programs keep their notes.
 * Whatever is not listed is refused, for a browser may learn what it means.
 *
 * @internal
 */
final class Vocabulary
{
    public const SVG = 'http://www.w3.org/2000/svg';

    public const XLINK = 'http://www.w3.org/1999/xlink';

    public const XML = 'http://www.w3.org/XML/1998/namespace';

    private const XMLNS = 'http://www.w3.org/2000/xmlns/';

    private const ELEMENTS = 'a altGlyph altGlyphDef altGlyphItem animate animateColor animateMotion animateTransform '
        .'circle clipPath color-profile defs desc ellipse feBlend feColorMatrix feComponentTransfer feComposite '
        .'feConvolveMatrix feDiffuseLighting feDisplacementMap feDistantLight feDropShadow feFlood feFuncA feFuncB '
        .'feFuncG feFuncR feGaussianBlur feImage feMerge feMergeNode feMorphology feOffset fePointLight '
        .'feSpecularLighting feSpotLight feTile feTurbulence filter font font-face font-face-format font-face-name '
        .'font-face-src g glyph glyphRef hatch hatchpath hkern image line linearGradient marker mask mesh '
        .'meshgradient meshpatch meshrow metadata missing-glyph mpath path pattern polygon polyline radialGradient '
        .'rect set solidcolor stop style svg switch symbol text textPath title tref tspan use view vkern';

    /** Presentation attributes are among them, which CSS has the meaning of. */
    private const ATTRIBUTES = 'accent-height accumulate additive alignment-baseline alphabetic amplitude '
        .'arabic-form ascent attributeName attributeType azimuth baseFrequency baseProfile baseline-shift bbox begin '
        .'bias by calcMode cap-height class clip clip-path clip-rule clipPathUnits color color-interpolation '
        .'color-interpolation-filters color-profile color-rendering contentScriptType contentStyleType '
        .'crossorigin cursor cx cy d descent diffuseConstant direction display divisor dominant-baseline download dur '
        .'dx dy edgeMode elevation enable-background end exponent externalResourcesRequired fill fill-opacity '
        .'fill-rule filter filterRes filterUnits flood-color flood-opacity focusable font font-family '
        .'font-feature-settings font-kerning font-size font-size-adjust font-stretch font-style font-variant font-variant-ligatures '
        .'font-variation-settings font-weight format fr from fx fy g1 g2 glyph-name glyph-orientation-horizontal '
        .'glyph-orientation-vertical glyphRef gradientTransform gradientUnits hanging height horiz-adv-x '
        .'horiz-origin-x horiz-origin-y href hreflang id ideographic image-rendering in in2 inline-size intercept '
        .'isolation k k1 k2 k3 k4 kernelMatrix kernelUnitLength kerning keyPoints keySplines keyTimes lang '
        .'lengthAdjust letter-spacing lighting-color limitingConeAngle line-height local marker marker-end '
        .'marker-mid marker-start markerHeight markerUnits markerWidth mask mask-type maskContentUnits maskUnits '
        .'mathematical max media method min mix-blend-mode mode name numOctaves offset opacity operator order orient '
        .'orientation origin overflow overline-position overline-thickness paint-order panose-1 path pathLength '
        .'patternContentUnits patternTransform patternUnits pitch pointer-events points pointsAtX pointsAtY '
        .'pointsAtZ preserveAlpha preserveAspectRatio primitiveUnits r radius refX refY rel rendering-intent '
        .'repeatCount repeatDur requiredExtensions requiredFeatures requiredFonts requiredFormats restart result '
        .'role rotate rx ry scale seed shape-image-threshold shape-inside shape-margin shape-padding '
        .'shape-rendering shape-subtract side slope snapshotTime solid-color solid-opacity space spacing '
        .'specularConstant specularExponent spreadMethod startOffset stdDeviation stemh stemv stitchTiles stop-color '
        .'stop-opacity strikethrough-position strikethrough-thickness string stroke stroke-dasharray '
        .'stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit stroke-opacity stroke-width style '
        .'surfaceScale systemLanguage tabindex tableValues target targetX targetY text-align text-align-last '
        .'text-anchor text-decoration text-decoration-color text-decoration-line text-decoration-style '
        .'text-decoration-skip-ink text-indent text-orientation text-overflow text-rendering text-transform '
        .'textLength to transform transform-box transform-origin transition type u1 u2 underline-position '
        .'underline-thickness unicode unicode-bidi unicode-range units-per-em v-alphabetic v-hanging v-ideographic '
        .'v-mathematical values vector-effect version vert-adv-y vert-origin-x vert-origin-y viewBox viewTarget '
        .'visibility white-space width widths word-spacing writing-mode x x-height x1 x2 xChannelSelector y y1 y2 '
        .'yChannelSelector z zoomAndPan';

    private const XLINK_ATTRIBUTES = 'actuate arcrole href role show title type';

    /** Notes of drawing programs and of catalogues; no browser knows them. */
    private const NOTES = '~^(?:
        http://www\.w3\.org/1999/02/22-rdf-syntax-ns\#
        |http://(?:purl\.org/dc|ns\.adobe\.com|creativecommons\.org|web\.resource\.org/cc|www\.serif\.com
            |www\.inkscape\.org|sodipodi\.sourceforge\.net|www\.bohemiancoding\.com|www\.figma\.com|schema\.org)(?:/.*)?
        |https?://(?:www\.)?(?:figma\.com|sketch\.com|boxy-svg\.com|svgjs\.(?:com|dev)|vectornator\.io)(?:/.*)?
        |adobe:ns:meta/
        )$~xD';

    /** @var array<string, array<string, int>> */
    private static array $sets = [];

    /** A name in the name space of SVG. */
    public static function isElement(string $name): bool
    {
        return isset(self::set(self::ELEMENTS)[$name]);
    }

    /** An attribute of such an element; the name space is empty for one without a prefix. */
    public static function isAttribute(string $space, string $name): bool
    {
        return match ($space) {
            '' => isset(self::set(self::ATTRIBUTES)[$name]) || preg_match('~^(?:data|aria)-[\w.-]+$~D', $name) === 1,
            self::XLINK => isset(self::set(self::XLINK_ATTRIBUTES)[$name]),
            // A base would lead what names a place of this drawing to another one.
            self::XML => in_array($name, ['space', 'lang', 'id'], true),
            self::XMLNS => true,
            default => self::isNote($space),
        };
    }

    public static function isNote(string $space): bool
    {
        return preg_match(self::NOTES, $space) === 1;
    }

    /** @return array<string, int> */
    private static function set(string $names): array
    {
        return self::$sets[$names] ??= array_flip(explode(' ', $names));
    }
}
