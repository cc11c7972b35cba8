<?php

declare(strict_types=1);

use Ylema\Change\Edit;
use Ylema\Change\Edits;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Expectation;
use Ylema\Plan\MediaFacts;
use Ylema\Plan\Place;
use Ylema\Plan\Places;
use Ylema\Plan\RecordUses;
use Ylema\Plan\Step;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\ChangeMedia;
use Ylema\Plan\Steps\DeleteFile;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\FieldEdits;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\PromisedEdit;
use Ylema\Plan\Steps\Redirect;
use Ylema\Plan\Steps\RemoveMedia;
use Ylema\Plan\Steps\RestFile;
use Ylema\Plan\Steps\WakeFile;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Plan\Words;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;
use Ylema\Sites\FileState;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;
use Ylema\Sites\SourceRecord;
use Ylema\Usage\RecordState;

/** @return array{FileState, MediaRow, NewMedia} */
function partsOfSteps(): array
{
    return [
        new FileState(str_repeat('a', 64), 12, 1_500_000_000, 0o640, '33:33'),
        new MediaRow('7', ['id' => '7', 'path' => 'media/a.jpg']),
        new NewMedia(
            'media/a.jpg',
            'A',
            'an a',
            9,
            8,
            [['path' => 'media/a.w4.jpg', 'width' => 4, 'height' => 3]],
            'c',
            'd',
        ),
    ];
}

function keptAndBack(Step $step): Step
{
    $kept = json_decode(json_encode($step->toArray(), JSON_THROW_ON_ERROR), true);

    return $step->kind()->restore($kept);
}

it('comes back whole from where it is kept', function (Step $step): void {
    expect(keptAndBack($step))->toEqual($step);
})->with(function (): array {
    [$file, $row, $media] = partsOfSteps();
    $edits = FieldEdits::of(
        "one\ntwo <img src=\"old.jpg\" alt=\"x\"> and more",
        Edits::of([new Edit(18, 'old.jpg', "n\xFEw.jpg")]),
    );

    return [
        'a file with pixels' => [new WriteFile('a', $file, new FileState('b', 1), new Size(4, 3))],
        'a file without' => [new WriteFile('a', null, $file)],
        'a file moved' => [new MoveFile('a', 'b', $file)],
        'a file taken away' => [new DeleteFile('a', $file)],
        'laid to rest' => [new RestFile('a', $file, '2031-01-01')],
        'woken' => [new WakeFile('a', $file, '2031-01-01')],
        'a row to come' => [new AddMedia($media, 'new')],
        'a row that is there' => [new AddMedia($media, 'new', $row)],
        'a row removed' => [new RemoveMedia('a', $row, $media, 'new')],
        'a row removed that nobody here made' => [new RemoveMedia('a', $row)],
        'other words' => [new ChangeMedia('7', 'a', ['alt' => ''], ['alt' => 'ü'])],
        'a record' => [new EditRecord('page', '4', 'Page', 'before', 'after', ['body' => $edits])],
        'a record that waits' => [
            new EditRecord(
                'page',
                '4',
                'Page',
                'before',
                null,
                [],
                [new PromisedEdit('body', 3, 4, 'new', null), new PromisedEdit('css', 9, 5, 'new', '/x')],
            ),
        ],
        'a redirect' => [new Redirect('old/a', '/new', 308)],
        'a redirect taken back' => [new DropRedirect('old/a', '/new', 410)],
    ];
});

it('is the emptiest of its kind where nothing can be read of it', function (Step $empty): void {
    expect($empty->kind()->restore([]))
        ->toEqual($empty)
        ->and($empty->kind()->restore(array_map(static fn (): stdClass => new stdClass(), $empty->toArray())))
        ->toEqual($empty);
})->with(function (): array {
    $none = FileState::fromArray([]);
    $media = NewMedia::fromArray([]);

    return [
        [new WriteFile('', null, $none)],
        [new MoveFile('', '', $none)],
        [new DeleteFile('', $none)],
        [new RestFile('', $none, '')],
        [new WakeFile('', $none, '')],
        [new AddMedia($media, '')],
        [new RemoveMedia('', MediaRow::fromArray([]))],
        [new ChangeMedia('', '', [], [])],
        [new EditRecord('', '', '', '', null, [])],
        [new Redirect('', '')],
        [new DropRedirect('', '')],
    ];
});

it('names the row of a new item by its words until it is there', function (): void {
    [, $row, $media] = partsOfSteps();
    expect((new AddMedia($media, 'new'))->inverse())
        ->toEqual(new RemoveMedia('media/a.jpg', new MediaRow('', []), $media, 'new'))
        ->and((new RemoveMedia('media/a.jpg', $row))->inverse())
        ->toEqual(new AddMedia(new NewMedia('media/a.jpg', '', '', null, null, []), '', $row));
});

it('turns a record round with all its fields', function (): void {
    $edits = FieldEdits::of('an old word', Edits::of([new Edit(3, 'old', 'newer')]));
    $back = (new EditRecord('page', '4', 'Page', 'b', 'a', ['body' => $edits]))->inverse();
    expect([$back->before, $back->after])
        ->toBe(['a', 'b'])
        ->and($back->fields['body']->edits->applyTo('an newer word'))
        ->toBe('an old word')
        ->and((new EditRecord('page', '4', 'Page', 'b', null, []))->inverse()->before)
        ->toBe('');
});

it('keeps notes beside each edit, and reads them where they stand', function (): void {
    $kept = FieldEdits::fromArray([[7, 'a', 'b', 'img[src]', 2, 'lead', 'tail'], 'nonsense', [9, 'c', 'd']]);
    expect($kept->edits->edits)
        ->toEqual([new Edit(7, 'a', 'b'), new Edit(9, 'c', 'd')])
        ->and([$kept->notes[0]->role, $kept->notes[0]->line, $kept->notes[0]->lead, $kept->notes[0]->tail])
        ->toBe(['img[src]', 2, 'lead', 'tail'])
        ->and([$kept->notes[1]->role, $kept->notes[1]->line, $kept->notes[1]->lead, $kept->notes[1]->tail])
        ->toBe([null, null, '', ''])
        ->and($kept->toArray()[0])
        ->toBe([7, 'a', 'b', 'img[src]', 2, 'lead', 'tail'])
        ->and(FieldEdits::fromArray([[]])->edits->edits)
        ->toEqual([new Edit(0, '', '')]);
});

it('is what a visitor should meet, also where part of it cannot be read', function (): void {
    $read = Expectation::fromArray(['gone' => [1, 'a', null, 'b'], 'there' => 'no list']);
    expect([$read->gone, $read->there, $read->texts, $read->everywhere])
        ->toBe([['a', 'b'], [], [], true])
        ->and(Expectation::fromArray(['everywhere' => false])->everywhere)
        ->toBeFalse();
});

it('means all places only where none is listed and none is left out', function (): void {
    $place = new Place('page', '1', 'body', 1);
    expect((new Places())->areAll())
        ->toBeTrue()
        ->and(Places::only([])->areAll())
        ->toBeFalse()
        ->and(Places::except([$place])->areAll())
        ->toBeFalse()
        ->and(Places::only([$place])->areAll())
        ->toBeFalse();
});

it('names an item by its title, and by its path without one', function (): void {
    $file = new PictureFile('media/a.jpg', null, true);
    expect((new MediaFacts('1', [$file], title: 'A', path: 'media/a.jpg'))->name())
        ->toBe('A')
        ->and((new MediaFacts('1', [$file], path: 'media/a.jpg'))->name())
        ->toBe('media/a.jpg');
});

it('counts in words', function (): void {
    expect([Words::many(1, 'step'), Words::many(2000, 'step'), Words::many(2, 'address', 'addresses')])->toBe([
        '1 step',
        '2,000 steps',
        '2 addresses',
    ]);
});

it('knows a promised place by both its ends', function (): void {
    $promise = new PromisedEdit('body', 3, 4, 'new');
    $reference = static fn (int $start, int $length): Reference => (new FieldReader())->read(
        str_repeat(' ', $start - 10 > 0 ? $start - 10 : 0).'<img src="'.str_repeat('a', $length).'">',
        Notation::Html,
        new Rules(),
    )->references[0];
    $at = new PromisedEdit('body', 10, 4, 'new');
    expect($at->isOf($reference(10, 4)))
        ->toBeTrue()
        ->and($at->isOf($reference(10, 5)))
        ->toBeFalse()
        ->and($at->isOf($reference(12, 4)))
        ->toBeFalse()
        ->and($promise->isOf($reference(10, 4)))
        ->toBeFalse();
});

it('is a promised place only where its parts can be read', function (): void {
    expect(PromisedEdit::fromArray([]))
        ->toEqual(new PromisedEdit('', 0, 0, ''))
        ->and(PromisedEdit::fromArray(['field' => 1, 'start' => '1', 'length' => '1', 'promise' => 1, 'value' => 1]))
        ->toEqual(new PromisedEdit('', 0, 0, ''))
        ->and(FieldEdits::fromArray([['x', null, null]])->edits->edits)
        ->toEqual([new Edit(0, '', '')]);
});

it('has pixels only where both sides are known', function (array $sides, ?Size $pixels): void {
    expect(WriteFile::fromArray(['path' => 'a', ...$sides])->pixels)->toEqual($pixels);
})->with([
    [['width' => 4, 'height' => 3], new Size(4, 3)],
    [['width' => 4], null],
    [['height' => 3], null],
]);

it('takes no list of places that it cannot read in full', function (array $data): void {
    expect(fn () => Places::fromArray($data))->toThrow(CannotPlan::class, 'Choose them again.');
})->with([
    'nothing' => [[]],
    'no word whether they are meant' => [['places' => []]],
    'no places' => [['listed' => true]],
    'a place that is none' => [['listed' => true, 'places' => ['page']]],
    'a kind that is none' => [['listed' => true, 'places' => [[1, '1', 'body', 1]]]],
    'a key that is none' => [['listed' => true, 'places' => [['page', 1, 'body', 1]]]],
    'a field that is none' => [['listed' => true, 'places' => [['page', '1', 1, 1]]]],
    'a number that is none' => [['listed' => true, 'places' => [['page', '1', 'body', '1']]]],
    'no kind' => [['listed' => true, 'places' => [[1 => '1', 2 => 'body', 3 => 1]]]],
]);

it('keeps places as they were chosen', function (): void {
    $places = Places::except([new Place('page', '1', 'body', 2), new Place('post', '9', 'css', 1)]);
    expect($places->listed)->toBeFalse()->and(Places::fromArray($places->toArray()))->toEqual($places);
});

it('takes an item’s original, and any of its files where that is gone', function (): void {
    [$small, $original] = [new PictureFile('a.w4.jpg', null, false), new PictureFile('a.jpg', null, true)];
    expect((new MediaFacts('1', [$small, $original]))->original())
        ->toBe($original)
        ->and((new MediaFacts('1', [$original, $small]))->original())
        ->toBe($original)
        ->and((new MediaFacts('1', [$small]))->original())
        ->toBe($small);
});

it('says why a record cannot be edited by what is known of it', function (): void {
    $record = new SourceRecord('page', '1', 'Page', null, RecordState::Live, []);
    expect((new RecordUses('page', '1', 'Page', $record->contentHash, [], $record))->problem())
        ->toBeNull()
        ->and((new RecordUses('page', '1', 'Page', 'other', [], $record))->problem())
        ->toBe('This record was changed since the site was last read. Read the site again, then plan again.')
        ->and((new RecordUses('page', '1', 'Page', 'other', [], null))->problem())
        ->toBe('This record no longer exists in the source. Read the site again.');
});
