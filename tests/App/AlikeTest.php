<?php

declare(strict_types=1);

use App\Media\SideBySide;
use Tests\Core\Imaging\LabelledPairs;

/*
 * Pictures that look alike, told apart at a resolution at which letters live. All labelled pairs are in bench/alike.
 */

it('calls pictures the same only where no word, digit, mark or colour differs', function (
    int $scene,
    array $how,
): void {
    foreach (LabelledPairs::of($scene, $how) as [$isSame, $what, $one, $other]) {
        expect(SideBySide::of($one, $other)?->isSame() ?? false)->toBe($isSame, "scene $scene, $what");
    }
})->with([
    'sizes, types and a digit' => [0, ['two thirds', 'a digit']],
    'a part, and of another' => [2, ['a smaller part', 'a part of another']],
    'a mark, and a label' => [4, ['marked across', 'with and without a label']],
    'a dot on what is nearly of its colour' => [18, ['a dot']],
    'a colour that is no mark' => [14, ['a colour']],
]);
