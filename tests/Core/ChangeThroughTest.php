<?php

declare(strict_types=1);

use Random\Engine\Mt19937;
use Random\Randomizer;
use Ylema\Change\Edit;
use Ylema\Change\EditConflict;
use Ylema\Change\Edits;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\FieldEdits;

/*
 * Edits that are taken back among later ones.
 */

function noMend(): Closure
{
    return static fn (Edit $edit): bool => false;
}

function drawnText(Randomizer $random, string $letters, int $length): string
{
    return implode('', array_map(
        static fn (): string => $letters[$random->getInt(0, strlen($letters) - 1)],
        $length > 0 ? range(1, $length) : [],
    ));
}

/** @return Edits of some drawn places of a text */
function drawnEdits(string $text, Randomizer $random): Edits
{
    $edits = [];
    for ($at = $random->getInt(0, 30); $at < strlen($text); $at += $random->getInt(6, 60)) {
        $before = substr($text, $at, $random->getInt(0, 5));
        $edits[] = new Edit($at, $before, drawnText($random, 'abc<"', $random->getInt($before === '' ? 1 : 0, 7)));
        $at += strlen($before);
    }

    return Edits::of($edits);
}

it('takes an older edit back where later ones touched other bytes, in whatever order', function (): void {
    $random = new Randomizer(new Mt19937(7));
    $carried = 0;
    for ($i = 0; $i < 2000; $i++) {
        $text = drawnText($random, 'xyz .&', $random->getInt(20, 120));
        $older = drawnEdits($text, $random);
        $middle = $older->applyTo($text);
        $later = drawnEdits($middle, $random);
        $now = $later->applyTo($middle);
        try {
            $back = $older->inverse()->through($later, noMend());
        } catch (EditConflict) {
            continue;
        }
        $carried++;
        // Taken back in the middle, or never made: the same text. And what is left can be taken back as well.
        $left = $later->through($older->inverse(), noMend());
        expect($back->applyTo($now))->toBe($left->applyTo($text))
            ->and($left->inverse()->applyTo($back->applyTo($now)))->toBe($text)
            ->and($back->inverse()->applyTo($back->applyTo($now)))->toBe($now);
    }
    expect($carried)->toBeGreaterThan(400);
});

it('says where a later edit touched the same bytes', function (int $start, string $before): void {
    $older = Edits::of([new Edit(4, 'old', 'newer')]);
    $older->inverse()->through(Edits::of([new Edit($start, $before, 'x')]), noMend());
})->with([
    'the same' => [4, 'newer'], 'a part' => [5, 'e'], 'its end' => [8, 'r and'], 'more' => [2, 'a newer b'],
    'put in' => [6, ''], 'put before it' => [4, ''], 'put behind it' => [9, ''],
])->throws(EditConflict::class, 'A later edit touched the same bytes');

it('lets its neighbours be', function (): void {
    $text = 'the old end';
    $older = Edits::of([new Edit(4, 'old', 'newer')]);
    $later = Edits::of([new Edit(3, ' ', '__'), new Edit(9, ' ', '--')]);
    $now = $later->applyTo($older->applyTo($text));
    expect($now)->toBe('the__newer--end')
        ->and($older->inverse()->through($later, noMend())->applyTo($now))->toBe('the__old--end');
});

it('mends a length that both had mended', function (): void {
    $text = 's:11:"/a.png /b.png";';
    $older = Edits::of([new Edit(2, '11', '14'), new Edit(6, '/a.png', '/long.png')]);
    $middle = $older->applyTo($text);
    $later = Edits::of([new Edit(2, '14', '9'), new Edit(16, '/b.png', '/b')]);
    $now = $later->applyTo($middle);
    $isMend = static fn (Edit $edit): bool => strlen($edit->before) < 3;
    expect($now)->toBe('s:9:"/long.png /b";')
        ->and($older->inverse()->through($later, $isMend)->applyTo($now))->toBe('s:6:"/a.png /b";');
});

it('carries the edits of a record field by field', function (): void {
    $of = static fn (string $text, Edit ...$edits): FieldEdits => FieldEdits::of($text, Edits::of(array_values($edits)));
    $older = new EditRecord('page', '1', 'P', 'a', 'b', [
        'body' => $of('one two', new Edit(0, 'one', 'eleven')), 'lead' => $of('x', new Edit(0, 'x', 'y')),
    ]);
    $later = new EditRecord('page', '1', 'P', 'b', 'c', ['body' => $of('eleven two', new Edit(7, 'two', '2'))]);
    $inverse = $older->inverse();
    $back = $inverse instanceof EditRecord ? $inverse->through($later) : null;
    expect($back?->before)->toBe('c')
        ->and($back?->after)->toBeNull()
        ->and($back?->fields['body']->edits->applyTo('eleven 2'))->toBe('one 2')
        ->and($back?->fields['lead']->edits->applyTo('y'))->toBe('x')
        ->and($back?->leaving('d')->after)->toBe('d');
});
