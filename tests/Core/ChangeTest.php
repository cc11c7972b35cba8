<?php

declare(strict_types=1);

use Ylema\Addresses\SiteAddresses;
use Ylema\Change\Edit;
use Ylema\Change\EditConflict;
use Ylema\Change\Edits;
use Ylema\Change\Rewriter;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Plan\MediaFacts;
use Ylema\Reading\CannotEncode;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;
use Ylema\Swap\StandIn;
use Ylema\Usage\RecordState;

it('replaces exactly what it expects, and leads back', function (): void {
    $edits = Edits::of([new Edit(4, 'two', 'zwei'), new Edit(0, 'one', 'eins')]);
    expect($edits->applyTo('one two three'))
        ->toBe('eins zwei three')
        ->and($edits->inverse()->applyTo('eins zwei three'))
        ->toBe('one two three');
});

it('refuses edits that do not fit', function (): void {
    expect(fn () => Edits::of([new Edit(0, 'abc', ''), new Edit(2, 'c', '')]))
        ->toThrow(EditConflict::class, 'same bytes')
        ->and(fn () => Edits::of([new Edit(0, 'abc', '')])->applyTo('abd'))
        ->toThrow(EditConflict::class, 'no longer reads')
        ->and(fn () => Edits::of([new Edit(9, '', 'x')])->applyTo('abc'))
        ->toThrow(EditConflict::class);
});

function swapped(string $text, Notation $notation, ?Rules $rules = null): string
{
    $rules ??= new Rules(mediaFolders: ['/media/']);
    $from = new MediaFacts('7', [
        new PictureFile('media/old.jpg', new Size(1200, 800), true),
        new PictureFile('media/old-480x320.jpg', new Size(480, 320)),
        new PictureFile('media/old-150x150.jpg', new Size(150, 150)),
    ]);
    $to = new MediaFacts('9', [
        new PictureFile('media/né w.jpg', new Size(2000, 1333), true),
        new PictureFile('media/new-640x427.jpg', new Size(640, 427)),
        new PictureFile('media/new-200x200.jpg', new Size(200, 200)),
    ]);
    $standIn = new StandIn(new SiteAddresses('https://site.example/', ['https://old.example/x/']), null, $from, $to);
    $reading = (new FieldReader())->read($text, $notation, $rules);
    $changes = [];
    foreach ($reading->references as $reference) {
        if (str_contains($reference->value, 'old') || $reference->value === '7') {
            $changes[] = [
                $reference,
                (string) $standIn->value(
                    $reference,
                    preg_match('~media/old[^.?]*\.jpg~', $reference->value, $m) === 1 ? $m[0] : null,
                ),
            ];
        }
    }

    return (new Rewriter())->edits($text, $notation, $rules, $changes, $reading)->applyTo($text);
}

it('swaps each reference by the file that fits it, in its own spelling', function (
    string $before,
    string $after,
): void {
    expect(swapped($before, Notation::Html))->toBe($after);
})->with([
    'original' => [
        '<img class=a src="/media/old.jpg"  width=9>',
        '<img class=a src="/media/n%C3%A9%20w.jpg"  width=9>',
    ],
    'next larger of the same shape' => ["<img src='/media/old-480x320.jpg'>", "<img src='/media/new-640x427.jpg'>"],
    'square for square' => ['<img src=/media/old-150x150.jpg >', '<img src=/media/new-200x200.jpg >'],
    'absolute stays absolute, former becomes current' => [
        '<a href="http://old.example/x/media/old.jpg?a=1&amp;b=2">',
        '<a href="https://site.example/media/n%C3%A9%20w.jpg">',
    ],
    'a candidate list keeps its descriptors' => [
        '<img srcset="/media/old-480x320.jpg 480w,  /media/keep.jpg 2x">',
        '<img srcset="/media/new-640x427.jpg 480w,  /media/keep.jpg 2x">',
    ],
    'style keeps its quotes' => [
        '<p style="background: url(&quot;/media/old.jpg&quot;) no-repeat">',
        '<p style="background: url(&quot;/media/n%C3%A9%20w.jpg&quot;) no-repeat">',
    ],
]);

it('mends stated lengths and keeps the document\'s escapes', function (): void {
    $after = swapped(
        serialize(['a' => '/media/old.jpg', 'ü' => ['<img src="/media/old.jpg">']]),
        Notation::PhpSerialized,
    );
    expect(unserialize($after))
        ->toBe(['a' => '/media/n%C3%A9%20w.jpg', 'ü' => ['<img src="/media/n%C3%A9%20w.jpg">']])
        ->and(swapped('{"a":"\/media\/old.jpg","b":"\u00fc"}', Notation::Json))
        ->toBe('{"a":"\/media\/n%C3%A9%20w.jpg","b":"\u00fc"}')
        ->and(swapped('7', Notation::MediaId))
        ->toBe('9');
});

it('refuses what a place cannot say', function (): void {
    $reference = (new FieldReader())->read('12', Notation::MediaId, new Rules())->references[0];
    expect(fn () => $reference->layers[0]->encode('no number'))->toThrow(CannotEncode::class, 'cannot be written');
});

it('hashes content so that neighbouring fields cannot trade bytes unseen', function (): void {
    expect(SourceRecord::hashOf(['a' => 'x', 'b' => 'yz']))
        ->not->toBe(SourceRecord::hashOf(['a' => 'xy', 'b' => 'z']))
        ->and(SourceRecord::hashOf(['a' => '1', 'b' => '2']))
        ->toBe(SourceRecord::hashOf(['b' => '2', 'a' => '1']));
    $record = new SourceRecord('page', '1', 'T', null, RecordState::Live, [
        new SourceField('body', 'x', Notation::Html, new Rules()),
    ]);
    expect($record->contentHash)->toBe(SourceRecord::hashOf(['body' => 'x']));
});
