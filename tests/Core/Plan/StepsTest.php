<?php

declare(strict_types=1);

use Ylema\Change\Bytes;
use Ylema\Change\Edit;
use Ylema\Change\Edits;
use Ylema\Imaging\Size;
use Ylema\Plan\Expectation;
use Ylema\Plan\Step;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\ArchiveFile;
use Ylema\Plan\Steps\Belongings;
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
use Ylema\Plan\Steps\SealBag;
use Ylema\Plan\Steps\UnarchiveFile;
use Ylema\Plan\Steps\UnsealBag;
use Ylema\Plan\Steps\WakeFile;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Sites\FileState;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;

/** @return array<string, Step> one of each kind, some twice */
function allSteps(): array
{
    $file = new FileState(str_repeat('a', 64), 12, 1_500_000_000, 0o640, '33:33');
    $row = new MediaRow('7', ['id' => '7', 'path' => 'media/a.jpg', 'blob' => "\xFF\0", 'none' => null]);
    $media = new NewMedia('media/a.jpg', 'A', 'an a', 9, null, [
        ['path' => 'media/a.w4.jpg', 'width' => 4, 'height' => 3],
    ]);
    $edits = FieldEdits::of("<p>\xFF\0</p> old", Edits::of([new Edit(10, 'old', "n\xFEw"), new Edit(3, "\xFF", 'é')]));

    return [
        'a new file' => new WriteFile('media/a.jpg', null, $file, new Size(4, 3)),
        'other bytes' => new WriteFile('media/a.jpg', $file, new FileState('b', 1)),
        'a file moved' => new MoveFile('media/a.jpg', 'media/b.jpg', $file),
        'a file taken away' => new DeleteFile('media/a.jpg', $file),
        'laid to rest' => new RestFile('media/a.jpg', $file, '2031-01-01'),
        'woken' => new WakeFile('media/a.jpg', $file, '2031-01-01'),
        'restored elsewhere' => new WakeFile(
            'media/a.jpg',
            $file,
            '2031-01-01',
            new Belongings('media/a.jpg', 'A', 'image/jpeg', new Size(4, 3), $row, [
                ['source' => 'age', 'says' => 'for'],
            ]),
            'media/a-2.jpg',
        ),
        'into a bag' => new ArchiveFile('bag-1', 'data/media/a.jpg', 'media/a.jpg', $file, '2031-01-01'),
        'out of a bag' => new UnarchiveFile('bag-1', 'data/media/a.jpg', 'media/a.jpg', $file, '2031-01-01'),
        'a bag sealed' => new SealBag('bag-1'),
        'a bag opened' => new UnsealBag('bag-1'),
        'a row to come' => new AddMedia($media, 'new'),
        'a row that is there' => new AddMedia($media, 'new', $row),
        'a row removed' => new RemoveMedia('media/a.jpg', $row, $media, 'new'),
        'other words' => new ChangeMedia('7', 'media/a.jpg', ['alt' => ''], ['alt' => 'ü']),
        'a record' => new EditRecord('page', '4', 'Page', 'before', 'after', ['body' => $edits]),
        'a record that waits' => new EditRecord(
            'page',
            '4',
            'Page',
            'before',
            null,
            [],
            [new PromisedEdit('body', 3, 4, 'new', null), new PromisedEdit('body', 9, 4, 'new', '/x')],
        ),
        'a redirect' => new Redirect('old/a', '/new', 308),
        'a redirect taken back' => new DropRedirect('old/a', '/new', 410),
        'a redirect to what the plan brings' => new Redirect('old/a', '/new', 301, 'new'),
        'a row that follows its files' => new ChangeMedia('7', 'b.jpg', ['path' => 'a'], ['path' => 'b'], ['b.jpg']),
        'a row that goes after its files' => new RemoveMedia('a.jpg', $row, files: ['a.jpg', 'a.s.jpg']),
        'a record that names what the plan brings' => new EditRecord(
            'page', '4', 'Page', 'before', 'after', ['body' => $edits], [], null, ['file b.jpg'],
        ),
    ];
}

it('writes itself down and is read back the same', function (string $name): void {
    $step = allSteps()[$name];
    $kept = json_decode(json_encode($step->toArray(), JSON_THROW_ON_ERROR), true);
    $back = $step->kind()->restore($kept);
    expect($back->toArray())
        ->toEqual($step->toArray())
        ->and($back::class)
        ->toBe($step::class)
        ->and($back->title())
        ->toBe($step->title())
        ->and($back->inverse()->toArray())
        ->toEqual($step->inverse()->toArray());
})->with(array_keys(allSteps()));

it('has a step of each kind, and a way to restore it', function (): void {
    expect(
        array_unique(array_map(static fn (Step $s): string => $s->kind()->value, array_values(allSteps()))),
    )->toHaveCount(count(StepKind::cases()));
});

it('leads back where it came from', function (string $name, string $inverse, bool $twice): void {
    $step = allSteps()[$name];
    expect($step->inverse())
        ->toBeInstanceOf($inverse)
        ->and($twice ? $step->inverse()->inverse()->toArray() : null)
        ->toEqual($twice ? $step->toArray() : null);
})->with([
    ['other bytes', WriteFile::class, true],
    ['a new file', DeleteFile::class, false],
    ['a file moved', MoveFile::class, true],
    ['laid to rest', WakeFile::class, true],
    ['woken', RestFile::class, true],
    ['restored elsewhere', RestFile::class, true],
    ['into a bag', UnarchiveFile::class, true],
    ['out of a bag', ArchiveFile::class, true],
    ['a bag sealed', UnsealBag::class, true],
    ['a bag opened', SealBag::class, true],
    ['a row that is there', RemoveMedia::class, true],
    ['a row removed', AddMedia::class, true],
    ['other words', ChangeMedia::class, true],
    ['a record', EditRecord::class, true],
    ['a redirect', DropRedirect::class, true],
    ['a redirect taken back', Redirect::class, true],
]);

it('gives back every byte of a record when its inverse is carried out', function (): void {
    $text = "<p>\xFF\0</p> old";
    $field = allSteps()['a record']->fields['body'];
    expect($field->inverse()->edits->applyTo($field->edits->applyTo($text)))
        ->toBe($text)
        ->and($field->edits->applyTo($text))
        ->toBe("<p>é\0</p> n\xFEw");
});

it('counts references, and not the lengths that are mended for them', function (): void {
    expect(allSteps()['a record']->count())
        ->toBe(0)
        ->and(allSteps()['a record that waits']->count())
        ->toBe(2);
});

it('packs any bytes into what JSON can hold', function (string $bytes): void {
    expect(Bytes::unpack(json_decode(json_encode(Bytes::pack($bytes), JSON_THROW_ON_ERROR), true)))->toBe($bytes);
})->with(['', 'plain', 'ü 🦆', 'nought' => "\0", 'no text' => "a\xFFb", 'long' => str_repeat("\x80", 100)]);

it('makes nothing of what it never packed', function (mixed $packed): void {
    expect(Bytes::unpack($packed))->toBe('');
})->with([[null], [4], [['base64' => '*']], [['x' => 'y']]]);

it('expects the reverse after undo', function (): void {
    $expectation = new Expectation(['a'], ['b'], ['words'], false);
    expect($expectation->inverse())
        ->toEqual(new Expectation(['b'], ['a'], [], false))
        ->and(Expectation::fromArray(json_decode(json_encode($expectation->toArray()), true)))
        ->toEqual($expectation);
});
