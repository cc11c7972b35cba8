<?php

declare(strict_types=1);

use Ylema\Plan\Mark;
use Ylema\Plan\StepKind;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\ChangeMedia;
use Ylema\Plan\Steps\DropRedirect;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\PromisedEdit;
use Ylema\Plan\Steps\Redirect;
use Ylema\Plan\Steps\RemoveMedia;
use Ylema\Plan\Steps\RestFile;
use Ylema\Plan\Steps\WakeFile;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Plan\Waiting;
use Ylema\Sites\FileState;
use Ylema\Sites\MediaRow;
use Ylema\Sites\NewMedia;

it('says what each step gives and needs', function (): void {
    $file = new FileState(str_repeat('a', 64), 1);
    $media = new NewMedia('m/a.jpg', 'A', '', null, null, [['path' => 'm/a.s.jpg', 'width' => 1, 'height' => 1]]);
    $promised = new EditRecord('page', '1', 'P', 'x', null, [], [new PromisedEdit('body', 0, 1, 'new')], null, [
        Mark::row('new'), Mark::file('m/a.s.jpg'),
    ]);
    $says = array_map(static fn ($step): array => [$step->gives(), $step->needs()], [
        new WriteFile('m/a.jpg', null, $file),
        new AddMedia($media, 'new'),
        $promised,
        new MoveFile('m/a.jpg', 'n/a.jpg', $file),
        new Redirect('m/a.jpg', '/n/a.jpg', 301, 'n/a.jpg'),
        new ChangeMedia('1', 'n/a.jpg', [], [], ['n/a.jpg']),
        new RestFile('m/a.jpg', $file, '2031-01-01'),
        new RemoveMedia('m/a.jpg', new MediaRow('1', []), files: ['m/a.jpg']),
        new WakeFile('m/a.jpg', $file, '2031-01-01', at: 'm/a-2.jpg'),
        new DropRedirect('m/a.jpg', '/x'),
    ]);
    expect($says)->toBe([
        ['file m/a.jpg', []],
        ['row new', ['file m/a.jpg', 'file m/a.s.jpg']],
        [null, ['row new', 'file m/a.s.jpg']],
        ['file n/a.jpg', ['redirect m/a.jpg']],
        ['redirect m/a.jpg', ['rest m/a.jpg', 'file n/a.jpg']],
        [null, ['file n/a.jpg']],
        ['rest m/a.jpg', []],
        [null, ['rest m/a.jpg']],
        ['file m/a-2.jpg', []],
        [null, ['file m/a.jpg']],
    ]);
});

it('refuses what waits in vain, with the first reason of all', function (): void {
    $file = new FileState(str_repeat('a', 64), 1);
    $waiting = new Waiting();
    $row = new AddMedia(new NewMedia('m/a.jpg', 'A', '', null, null, []), 'new');
    $edit = new EditRecord('page', '1', 'P', 'x', null, [], [new PromisedEdit('body', 0, 1, 'new')]);
    $other = new EditRecord('page', '2', 'Q', 'x', 'y', [], [], null, [Mark::file('m/b.jpg')]);
    expect($waiting->met(new WriteFile('m/b.jpg', null, $file), null))->toBeNull()
        ->and($waiting->met(new WriteFile('m/a.jpg', null, $file), 'The disk is full.'))->toBe('The disk is full.')
        ->and($waiting->met($row, null))->toBe('Not done, because m/a.jpg was not written: the disk is full.')
        ->and($waiting->met($edit, null))->toBe('Not done, because m/a.jpg was not written: the disk is full.')
        ->and($waiting->met($other, null))->toBeNull();
});

it('keeps the first reason also on the way back', function (): void {
    $stays = Waiting::stays('A page', 'Somebody changed it.');
    expect($stays)->toBe('It stays as long as "A page" needs it, which was not taken back: somebody changed it.')
        ->and(Waiting::stays('m/a.jpg', $stays))->toBe($stays)
        ->and(Waiting::together('m/a.jpg', $stays))->toBe($stays)
        ->and(Waiting::together('m/a.jpg', 'It is gone.'))
        ->toBe('It stays as it is, since "m/a.jpg" was not taken back: it is gone.');
});

it('has words for each kind of step that was refused', function (): void {
    foreach (StepKind::cases() as $kind) {
        expect(Waiting::because($kind, 'x', 'Why.'))->toStartWith('Not done, because x ');
    }
});
