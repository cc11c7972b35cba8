<?php

declare(strict_types=1);

use Tests\Core\Plan\KnownFacts;
use Ylema\Addresses\MediaPages;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\KeptFile;
use Ylema\Plan\MediaFacts;
use Ylema\Plan\Outline;
use Ylema\Plan\Picture;
use Ylema\Plan\Place;
use Ylema\Plan\PlacedBox;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\Places;
use Ylema\Plan\Promises;
use Ylema\Plan\RecordUses;
use Ylema\Plan\Refused;
use Ylema\Plan\ShownBox;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\PathRule;
use Ylema\Reading\Rules;
use Ylema\Sites\FileState;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;
use Ylema\Swap\Manner;
use Ylema\Swap\SwapPlanner;
use Ylema\Swap\SwapRequest;
use Ylema\Usage\RecordState;

function oldItem(): MediaFacts
{
    return new MediaFacts(
        '7',
        [
            new PictureFile('media/old.jpg', new Size(1200, 800), true),
            new PictureFile('media/old.w480.jpg', new Size(480, 320)),
            new PictureFile('media/old.w150.jpg', new Size(150, 150)),
        ],
        1,
        'Old',
        'media/old.jpg',
        uses: 9,
    );
}

function newItem(string $path = 'media/new.jpg', bool $hasOriginal = true): MediaFacts
{
    return new MediaFacts(
        '9',
        [new PictureFile($path, new Size(2000, 1000), true), new PictureFile('media/new.w480.jpg', new Size(480, 240))],
        2,
        'New',
        $path,
        $hasOriginal,
    );
}

/** A record that refers to the old item wherever it says so, as index and source know it. */
function recordOf(
    string $key,
    string $body,
    Notation $notation = Notation::Html,
    string $kind = 'page',
    ?string $known = null,
    ?Rules $rules = null,
): RecordUses {
    $rules ??= new Rules(paths: [new PathRule('picture', Notation::MediaId)], mediaFolders: ['/media/']);
    $record = new SourceRecord($kind, $key, "Page $key", null, RecordState::Live, [
        new SourceField('body', $body, $notation, $rules),
    ]);
    $uses = [];
    foreach ((new FieldReader())->read($body, $notation, $rules)->references as $reference) {
        if (
            preg_match('~media/old[^.]*(?:\.w\d+)?\.jpg~', $reference->value, $m) === 1
            || $reference->value === '7'
            || str_contains($reference->value, 'picture/7')
        ) {
            $uses[] = new PlacedUse('body', $reference->start, $reference->length, $m[0] ?? null);
        }
    }

    return new RecordUses($kind, $key, "Page $key", $known ?? $record->contentHash, $uses, $record);
}

/** @return array{list<mixed>, Outline} */
function planned(KnownFacts $facts, SwapRequest $request): array
{
    $steps = (new SwapPlanner($request))->plan($facts);
    $list = iterator_to_array($steps, false);

    return [$list, $steps->getReturn()];
}

function facts(RecordUses ...$uses): KnownFacts
{
    return new KnownFacts(
        [1 => oldItem(), 2 => newItem()],
        array_values($uses),
        [
            'media/old.jpg' => new FileState('old', 50),
            'media/old.w480.jpg' => new FileState('old480', 20),
            'media/old.w150.jpg' => new FileState('old150', 10),
            'media/new.jpg' => new FileState('new', 70),
        ],
        [
            'up' => new KeptFile('upload', 90, 'Ebb & Flüt.jpg', 'jpg', new Size(1500, 1000), true),
            'pdf' => new KeptFile('paper', 90, 'table.pdf', 'pdf', null, false),
        ],
    );
}

it('edits each record, each place by the file that fits it', function (): void {
    [$steps, $outline] = planned(
        facts(
            recordOf('1', '<img src="/media/old.w480.jpg"><a href=/media/old.jpg>x</a>'),
            recordOf('2', '{"picture":7}', Notation::Json),
        ),
        new SwapRequest(1, Manner::NewReference, 2),
    );
    expect(
        array_map(
            static fn (EditRecord $s): string => EditRecord::texts(
                facts(
                    recordOf('1', '<img src="/media/old.w480.jpg"><a href=/media/old.jpg>x</a>'),
                    recordOf('2', '{"picture":7}', Notation::Json),
                )->uses[(int) $s->key - 1]->record,
                $s->fields,
            )['body'],
            $steps,
        ),
    )
        ->toBe(['<img src="/media/new.w480.jpg"><a href=/media/new.jpg>x</a>', '{"picture":9}'])
        ->and($outline->title)
        ->toBe('Old: shown as New')
        ->and($outline->sentence)
        ->toBe('3 references in 2 records, no file.')
        ->and($outline->bench)
        ->toBe('media/1/swap?to=2')
        ->and($outline->expectation->gone)
        ->toBe(['media/old.jpg', 'media/old.w480.jpg', 'media/old.w150.jpg'])
        ->and($outline->expectation->there)
        ->toBe(['media/new.jpg', 'media/new.w480.jpg'])
        ->and($outline->expectation->everywhere)
        ->toBeTrue()
        ->and($steps[0]->before)
        ->toBe(
            facts(recordOf('1', '<img src="/media/old.w480.jpg"><a href=/media/old.jpg>x</a>'))->uses[0]->contentHash,
        )
        ->and($steps[0]->count())
        ->toBe(2)
        ->and($steps[0]->fields['body']->notes[0]->role)
        ->toBe('img[src]')
        ->and($steps[0]->fields['body']->notes[0]->line)
        ->toBe(1);
});

it('asks for records batch by batch while its steps are taken', function (): void {
    $facts = facts(
        ...array_map(
            static fn (int $n): RecordUses => recordOf((string) $n, '<img src="/media/old.jpg">'),
            range(1, 9),
        ),
    );
    $steps = (new SwapPlanner(new SwapRequest(1, Manner::NewReference, 2)))->plan($facts);
    $steps->current();
    expect($facts->batches)->toBe([2]);
    $steps->next();
    $steps->next();
    expect($facts->batches)->toBe([2, 2]);
});

it('leaves out what cannot be edited, and says why', function (RecordUses $uses, string $why): void {
    [$steps, $outline] = planned(
        facts($uses, recordOf('9', '<img src="/media/old.jpg">')),
        new SwapRequest(1, Manner::NewReference, 2),
    );
    expect($steps[0])
        ->toBeInstanceOf(Refused::class)
        ->and($steps[0]->why)
        ->toContain($why)
        ->and($steps[0]->step->title())
        ->toBe($uses->title)
        ->and($steps[1])
        ->toBeInstanceOf(EditRecord::class)
        ->and($outline->sentence)
        ->toStartWith('1 reference in 1 record,')
        ->and($outline->expectation->everywhere)
        ->toBeFalse();
})->with([
    'changed since it was read' => [
        fn () => recordOf('1', '<img src="/media/old.jpg">', known: 'another'),
        'Read the site again',
    ],
    'gone' => [
        fn () => new RecordUses('page', '1', 'Page 1', 'x', [new PlacedUse('body', 0, 4, 'media/old.jpg')], null),
        'no longer exists',
    ],
    'not where the index has it' => [
        fn () => new RecordUses(
            'page',
            '1',
            'Page 1',
            recordOf('1', '<img src="/media/old.jpg">')->contentHash,
            [new PlacedUse('body', 3, 4, 'media/old.jpg')],
            recordOf('1', '<img src="/media/old.jpg">')->record,
        ),
        'not where the index has it',
    ],
]);

it('lays out an upload as an item of its own, and lets records wait for its number', function (): void {
    $facts = facts(
        recordOf('1', '{"picture":7,"b":"/media/old.w480.jpg"}', Notation::Json),
        recordOf('2', '<img src="/media/old.jpg">'),
    );
    $facts->files['media/ebb-flut.jpg'] = new FileState('x', 1);
    // The name is free, but one of its renditions is not.
    $facts->files['media/ebb-flut-2.w480.jpg'] = new FileState('x', 1);
    [$steps, $outline] = planned(
        $facts,
        new SwapRequest(1, Manner::NewReference, null, 'up', title: 'Ebb', alt: 'the ebb'),
    );
    expect(array_map(static fn ($s): string => $s->kind()->value.' '.$s->title(), $steps))
        ->toBe([
            'write-file media/ebb-flut-3.jpg',
            'write-file media/ebb-flut-3.w480.jpg',
            'write-file media/ebb-flut-3.w150.jpg',
            'add-media media/ebb-flut-3.jpg',
            'edit-record Page 1',
            'edit-record Page 2',
        ])
        ->and($steps[0]->before)
        ->toBeNull()
        ->and($steps[0]->after->sha256)
        ->toBe('upload')
        ->and(array_map(static fn ($d): string => "$d->size", $facts->drawn))
        ->toBe(['480 × 320', '150 × 150'])
        ->and($steps[3])
        ->toBeInstanceOf(AddMedia::class)
        ->and($steps[3]->media->title)
        ->toBe('Ebb')
        ->and($steps[3]->media->alt)
        ->toBe('the ebb')
        ->and($steps[3]->media->renditions[1])
        ->toBe(['path' => 'media/ebb-flut-3.w150.jpg', 'width' => 150, 'height' => 150])
        ->and($steps[4]->after)
        ->toBeNull()
        ->and($steps[4]->promises)
        ->toHaveCount(2)
        ->and($steps[5]->promises)
        ->toBe([])
        ->and($outline->sentence)
        ->toBe('3 references in 2 records, 3 new files.')
        ->and($outline->pictures[1]->item)
        ->toBeNull();
    $record = $facts->uses[0]->record;
    $kept = (new Promises(new FieldReader(), null))->keep($steps[4], $record, ['new' => '123']);
    expect(EditRecord::texts($record, $kept->fields)['body'])
        ->toBe('{"picture":123,"b":"/media/ebb-flut-3.w480.jpg"}')
        ->and($kept->after)
        ->toBe(SourceRecord::hashOf(EditRecord::texts($record, $kept->fields)))
        ->and(fn () => (new Promises(new FieldReader(), null))->keep($steps[4], $record, []))
        ->toThrow(Ylema\Change\EditConflict::class);
});

it('draws no renditions where nobody says how they are called, and says so', function (): void {
    $facts = facts(recordOf('2', '<img src="/media/old.jpg">'));
    $facts->pattern = '';
    [$steps, $outline] = planned($facts, new SwapRequest(1, Manner::NewReference, null, 'up'));
    expect($facts->drawn)
        ->toBe([])
        ->and($steps[0]->title())
        ->toBe('media/ebb-flut.jpg')
        ->and($outline->notes[0])
        ->toContain('No renditions are drawn')
        ->and($steps[1]->media->title)
        ->toBe('Ebb & Flüt');
});

it('keeps a link to the page of an item a link to a page, also of one that is still to come', function (): void {
    $facts = facts(recordOf('1', '<a href="/picture/7/"><img src="/media/old.jpg"></a>'));
    $facts->pages = new MediaPages('picture/{id}/');
    [$steps] = planned($facts, new SwapRequest(1, Manner::NewReference, null, 'up'));
    $edit = $steps[array_key_last($steps)];
    $record = $facts->uses[0]->record;
    expect(
        EditRecord::texts(
            $record,
            (new Promises(new FieldReader(), $facts->pages))->keep($edit, $record, ['new' => '12'])->fields,
        )['body'],
    )->toBe('<a href="/picture/12/"><img src="/media/ebb-flut.jpg"></a>');
});

it('puts new bytes behind the same addresses, each rendition in its own size', function (): void {
    $facts = facts();
    [$steps, $outline] = planned($facts, new SwapRequest(1, Manner::SameAddress, 2));
    expect(array_map(static fn (WriteFile $s): array => [$s->path, $s->before?->sha256, $s->after->sha256], $steps))
        ->toBe([
            ['media/old.jpg', 'old', 'new'],
            ['media/old.w480.jpg', 'old480', 'drawn 480 × 320 jpg'],
            ['media/old.w150.jpg', 'old150', 'drawn 150 × 150 jpg'],
        ])
        ->and($outline->sentence)
        ->toBe(
            'New bytes for 3 files behind the same addresses; 9 references stay as they are. Up to 50% falls away '
                .'where shapes differ.',
        )
        ->and($outline->expectation->gone)
        ->toBe([])
        ->and($outline->expectation->there)
        ->toBe(oldItem()->paths());
});

it('refuses what makes no sense, and says what to do', function (
    KnownFacts $facts,
    SwapRequest $request,
    string $says,
): void {
    expect(fn () => planned($facts, $request))->toThrow(CannotPlan::class, $says);
})->with([
    'itself' => [fn () => facts(), new SwapRequest(1, Manner::NewReference, 1), 'swapped for itself'],
    'nothing' => [fn () => facts(), new SwapRequest(1, Manner::NewReference, null), 'upload a file'],
    'an item of another site' => [
        fn () => facts(),
        new SwapRequest(5, Manner::NewReference, 2),
        'to be swapped is not on this site',
    ],
    'a stand-in of another site' => [
        fn () => facts(),
        new SwapRequest(1, Manner::NewReference, 5),
        'stand in is not on this site',
    ],
    'no place' => [fn () => facts(), new SwapRequest(1, Manner::NewReference, 2), 'nothing to change'],
    'a document for a picture' => [
        fn () => facts(),
        new SwapRequest(1, Manner::NewReference, null, 'pdf'),
        'a document cannot stand in',
    ],
    'a stand-in without a file' => [
        fn () => new KnownFacts([1 => oldItem(), 2 => newItem(hasOriginal: false)]),
        new SwapRequest(1, Manner::NewReference, 2),
        'no file of its own',
    ],
    'bytes of a stand-in without a file' => [
        fn () => new KnownFacts([1 => oldItem(), 2 => newItem(hasOriginal: false)]),
        new SwapRequest(1, Manner::SameAddress, 2),
        'is missing',
    ],
]);

it('says what moves by itself where its records are written', function (): void {
    expect(
        planned(
            facts(recordOf('1', '<img src="/media/old.jpg">', kind: 'stamped')),
            new SwapRequest(1, Manner::NewReference, 2),
        )[1]->notes,
    )->toContain('It moves.');
});

it('is made again from what it was asked for', function (): void {
    $request = new SwapRequest(
        1,
        Manner::SameAddress,
        null,
        'up',
        new Places(true, [new Ylema\Plan\Place('page', '4', 'body', 2)]),
        'T',
        'A',
    );
    $kept = json_decode(json_encode((new SwapPlanner($request))->request()), true);
    expect(SwapPlanner::of($kept)->request())
        ->toBe((new SwapPlanner($request))->request())
        ->and(SwapRequest::fromArray($kept))
        ->toEqual($request)
        ->and(fn () => SwapRequest::fromArray([...$kept, 'places' => 'all']))
        ->toThrow(CannotPlan::class)
        ->and(fn () => SwapRequest::fromArray([...$kept, 'places' => ['listed' => true, 'places' => [['page', 4]]]]))
        ->toThrow(CannotPlan::class, 'Choose them again')
        ->and(fn () => SwapRequest::fromArray([...$kept, 'manner' => 'sideways']))
        ->toThrow(CannotPlan::class);
});

it('shows both sides, the boxes of most places first, and what will look different, in its outline', function (): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    $facts->boxes = [
        new PlacedBox(1, 600, 600),
        new PlacedBox(2, null, null, new Size(1200, 800), 'masthead'),
        new PlacedBox(3, null, null, new Size(1200, 800), 'masthead'),
        new PlacedBox(4, 600, 300),
    ];
    $outline = planned($facts, new SwapRequest(1, Manner::NewReference, 2))[1];
    expect($outline->notes)
        ->toBe([
            'Another shape: 1,200 × 800 pixels now, 2,000 × 1,000 after.',
            '2 places: “masthead” is made for 1,200 × 800 and states no size here: it becomes 1,200 × 600.',
            '1 place: Stretched: the box is fixed at 600 × 600.',
        ])
        ->and(
            array_map(
                static fn (ShownBox $b): string => "$b->width $b->height $b->carrier $b->places",
                $outline->boxes,
            ),
        )
        ->toBe(['1200 800 masthead 2', '600 600  1', '600 300  1'])
        ->and(
            array_map(
                static fn (Picture $p): array => [$p->label, $p->item, $p->words, $p->file?->sha256],
                $outline->pictures,
            ),
        )
        ->toBe([['Now', 1, 'Old', 'old'], ['After', 2, 'New', 'new']]);
});

it('says six different things about places and counts the rest', function (): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    foreach (range(1, 8) as $n) {
        array_push($facts->boxes, ...array_fill(0, 9 - $n, new PlacedBox($n, 100 * $n, 100 * $n)));
    }
    $notes = planned($facts, new SwapRequest(1, Manner::NewReference, 2))[1]->notes;
    expect($notes)
        ->toHaveCount(8)
        ->and($notes[1])
        ->toBe('8 places: Stretched: the box is fixed at 100 × 100.')
        ->and($notes[7])
        ->toBe('3 more places will look different in other ways; the bench names each.');
});

it('crops an upload to the old proportions, so that every box stays as it is', function (): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    $facts->uploads['square'] = new KeptFile('square', 90, 'square.png', 'png', new Size(900, 900), true);
    $facts->boxes = [new PlacedBox(1, 600, 400)];
    [$steps, $outline] = planned(
        $facts,
        new SwapRequest(1, Manner::NewReference, null, 'square', alt: 'x', keepShape: true),
    );
    expect($steps[0]->after->sha256)
        ->toBe('drawn 900 × 600 png')
        ->and([$steps[0]->pixels->width, $steps[0]->pixels->height])
        ->toBe([900, 600])
        ->and(implode("\n", $outline->notes))
        ->not->toContain('Another shape')
        ->not->toContain('place')
        ->and($facts->drawn[0]->source)
        ->toBe('square');
});

it('crops what comes behind the same address, too, around its focal point', function (): void {
    $facts = facts();
    $facts->media[2] = new MediaFacts('9', newItem()->files, 2, 'New', 'media/new.jpg', focusX: 0.9, focusY: 0.2);
    [$steps] = planned($facts, new SwapRequest(1, Manner::SameAddress, 2, keepShape: true));
    expect([$facts->drawn[0]->focusX, $facts->drawn[0]->focusY])
        ->toBe([0.9, 0.2])
        ->and((string) $facts->drawn[0]->size)
        ->toBe('1500 × 1000')
        ->and($steps[0]->after->sha256)
        ->toBe('drawn 1500 × 1000 jpg')
        ->and($facts->drawn[1]->source)
        ->toBe('drawn 1500 × 1000 jpg');
});

it('leaves a picture of the old proportions whole', function (): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    [$steps] = planned($facts, new SwapRequest(1, Manner::NewReference, null, 'up', keepShape: true));
    expect($steps[0]->after->sha256)->toBe('upload');
});

it('refuses to crop what it would have to change for others, or cannot draw', function (
    SwapRequest $request,
    string $why,
): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    $facts->uploads['drawing'] = new KeptFile('drawing', 90, 'plan.svg', 'svg', new Size(100, 100), false);
    expect(fn () => planned($facts, $request))->toThrow(CannotPlan::class, $why);
})->with([
    'an item of the site' => [new SwapRequest(1, Manner::NewReference, 2, keepShape: true), 'is shown as it is'],
    'a drawing' => [new SwapRequest(1, Manner::NewReference, null, 'drawing', keepShape: true), 'cannot be cropped'],
]);

it('can be taken up again with what it made, and led back', function (): void {
    $places = Places::only([new Place('page', '1', 'body', 1)]);
    $upload = new SwapPlanner(new SwapRequest(1, Manner::NewReference, null, 'up', $places, 'T', 'A'));
    $again = $upload->after(['new' => 5])->request();
    expect([$again['to'], $again['upload'], $again['places']])
        ->toBe([5, null, $places->toArray()])
        ->and($upload->after([]))
        ->toBe($upload)
        ->and([$upload->stoodIn(['new' => 5]), $upload->stoodIn([])])
        ->toBe([5, null]);
    $other = new SwapPlanner(new SwapRequest(1, Manner::NewReference, 2));
    $back = $other->back([], $places)->request();
    expect([$other->stoodIn([]), $back['from'], $back['to'], $back['places'], $back['manner']])
        ->toBe([2, 2, 1, $places->toArray(), 'new-reference'])
        ->and((new SwapPlanner(new SwapRequest(1, Manner::SameAddress, 2)))->stoodIn([]))
        ->toBeNull();
});

it('leads back to a bench on which all stands as it was chosen', function (SwapRequest $request, string $bench): void {
    expect($request->bench())->toBe($bench);
})->with([
    [new SwapRequest(1, Manner::NewReference, 2), 'media/1/swap?to=2'],
    [new SwapRequest(1, Manner::SameAddress, null, 'up'), 'media/1/swap?upload=up&manner=same-address'],
]);

it('counts one address as one, and says what falls away', function (): void {
    $facts = facts();
    $facts->media[1] = new MediaFacts('7', [oldItem()->files[0]], 1, 'Old', 'media/old.jpg', uses: 1);
    $outline = planned($facts, new SwapRequest(1, Manner::SameAddress, null, 'up'))[1];
    expect($outline->sentence)
        ->toBe('New bytes for 1 file behind the same address; 1 reference stays as it is.')
        ->and($outline->title)
        ->toBe('Old: new bytes behind the same address, from Ebb & Flüt.jpg');
    $all = planned(facts(), new SwapRequest(1, Manner::SameAddress, 2))[1];
    expect($all->sentence)->toBe(
        'New bytes for 3 files behind the same addresses; 9 references stay as they are. Up to 50% falls away where '
            .'shapes differ.',
    );
});

it('replaces the sizes of an item whose original is missing, and nothing where there is no file', function (): void {
    $facts = facts();
    $facts->media[1] = new MediaFacts('7', oldItem()->files, 1, 'Old', 'media/old.jpg', false, uses: 2);
    unset($facts->files['media/old.jpg']);
    [$steps] = planned($facts, new SwapRequest(1, Manner::SameAddress, null, 'up'));
    expect(array_map(static fn (WriteFile $s): string => $s->path, $steps))->toBe([
        'media/old.w480.jpg',
        'media/old.w150.jpg',
    ]);
    $facts->media[1] = new MediaFacts('7', [oldItem()->files[0]], 1, 'Old', 'media/old.jpg', false);
    expect(fn () => planned($facts, new SwapRequest(1, Manner::SameAddress, null, 'up')))->toThrow(
        CannotPlan::class,
        'no file whose bytes could be replaced',
    );
});

it('gives a new item a plain name, its own folder, and sizes that are never enlarged', function (
    string $name,
    string $path,
): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    $facts->uploads['up'] = new KeptFile('upload', 90, $name, 'jpg', new Size(301, 200), true);
    [$steps] = planned($facts, new SwapRequest(1, Manner::NewReference, null, 'up', alt: 'x'));
    $written = array_values(array_filter($steps, static fn (mixed $s): bool => $s instanceof WriteFile));
    expect($written[0]->path)
        ->toBe($path)
        ->and(array_map(static fn (WriteFile $s): string => (string) $s->pixels, $written))
        ->toBe(['301 × 200', '150 × 150']);
})->with([
    'letters of many kinds' => ['Ébb & Flüt.JPG', 'media/ebb-flut.jpg'],
    'nothing that could be kept' => ['???.jpg', 'media/file.jpg'],
    'too long' => [str_repeat('a', 90).'.jpg', 'media/'.str_repeat('a', 80).'.jpg'],
    'a name that is taken' => ['new.jpg', 'media/new-2.jpg'],
]);

it('is asked for in full or in part', function (array $data, SwapRequest $request): void {
    $whole = ['from' => 1, 'manner' => 'new-reference', 'places' => ['listed' => false, 'places' => []]];
    expect(SwapRequest::fromArray([...$whole, ...$data]))->toEqual($request)->and(
        SwapRequest::fromArray($request->toArray()),
    )->toEqual($request);
})->with([
    'the least' => [[], new SwapRequest(1, Manner::NewReference, null)],
    'words that are none' => [
        ['to' => '2', 'upload' => 3, 'title' => 1, 'alt' => [], 'caption' => 1, 'credit' => null, 'keep_shape' => 1],
        new SwapRequest(1, Manner::NewReference, null),
    ],
    'all of it' => [
        [
            'manner' => 'same-address',
            'upload' => 'up',
            'title' => 'T',
            'alt' => 'A',
            'caption' => 'C',
            'credit' => 'D',
            'keep_shape' => true,
        ],
        new SwapRequest(1, Manner::SameAddress, null, 'up', new Places(), 'T', 'A', 'C', 'D', true),
    ],
]);

it('gives the new row all its words, and says where they are missing', function (): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    $request = new SwapRequest(1, Manner::NewReference, null, 'up', title: 'T', alt: 'A', caption: 'C', credit: 'D');
    [$steps, $outline] = planned($facts, $request);
    $added = array_values(array_filter($steps, static fn (mixed $s): bool => $s instanceof AddMedia))[0]->media;
    expect([$added->title, $added->alt, $added->caption, $added->credit])
        ->toBe(['T', 'A', 'C', 'D'])
        ->and($outline->notes)
        ->toBe([])
        ->and($outline->title)
        ->toBe('Old: shown as T')
        ->and($outline->pictures[1]->item)
        ->toBeNull()
        ->and($outline->pictures[1]->words)
        ->toBe('T')
        ->and(planned($facts, new SwapRequest(1, Manner::NewReference, null, 'up'))[1]->notes)
        ->toBe(['The new item has no alt text: whoever cannot see it learns nothing of it.'])
        // Another item of the site has words of its own.
        ->and(implode(planned($facts, new SwapRequest(1, Manner::NewReference, 2))[1]->notes))
        ->not->toContain('alt text');
});

it('says in full what cannot be', function (KnownFacts $facts, SwapRequest $request, string $why): void {
    expect(fn () => planned($facts, $request))->toThrow(new CannotPlan($why));
})->with([
    'another kind of file' => [
        fn () => facts(),
        new SwapRequest(1, Manner::NewReference, null, 'pdf'),
        '"Old" is a picture, and a document cannot stand in for it: no page could show it there. Choose another '
            .'picture.',
    ],
    'a crop of an item of the site' => [
        fn () => facts(),
        new SwapRequest(1, Manner::NewReference, 2, keepShape: true),
        'An item of the site is shown as it is; only an upload, or new bytes behind the same address, can be cropped '
            .'to the old proportions.',
    ],
    'a stand-in without a file' => [
        fn () => new KnownFacts([1 => oldItem(), 2 => newItem(hasOriginal: false)]),
        new SwapRequest(1, Manner::NewReference, 2),
        '"media/new.jpg" has no file of its own, so nothing may be pointed at it. Choose an item whose file is there.',
    ],
    'an upload that is gone' => [
        fn () => facts(),
        new SwapRequest(1, Manner::NewReference, null),
        'Choose another item, or upload a file, to stand in.',
    ],
    'a drawing behind the address of a picture' => [
        function (): KnownFacts {
            $facts = facts();
            $facts->uploads['drawing'] = new KeptFile('d', 9, 'plan.svg', 'svg', new Size(9, 9), false);

            return $facts;
        },
        new SwapRequest(1, Manner::SameAddress, null, 'drawing'),
        '"plan.svg" is a .svg file and cannot be drawn as the .jpg file media/old.jpg. Upload a .jpg file, or swap by '
            .'new reference.',
    ],
]);

it('crops to the old proportions around the middle where no focal point is known', function (): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    $facts->uploads['tall'] = new KeptFile('tall', 90, 'tall.png', 'png', new Size(900, 1900), true);
    planned($facts, new SwapRequest(1, Manner::NewReference, null, 'tall', alt: 'x', keepShape: true));
    expect([$facts->drawn[0]->focusX, $facts->drawn[0]->focusY, (string) $facts->drawn[0]->size])->toBe([
        0.5,
        0.5,
        '900 × 600',
    ]);
});

it('leaves whole what has no size to crop to, or none to crop', function (): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    $facts->uploads['none'] = new KeptFile('none', 90, 'none.jpg', 'jpg', null, true);
    $request = new SwapRequest(1, Manner::NewReference, null, 'none', keepShape: true);
    expect(planned($facts, $request)[0][0]->after->sha256)->toBe('none');
    $facts->media[1] = new MediaFacts('7', [new PictureFile('media/old.jpg', null, true)], 1, 'Old', 'media/old.jpg');
    $facts->uploads['square'] = new KeptFile('square', 90, 'square.jpg', 'jpg', new Size(90, 90), true);
    $request = new SwapRequest(1, Manner::NewReference, null, 'square', keepShape: true);
    expect(planned($facts, $request)[0][0]->after->sha256)->toBe('square');
});

it('says of moving pictures only where something can move', function (
    string $path,
    bool $wasMoving,
    bool $isMoving,
    Manner $manner,
    array $says,
): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    $facts->media[1] = new MediaFacts(
        '7',
        [new PictureFile($path, new Size(1500, 1000), true)],
        1,
        'Old',
        $path,
        uses: 1,
    );
    $facts->originals[$path] = new KeptFile('o', 9, 'old', 'gif', new Size(1500, 1000), true, $wasMoving);
    $facts->files[$path] = new FileState('o', 9);
    $extension = pathinfo($path, PATHINFO_EXTENSION);
    $facts->uploads['new'] = new KeptFile('n', 9, 'n', $extension, new Size(1500, 1000), true, $isMoving);
    $facts->uses = [recordOf('1', '<img src="/media/old.jpg">')];
    expect(planned($facts, new SwapRequest(1, $manner, null, 'new', alt: 'x'))[1]->notes)->toBe($says);
})->with(['gif' => ['media/old.gif'], 'webp' => ['media/old.webp'], 'png' => ['media/old.png']])->with([
    'neither' => [false, false, Manner::SameAddress, []],
    'the old one' => [true, false, Manner::SameAddress, ['The picture moves now; the new one stands still.']],
    'the new one' => [
        false,
        true,
        Manner::SameAddress,
        ['The new picture moves; sizes that are drawn from it stand still.'],
    ],
]);

it('never takes a type for moving that cannot', function (): void {
    $facts = facts();
    $facts->originals['media/old.jpg'] = new KeptFile('o', 9, 'old', 'jpg', new Size(1500, 1000), true, true);
    expect(implode(planned($facts, new SwapRequest(1, Manner::SameAddress, null, 'up'))[1]->notes))->not->toContain(
        'moves',
    );
});

it('says how much falls away from three in a hundred on, to the nearer one', function (
    Size $size,
    string $says,
): void {
    $facts = facts();
    $facts->media[1] = new MediaFacts(
        '7',
        [
            new PictureFile('media/old.jpg', new Size(1000, 1000), true),
            new PictureFile('media/old.w100.jpg', new Size(100, 100)),
        ],
        1,
        'Old',
        'media/old.jpg',
        uses: 1,
    );
    $facts->uploads['new'] = new KeptFile('n', 9, 'n.jpg', 'jpg', $size, true);
    expect(planned($facts, new SwapRequest(1, Manner::SameAddress, null, 'new'))[1]->sentence)->toEndWith($says);
})->with([
    'nothing' => [new Size(1000, 1000), '1 reference stays as it is.'],
    'not quite two in a hundred' => [new Size(1000, 981), '1 reference stays as it is.'],
    'nearly three' => [new Size(1000, 974), 'Up to 3% falls away where shapes differ.'],
    'three and a little' => [new Size(1000, 966), 'Up to 3% falls away where shapes differ.'],
]);

it('means that the old one is gone everywhere only where every place was meant, and none was left', function (): void {
    $place = new Place('page', '1', 'body', 1);
    $expects = static fn (KnownFacts $facts, Places $places): bool => planned(
        $facts,
        new SwapRequest(1, Manner::NewReference, 2, places: $places),
    )[1]->expectation->everywhere;
    $good = recordOf('1', '<img src="/media/old.jpg">');
    $changed = recordOf('2', '<img src="/media/old.jpg">', known: 'another');
    expect($expects(facts($good), new Places()))
        ->toBeTrue()
        ->and($expects(facts($good), Places::only([$place])))
        ->toBeFalse()
        ->and($expects(facts($good, $changed), new Places()))
        ->toBeFalse();
});

it('says what moves by itself once for each kind of record', function (): void {
    $facts = facts(
        recordOf('1', '<img src="/media/old.jpg">', kind: 'stamped'),
        recordOf('2', '<img src="/media/old.jpg">', kind: 'stamped'),
        recordOf('3', '<img src="/media/old.jpg">'),
        recordOf('4', '<img src="/media/old.jpg">', kind: 'stamped', known: 'changed'),
    );
    $outline = planned($facts, new SwapRequest(1, Manner::NewReference, 2))[1];
    expect(array_keys($outline->notes, 'It moves.', true))
        ->toHaveCount(1)
        ->and(array_is_list($outline->notes))
        ->toBeTrue()
        ->and($outline->sentence)
        ->toBe('3 references in 3 records, no file.');
});

it('shows the six boxes of most places, and stated sizes before those of a carrier', function (): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    foreach (range(1, 8) as $n) {
        array_push($facts->boxes, ...array_fill(0, $n, new PlacedBox($n, 100 * $n, null, new Size(9, 9), 'aside')));
    }
    $boxes = static fn (): array => array_map(
        static fn (ShownBox $b): array => [$b->width, $b->height, $b->carrier, $b->places],
        planned($facts, new SwapRequest(1, Manner::NewReference, 2))[1]->boxes,
    );
    expect($boxes())->toBe([
        [800, null, '', 8],
        [700, null, '', 7],
        [600, null, '', 6],
        [500, null, '', 5],
        [400, null, '', 4],
        [300, null, '', 3],
    ]);
    $facts->boxes = [new PlacedBox(1, null, null), new PlacedBox(2, null, 50)];
    expect($boxes())->toBe([
        [null, null, '', 1],
        [null, 50, '', 1],
    ]);
});

it('says nothing of shapes and boxes where no picture stands in', function (): void {
    $facts = facts(recordOf('1', '<a href="/media/old.jpg">x</a>'));
    $facts->media[1] = new MediaFacts('7', [new PictureFile('media/old.pdf', null, true)], 1, 'Old', 'media/old.pdf');
    $facts->boxes = [new PlacedBox(1, 600, 600)];
    $outline = planned($facts, new SwapRequest(1, Manner::NewReference, null, 'pdf'))[1];
    expect([$outline->notes, $outline->boxes, $outline->pictures[0]->file])->toBe([[], [], null]);
});

it('keeps both sides of a plan by their files, as far as they are there', function (): void {
    $facts = facts(recordOf('1', '<img src="/media/old.jpg">'));
    $facts->media[1] = new MediaFacts('7', oldItem()->files, 1, 'Old', 'media/old.jpg', false, uses: 1);
    $pictures = planned($facts, new SwapRequest(1, Manner::SameAddress, 2))[1]->pictures;
    expect([$pictures[0]->file, $pictures[1]->item, $pictures[1]->file?->sha256])->toBe([null, 2, 'new']);
});
