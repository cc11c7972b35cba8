<?php

declare(strict_types=1);

use Tests\Core\Plan\KnownFacts;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Idle;
use Ylema\Plan\IdleFile;
use Ylema\Plan\IdleQuestion;
use Ylema\Plan\KeptFile;
use Ylema\Plan\LostSize;
use Ylema\Plan\MediaFacts;
use Ylema\Plan\Refused;
use Ylema\Plan\Resting;
use Ylema\Plan\RestingQuestion;
use Ylema\Plan\Step;
use Ylema\Plan\Steps\Belongings;
use Ylema\Retire\ArchivePlanner;
use Ylema\Retire\RedrawPlanner;
use Ylema\Retire\RedrawRequest;
use Ylema\Retire\RestorePlanner;
use Ylema\Retire\RestoreRequest;
use Ylema\Retire\RestPlanner;
use Ylema\Retire\RestRequest;
use Ylema\Sites\FileState;
use Ylema\Sites\MediaRow;

function idle(string $name, ?string $why = null, bool $isNeeded = false, bool $hasRow = true): Idle
{
    $file = static fn (string $path, bool $isOriginal): IdleFile => new IdleFile(
        $path,
        new FileState(hash('sha256', $path), 1000),
        'image/jpeg',
        null,
        $isOriginal,
    );

    return new Idle(
        1,
        "media/$name.jpg",
        $name,
        [$file("media/$name.jpg", true), $file("media/$name.w80.jpg", false)],
        $hasRow ? new MediaRow('7', ['id' => '7', 'path' => "media/$name.jpg"]) : null,
        $why,
        $isNeeded,
        [['source' => 'age', 'says' => 'for', 'sentence' => 'Old.', 'at' => null]],
    );
}

function resting(string $name, ?string $bag = null): Resting
{
    return new Resting(
        4,
        "media/$name",
        new FileState(hash('sha256', $name), 1000, 1_500_000_000, 0o640, '33:33'),
        '2030-01-01',
        new Belongings("media/$name", $name, 'image/jpeg', null, new MediaRow('7', ['id' => '7'])),
        $bag,
    );
}

/** @return array{list<string>, Ylema\Plan\Outline} each step as `kind path`, with a mark where it is refused */
function plannedRest(object $planner, KnownFacts $facts): array
{
    $steps = $planner->plan($facts);
    $said = [];
    foreach ($steps as $step) {
        $own = $step instanceof Refused ? $step->step : $step;
        expect($own)->toBeInstanceOf(Step::class);
        $said[] = ($step instanceof Refused ? '! ' : '').$own->kind()->value.' '.$own->title();
    }

    return [$said, $steps->getReturn()];
}

it('lays files to rest before their rows, and leaves what is needed', function (): void {
    $facts = new KnownFacts();
    $facts->idle = [[idle('a'), idle('b', 'The code names it.', true), idle('c', 'It came lately.')]];
    [$steps, $outline] = plannedRest(new RestPlanner(new RestRequest(new IdleQuestion())), $facts);
    expect($steps)
        ->toBe([
            'rest-file media/a.jpg',
            'rest-file media/a.w80.jpg',
            '! rest-file media/b.jpg',
            '! rest-file media/c.jpg',
            'remove-media media/a.jpg',
        ])
        ->and($outline->sentence)
        ->toBe('1 item, 2 files, 2 kB leave the public tree; 1 media row.')
        ->and(implode(' ', $outline->notes))
        ->toContain('2031-03-01', '"not found"', '2 items stay');
});

it('lays to rest what somebody was asked about, and never what is needed', function (): void {
    $facts = new KnownFacts();
    $facts->idle = [[idle('b', 'The code names it.', true), idle('c', 'It came lately.', hasRow: false)]];
    [$steps, $outline] = plannedRest(new RestPlanner(new RestRequest(new IdleQuestion(), true, '/pictures')), $facts);
    expect($steps)
        ->toBe([
            '! rest-file media/b.jpg',
            'rest-file media/c.jpg',
            'rest-file media/c.w80.jpg',
            'redirect media/c.jpg',
            'redirect media/c.w80.jpg',
        ])
        ->and(implode(' ', $outline->notes))
        ->toContain('sent on to /pictures', 'asked about first', 'left as it is');
});

it('restores to the place, or offers a free name', function (): void {
    $facts = new KnownFacts();
    $facts->resting = [[resting('a.jpg'), resting('b.jpg', 'bag-1')]];
    [$steps, $outline] = plannedRest(new RestorePlanner(new RestoreRequest(new RestingQuestion([4]))), $facts);
    expect($steps)
        ->toBe(['wake-file media/a.jpg', 'wake-file media/b.jpg', 'add-media media/a.jpg', 'add-media media/b.jpg'])
        ->and(implode(' ', $outline->notes))
        ->toContain('The archive keeps what it has');
});

it('packs a bag and seals it at the end, two of one path apart', function (): void {
    $facts = new KnownFacts();
    $facts->resting = [[resting('a.jpg'), resting('a.jpg')]];
    $planner = new ArchivePlanner(new RestingQuestion(over: '2030-02-01'));
    $payloads = [];
    foreach ($planner->plan($facts) as $step) {
        $payloads[] = $step->payload ?? $step->title();
    }
    expect($payloads)->toBe(['data/media/a.jpg', 'data/_again-1/media/a.jpg', 'bag-1']);
});

it('says so where nothing is there', function (object $planner): void {
    expect(static fn (): array => plannedRest($planner, new KnownFacts()))->toThrow(CannotPlan::class);
})->with([
    fn () => new RestPlanner(new RestRequest(new IdleQuestion())),
    fn () => new RestPlanner(new RestRequest(new IdleQuestion(size: [80, 60]))),
    fn () => new RestorePlanner(new RestoreRequest(new RestingQuestion())),
    fn () => new ArchivePlanner(new RestingQuestion()),
]);

it('keeps what was asked', function (): void {
    $rest = new RestPlanner(new RestRequest(new IdleQuestion(['q' => 'a'], [1], [2], [80, 60]), true, '/x'));
    $restore = new RestorePlanner(new RestoreRequest(new RestingQuestion([1], 2, true, '2030-01-01', [3]), true));
    foreach ([$rest, $restore] as $planner) {
        $kept = json_decode(json_encode($planner->request(), JSON_THROW_ON_ERROR), true);
        expect($planner::of($kept)->request())->toEqual($planner->request());
    }
});

it('draws again what is missing, and says of each other why not', function (): void {
    $media = static fn (int $item, bool $hasOriginal = true): MediaFacts => new MediaFacts(
        '7',
        [new PictureFile("media/$item.jpg", new Size(800, 600), true)],
        $item,
        path: "media/$item.jpg",
        hasOriginal: $hasOriginal,
    );
    $facts = new KnownFacts();
    $facts->originals = [
        'media/1.jpg' => new KeptFile(hash('sha256', '1'), 9000, '1.jpg', 'jpg', new Size(800, 600), true),
    ];
    $facts->lost = [
        new LostSize('media/1.w400.jpg', new Size(400, 300), $media(1)),
        new LostSize('media/1.w900.jpg', new Size(900, 675), $media(1)),
        new LostSize('media/1.odd.jpg', null, $media(1)),
        new LostSize('media/2.w400.jpg', new Size(400, 300), $media(2, false)),
    ];
    [$steps] = plannedRest(new RedrawPlanner(new RedrawRequest()), $facts);
    expect($steps)->toBe([
        'write-file media/1.w400.jpg',
        '! write-file media/1.w900.jpg',
        '! write-file media/1.odd.jpg',
        '! write-file media/2.w400.jpg',
    ]);
    [$steps] = plannedRest(new RedrawPlanner(new RedrawRequest(paths: ['media/1.w400.jpg'])), $facts);
    expect($steps)->toBe(['write-file media/1.w400.jpg']);
});

it('says of renditions whether they can be drawn again', function (): void {
    $facts = new KnownFacts();
    $alone = static fn (string $name): Idle => new Idle(
        1,
        'media/a.jpg',
        'a',
        [new IdleFile($name, new FileState(hash('sha256', $name), 1000), 'image/jpeg', new Size(4, 3), false)],
        null,
        null,
        false,
        [],
    );
    $facts->idle = [[$alone('media/a.w1.jpg'), $alone('media/a.w2.jpg'), $alone('media/a.w3.jpg')]];
    $facts->redraws = ['media/a.w1.jpg' => true, 'media/a.w2.jpg' => false];
    [$steps, $outline] = plannedRest(new RestPlanner(new RestRequest(new IdleQuestion(size: [1, 0]))), $facts);
    expect($steps)
        ->toBe(['rest-file media/a.w1.jpg', 'rest-file media/a.w2.jpg', 'rest-file media/a.w3.jpg'])
        ->and(implode(' ', $outline->notes))
        ->toContain('1 rendition can be drawn again', '1 rendition could not', '1 rendition was not tried');
});
