<?php

declare(strict_types=1);

use Tests\Browser\Chromium;
use Tests\Core\Generators\BrokenMarkup;

/*
 * The browser's own parser as the judge of broken markup: what is an element to Chromium is one to the reader, and
 * nothing else is. Compared as sets, for building a tree moves and doubles elements (13.2.6.1).
 */

/** Parses documents and lists the attributes that were asked for, in all elements of html, a link in a drawing among them. */
const PARSE = <<<'JS'
const wanted = arguments[1];
const walk = (node, found) => {
    for (const child of node.children) {
        for (const name of wanted[child.localName] ?? []) {
            const value = child.getAttribute(name)?.replace(/^[\t\n\f\r ]+|[\t\n\f\r ]+$/g, '');
            if (value && value[0] !== '#' && (child.namespaceURI === 'http://www.w3.org/1999/xhtml' || child.localName === 'a')) found.add(child.localName + '[' + name + ']=' + value);
        }
        walk(child, found);
        if (child.localName === 'template' && child.content) walk(child.content, found);
    }
    return found;
};
return arguments[0].map((html) => [...walk(new DOMParser().parseFromString(html, 'text/html'), new Set())].sort());
JS;

it('finds in broken markup what Chromium makes elements of', function (): void {
    $browser = Chromium::start(self::installation()->driver());
    try {
        $browser->get('about:blank');
        $differences = [];
        foreach ([BrokenMarkup::PLAIN, [...BrokenMarkup::PLAIN, ...BrokenMarkup::HARD]] as $seed => $pieces) {
            $drawn = new BrokenMarkup($seed + 1, $pieces);
            $documents = array_map(static fn (): string => $drawn->draw(10), range(1, 2500));
            $parsed = $browser->executeScript(PARSE, [$documents, BrokenMarkup::ATTRIBUTES]);
            foreach ($documents as $i => $html) {
                $ours = array_values(array_unique(BrokenMarkup::read($html)));
                sort($ours, SORT_STRING);
                $theirs = $parsed[$i];
                sort($theirs, SORT_STRING);
                if ($ours !== $theirs) {
                    $differences[] = [
                        'html' => $html,
                        'missed' => array_values(array_diff($theirs, $ours)),
                        'extra' => array_values(array_diff($ours, $theirs)),
                    ];
                }
            }
        }
        expect($differences)->toBe([]);

        // Where another parser differs, the browser is on the reader's side.
        $listed = json_decode(
            (string) file_get_contents(__DIR__.'/../Core/differences.json'),
            true,
            flags: JSON_THROW_ON_ERROR,
        );
        foreach ([...$listed['masterminds/html5'], ...$listed['libxml']] as $difference) {
            expect($browser->executeScript(PARSE, [[$difference['example']], BrokenMarkup::ATTRIBUTES])[0])->toBe(
                $difference['ours'],
                $difference['clause'],
            );
        }
    } finally {
        $browser->quit();
    }
});
