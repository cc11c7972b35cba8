<?php

declare(strict_types=1);

use Tests\Core\Plan\KnownFacts;
use Ylema\Addresses\OutcomeKind;
use Ylema\Imaging\PictureFile;
use Ylema\Imaging\Size;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Finding;
use Ylema\Plan\MediaFacts;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\RecordUses;
use Ylema\Plan\Refused;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;
use Ylema\Repair\RepairPlanner;
use Ylema\Repair\RepairRequest;
use Ylema\Sites\FileState;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;
use Ylema\Usage\RecordState;

/**
 * A record whose references are found wrong as said.
 *
 * @param  array<string, Finding>  $findings value of the reference → what is wrong with it
 */
function wrongRecord(
    string $key,
    string $body,
    array $findings,
    Notation $notation = Notation::Html,
    ?string $known = null,
): RecordUses {
    $rules = new Rules(mediaFolders: ['/media/']);
    $record = new SourceRecord('page', $key, "Page $key", null, RecordState::Live, [
        new SourceField('body', $body, $notation, $rules),
    ]);
    $uses = [];
    foreach ((new FieldReader())->read($body, $notation, $rules)->references as $reference) {
        $finding = $findings[$reference->value] ?? null;
        if ($finding !== null) {
            $uses[] = new PlacedUse('body', $reference->start, $reference->length, $finding->path, $finding);
        }
    }

    return new RecordUses('page', $key, "Page $key", $known ?? $record->contentHash, $uses, $record);
}

/** @return array{list<object>, Ylema\Plan\Outline} */
function mend(KnownFacts $facts, RepairRequest $request): array
{
    // A plan is kept as plain values, and made again from them.
    $planner = RepairPlanner::of(json_decode((string) json_encode((new RepairPlanner($request))->request()), true));
    $steps = $planner->plan($facts);

    return [iterator_to_array($steps, false), $steps->getReturn()];
}

/** What a step makes of the body of its record. */
function mended(EditRecord $step, RecordUses $uses): string
{
    return $step->fields['body']->edits->applyTo($uses->record->fields[0]->text);
}

function formerly(string $path): Finding
{
    return new Finding(OutcomeKind::FormerAddress, $path, $path);
}

it('writes the address now in the way of its neighbours', function (
    string $body,
    string $after,
    Notation $notation,
): void {
    $uses = wrongRecord(
        '1',
        $body,
        [
            'https://old.example/bay/media/a.jpg' => formerly('media/a.jpg'),
            'https://old.example/bay/media/a.jpg?v=2' => formerly('media/a.jpg'),
            'https://old.example/bay/media/i.svg#sun' => formerly('media/i.svg'),
            'http://korrinbay.example/media/a.jpg' => new Finding(
                OutcomeKind::InsecureScheme,
                'media/a.jpg',
                'media/a.jpg',
            ),
            '/media/A.JPG' => new Finding(OutcomeKind::LetterCase, 'media/A.JPG', 'media/a.jpg', ['media/a.jpg']),
        ],
        $notation,
    );
    [$steps, $outline] = mend(new KnownFacts(uses: [$uses]), new RepairRequest(OutcomeKind::findings()));
    expect($steps)
        ->toHaveCount(1)
        ->and(mended($steps[0], $uses))
        ->toBe($after)
        ->and($outline->expectation->everywhere)
        ->toBeFalse();
})->with([
    'alone' => [
        '<img src="https://old.example/bay/media/a.jpg">',
        '<img src="https://korrinbay.example/media/a.jpg">',
        Notation::Html,
    ],
    'among root-relative ones' => [
        '<img src="/media/b.jpg"><img class=x src=https://old.example/bay/media/a.jpg>',
        '<img src="/media/b.jpg"><img class=x src=/media/a.jpg>',
        Notation::Html,
    ],
    'among whole ones' => [
        '<img src="https://korrinbay.example/media/b.jpg"><img src="https://old.example/bay/media/a.jpg">',
        '<img src="https://korrinbay.example/media/b.jpg"><img src="https://korrinbay.example/media/a.jpg">',
        Notation::Html,
    ],
    'with a version' => [
        '<img src="https://old.example/bay/media/a.jpg?v=2">',
        '<img src="https://korrinbay.example/media/a.jpg?v=2">',
        Notation::Html,
    ],
    'with a part' => [
        '<svg><use href="https://old.example/bay/media/i.svg#sun"/></svg>',
        '<svg><use href="https://korrinbay.example/media/i.svg#sun"/></svg>',
        Notation::Html,
    ],
    'plain http' => [
        '<img src="http://korrinbay.example/media/a.jpg">',
        '<img src="https://korrinbay.example/media/a.jpg">',
        Notation::Html,
    ],
    'another case' => ['<img src="/media/A.JPG" alt="A">', '<img src="/media/a.jpg" alt="A">', Notation::Html],
    'in a sheet' => [
        'a{background:url("https://old.example/bay/media/a.jpg")}',
        'a{background:url("https://korrinbay.example/media/a.jpg")}',
        Notation::Css,
    ],
    'in json' => [
        '{"a":"https:\/\/old.example\/bay\/media\/a.jpg"}',
        '{"a":"https:\/\/korrinbay.example\/media\/a.jpg"}',
        Notation::Json,
    ],
]);

it('leaves what is open, says how much that is, and mends what was decided', function (): void {
    $missing = new Finding(OutcomeKind::MissingFile, 'media/gone.jpg', null, ['media/x/gone.jpg', 'media/y/gone.jpg']);
    $uses = wrongRecord('1', '<img src="/media/gone.jpg"><img src="https://old.example/bay/media/a.jpg">', [
        '/media/gone.jpg' => $missing,
        'https://old.example/bay/media/a.jpg' => formerly('media/a.jpg'),
    ]);
    $facts = new KnownFacts(uses: [$uses]);
    $kinds = [OutcomeKind::MissingFile, OutcomeKind::FormerAddress];
    [$steps, $outline] = mend($facts, new RepairRequest($kinds));
    expect(mended($steps[0], $uses))
        ->toContain('"/media/gone.jpg"')
        ->and($outline->notes)
        ->toBe(['1 finding of these families has no single answer and stays as it is.'])
        ->and($outline->title)
        ->toBe('Mend: Former address (1)')
        ->and($outline->sentence)
        ->toBe('1 reference in 1 record.')
        ->and([$outline->expectation->unsaid, $outline->expectation->said])
        ->toBe([['https://old.example/bay/media/a.jpg'], ['/media/a.jpg']]);
    [$steps] = mend($facts, new RepairRequest($kinds, ['media/gone.jpg' => 'media/y/gone.jpg']));
    expect(mended($steps[0], $uses))->toContain('"/media/y/gone.jpg"')->not->toContain('old.example');
    [$steps] = mend($facts, new RepairRequest($kinds, ['media/gone.jpg' => 'media/y/gone.jpg'], false));
    expect(mended($steps[0], $uses))->toContain('"/media/y/gone.jpg"')->toContain('old.example');
});

it('writes no path where an id is said', function (): void {
    $gone = new Finding(OutcomeKind::MissingFile, '12', null, [], 3, false);
    $uses = wrongRecord('1', '12', ['12' => $gone], Notation::MediaId);
    $request = new RepairRequest([OutcomeKind::MissingFile], ['12' => 'media/a.jpg']);
    expect($uses->uses)
        ->toHaveCount(1)
        ->and(fn () => mend(new KnownFacts(uses: [$uses]), $request))
        ->toThrow(CannotPlan::class, 'None of these findings');
});

it('draws missing sizes again, each once, and leaves the references', function (): void {
    $size = static fn (string $path, ?int $item = 1): Finding => new Finding(
        OutcomeKind::MissingRendition,
        $path,
        'media/a.jpg',
        ['media/a.jpg'],
        $item,
    );
    $item = new MediaFacts('7', [new PictureFile('media/a.jpg', new Size(1000, 500), true)], 1, 'A', 'media/a.jpg');
    $lost = new MediaFacts('8', [new PictureFile('media/b.jpg', null, true)], 2, 'B', 'media/b.jpg', false);
    $uses = wrongRecord(
        '1',
        str_repeat('<img src="/media/a.w320.jpg">', 2)
            .'<img src="/media/a.w2000.jpg"><img src="/media/b.w320.jpg">',
        [
            '/media/a.w320.jpg' => $size('media/a.w320.jpg'),
            '/media/a.w2000.jpg' => $size('media/a.w2000.jpg'),
            '/media/b.w320.jpg' => $size('media/b.w320.jpg', 2),
        ],
    );
    $facts = new KnownFacts([1 => $item, 2 => $lost], [$uses], ['media/a.jpg' => new FileState('a', 9)]);
    [$steps, $outline] = mend($facts, new RepairRequest([OutcomeKind::MissingRendition]));
    expect($steps)
        ->toHaveCount(1)
        ->and($steps[0])
        ->toBeInstanceOf(WriteFile::class)
        ->and([$steps[0]->path, (string) $facts->drawn[0]->size])
        ->toBe(['media/a.w320.jpg', '320 × 160'])
        ->and($outline->sentence)
        ->toBe('1 size drawn again.')
        ->and($outline->notes)
        ->toBe(['2 missing sizes cannot be drawn: the original is smaller, or gone, or no picture.']);
});

it('leaves out a record that somebody changed, and says so', function (): void {
    $uses = wrongRecord(
        '1',
        '<img src="https://old.example/bay/media/a.jpg">',
        [
            'https://old.example/bay/media/a.jpg' => formerly('media/a.jpg'),
        ],
        known: 'before',
    );
    [$steps] = mend(new KnownFacts(uses: [$uses]), new RepairRequest([OutcomeKind::FormerAddress]));
    expect($steps[0])->toBeInstanceOf(Refused::class)->and($steps[0]->why)->toContain('changed since');
});

it('says when there is nothing that it could do', function (
    RepairRequest $request,
    array $findings,
    string $says,
): void {
    $uses = wrongRecord('1', '<img src="/media/gone.jpg">', $findings);
    expect(fn () => mend(new KnownFacts(uses: [$uses]), $request))->toThrow(CannotPlan::class, $says);
})->with([
    'nothing asked' => [new RepairRequest([]), [], 'Say which findings'],
    'nothing wrong' => [new RepairRequest([OutcomeKind::MissingFile]), [], 'There is nothing to mend'],
    'nothing sure' => [
        new RepairRequest([OutcomeKind::MissingFile]),
        ['/media/gone.jpg' => new Finding(OutcomeKind::MissingFile, 'media/gone.jpg')],
        'None of these findings',
    ],
]);

it('takes nothing for a request that is none', function (): void {
    $request = RepairRequest::fromArray([
        'kinds' => ['moved', 'found', 'nonsense', 7],
        'decisions' => ['a' => 'b', 'c' => 1],
    ]);
    expect($request->kinds)
        ->toBe([OutcomeKind::Moved])
        ->and($request->decisions)
        ->toBe(['a' => 'b']);
});

it('takes out what a person says, puts files back, and follows rules where they lead to something', function (): void {
    $html = '<p><img src="/media/gone.jpg"></p><img src="/media/kept.jpg"><img src="/media/old/a.jpg">'
        .'<img src="/media/old/b.jpg"><a href="/walks">x</a>';
    $missing = static fn (string $path): Finding => new Finding(OutcomeKind::MissingFile, $path);
    $uses = wrongRecord('1', $html, [
        '/media/gone.jpg' => $missing('media/gone.jpg'),
        '/media/kept.jpg' => $missing('media/kept.jpg'),
        '/media/old/a.jpg' => $missing('media/old/a.jpg'),
        '/media/old/b.jpg' => $missing('media/old/b.jpg'),
        '/walks' => new Finding(OutcomeKind::DeadLink, 'walks', leads: true),
    ]);
    $facts = new KnownFacts(
        uses: [$uses],
        files: ['media/new/a.jpg' => new FileState('a', 1)],
        kept: ['media/kept.jpg' => new FileState('k', 7)],
    );
    $request = new RepairRequest(
        [OutcomeKind::MissingFile, OutcomeKind::DeadLink],
        ['media/gone.jpg' => null, 'media/kept.jpg' => 'media/kept.jpg', 'walks' => 'walks/all'],
        true,
        [['media/old/', 'media/new/']],
    );
    $plan = RepairPlanner::of((new RepairPlanner($request))->request())->plan($facts);
    $steps = iterator_to_array($plan, false);
    expect($steps[0]->fields['body']->edits->applyTo($html))
        ->toBe(
            '<img src="/media/kept.jpg"><img src="/media/new/a.jpg"><img src="/media/old/b.jpg">'
                .'<a href="/walks/all">x</a>',
        )
        ->and($steps[1])
        ->toEqual(new WriteFile('media/kept.jpg', null, new FileState('k', 7)))
        ->and($plan->getReturn()->sentence)
        ->toBe('3 references in 1 record, 1 file put back.')
        ->and($plan->getReturn()->notes[0])
        ->toContain('1 finding of these families has no single answer');
});
