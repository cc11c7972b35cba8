<?php

declare(strict_types=1);

use Tests\Core\Plan\KnownFacts;
use Ylema\Addresses\OutcomeKind;
use Ylema\Adopt\AdoptPlanner;
use Ylema\Adopt\AdoptRequest;
use Ylema\Adopt\DataUri;
use Ylema\Imaging\Size;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Finding;
use Ylema\Plan\ForeignPicture;
use Ylema\Plan\KeptFile;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\RecordUses;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;
use Ylema\Sites\SourceField;
use Ylema\Sites\SourceRecord;
use Ylema\Usage\RecordState;

/** A record whose foreign and pasted pictures are findings. */
function foreignRecord(string $html, string $key = '1'): RecordUses
{
    $fields = [new SourceField('body', $html, Notation::Html, new Rules())];
    $record = new SourceRecord('page', $key, "Page $key", "p$key", RecordState::Live, $fields);
    $uses = [];
    foreach ((new FieldReader())->read($html, Notation::Html, new Rules())->references as $reference) {
        $isPasted = str_starts_with($reference->value, 'data:');
        if ($isPasted || str_starts_with($reference->value, 'https://pics.example/')) {
            $uses[] = new PlacedUse('body', $reference->start, $reference->length, null, new Finding(
                $isPasted ? OutcomeKind::Pasted : OutcomeKind::ForeignHost,
                $isPasted ? 'pasted:'.md5($reference->value) : $reference->value,
            ));
        }
    }

    return new RecordUses('page', $key, "Page $key", $record->contentHash, $uses, $record);
}

function foreignPicture(string $url, string $bytes, int $width = 1000): ForeignPicture
{
    return new ForeignPicture(
        $url,
        new KeptFile(hash('sha256', $bytes), strlen($bytes), basename($url), 'jpg', new Size($width, 500), true),
        'A gull',
        'Over the pier',
        "From $url",
    );
}

/** @return array{list<object>, \Ylema\Plan\Outline} */
function adopted(AdoptRequest $request, KnownFacts $facts): array
{
    $plan = AdoptPlanner::of((new AdoptPlanner($request))->request())->plan($facts);
    $steps = iterator_to_array($plan, false);

    return [$steps, $plan->getReturn()];
}

it('makes an item of each picture, in the sizes of the site, and has the places name it', function (): void {
    $facts = new KnownFacts(
        uses: [
            foreignRecord('<a href="https://pics.example/big.jpg?x=1"><img src="https://pics.example/gull.jpg"></a>'),
        ],
        foreign: [
            foreignPicture('https://pics.example/gull.jpg', 'a', 300),
            foreignPicture('https://pics.example/big.jpg?x=1', 'b'),
        ],
    );
    [$steps, $outline] = adopted(new AdoptRequest(['pics.example']), $facts);
    $files = array_values(array_filter($steps, static fn (object $s): bool => $s instanceof WriteFile));
    $rows = array_values(array_filter($steps, static fn (object $s): bool => $s instanceof AddMedia));
    $edits = array_values(array_filter($steps, static fn (object $s): bool => $s instanceof EditRecord));
    expect(array_map(static fn (WriteFile $f): string => $f->path, $files))
        ->toBe([
            'media/2026/gull.jpg',
            'media/2026/gull.w160.jpg',
            'media/2026/big.jpg',
            'media/2026/big.w160.jpg',
            'media/2026/big.w480.jpg',
        ])
        ->and($rows[0]->media->alt)
        ->toBe('A gull')
        ->and($rows[0]->media->caption)
        ->toBe('Over the pier')
        ->and($rows[0]->media->credit)
        ->toBe('From https://pics.example/gull.jpg')
        ->and($rows[0]->media->renditions)
        ->toBe([['path' => 'media/2026/gull.w160.jpg', 'width' => 160, 'height' => 267]])
        ->and($edits[0]->fields['body']->edits->applyTo($facts->uses[0]->record->fields[0]->text))
        ->toBe(
            '<a href="https://korrinbay.example/media/2026/big.jpg">'
            .'<img src="https://korrinbay.example/media/2026/gull.jpg"></a>',
        )
        ->and($outline->sentence)
        ->toBe('2 new items, 2 references in 1 record.');
});

it('stores nothing twice: not what is here, and not what two addresses give', function (): void {
    $html = '<img src="/media/x.jpg"><img src="https://pics.example/a.jpg"><img src="https://pics.example/b.jpg">'
        .'<img src="https://pics.example/c.jpg">';
    $facts = new KnownFacts(
        uses: [foreignRecord($html)],
        foreign: [
            foreignPicture('https://pics.example/a.jpg', 'same', 100),
            foreignPicture('https://pics.example/b.jpg', 'same', 100),
            foreignPicture('https://pics.example/c.jpg', 'here', 100),
        ],
        here: [hash('sha256', 'here') => 'media/own.jpg'],
    );
    [$steps, $outline] = adopted(new AdoptRequest(['pics.example']), $facts);
    $edit = $steps[count($steps) - 1];
    expect(array_filter($steps, static fn (object $s): bool => $s instanceof AddMedia))
        ->toHaveCount(1)
        // In the way of its neighbour, which says no address.
        ->and($edit->fields['body']->edits->applyTo($html))
        ->toBe(
            '<img src="/media/x.jpg"><img src="/media/2026/a.jpg"><img src="/media/2026/a.jpg">'
                .'<img src="/media/own.jpg">',
        )
        ->and($outline->sentence)
        ->toContain('1 picture that is here already');
});

it('gives names that are free, and safe in addresses', function (): void {
    $facts = new KnownFacts(
        uses: [
            foreignRecord(
                '<img src="https://pics.example/x/Möwe%20%26%20Kai.jpg">'
                    .'<img src="https://pics.example/y/Möwe%20%26%20Kai.jpg">',
            ),
        ],
        foreign: [
            new ForeignPicture(
                'https://pics.example/x/Möwe%20%26%20Kai.jpg',
                new KeptFile('1', 1, 'Möwe & Kai.jpg', 'jpg', new Size(90, 90), true),
            ),
            new ForeignPicture(
                'https://pics.example/y/Möwe%20%26%20Kai.jpg',
                new KeptFile('2', 1, 'Möwe & Kai.jpg', 'jpg', new Size(90, 90), true),
            ),
        ],
    );
    [$steps] = adopted(new AdoptRequest(['pics.example']), $facts);
    expect([$steps[0]->path, $steps[2]->path])->toBe(['media/2026/mowe-kai.jpg', 'media/2026/mowe-kai-2.jpg']);
});

it('makes files of pictures that lie in the text itself, and leaves what is none', function (): void {
    $good = 'data:image/png;base64,'.base64_encode('a picture');
    $bad = 'data:image/png;base64,'.base64_encode('bad bytes');
    $html = "<img alt='A sketch' src='$good'><img src='$bad'><img src='$good'>";
    $facts = new KnownFacts(uses: [foreignRecord($html)]);
    [$steps, $outline] = adopted(new AdoptRequest([], true), $facts);
    $edit = $steps[count($steps) - 1];
    expect($steps[0]->path)
        ->toBe('media/2026/a-sketch.png')
        ->and($edit->fields['body']->edits->applyTo($html))
        ->toBe(
            "<img alt='A sketch' src='/media/2026/a-sketch.png'><img src='$bad'>"
                ."<img src='/media/2026/a-sketch.png'>",
        )
        ->and($outline->notes[0])
        ->toContain('1 picture in the text cannot be taken: "pasted picture" is no picture.')
        ->and($outline->expectation->unsaid)
        ->not->toContain($bad);
});

it('has nothing to bring home where nothing was fetched', function (): void {
    adopted(
        new AdoptRequest(['pics.example']),
        new KnownFacts(uses: [foreignRecord('<img src="https://pics.example/a.jpg">')]),
    );
})->throws(CannotPlan::class, 'Fetch them first');

it('unpacks addresses that hold their file', function (string $value, ?string $type, ?string $bytes): void {
    $data = DataUri::parse($value);
    expect([$data?->type, $data?->bytes])->toBe([$type, $bytes]);
})->with([
    'in base64' => ['data:image/png;base64,QUJD', 'image/png', 'ABC'],
    'with blanks and escapes' => ["data:image/png;base64,QU\n%4AD", 'image/png', base64_decode('QUJD')],
    'as it is' => ['data:image/svg+xml;charset=utf-8,%3Csvg%2F%3E', 'image/svg+xml', '<svg/>'],
    'damaged' => ['data:image/png;base64,Q*', null, null],
    'empty' => ['data:image/png,', null, null],
    'another address' => ['https://x.example/data:image/png,', null, null],
]);
