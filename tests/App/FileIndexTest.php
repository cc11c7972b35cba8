<?php

declare(strict_types=1);

use App\Reading\DbFileIndex;
use Illuminate\Support\Facades\DB;
use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\Resolver;

/*
 * The resolver's questions on PostgreSQL: what core asks of a list, asked of the index.
 */

/** @param  array<string, mixed>  $more */
function indexFile(object $test, string $path, array $more = []): void
{
    DB::table('files')->insert([
        'site_id' => $test->site()->id,
        'path' => $path,
        'fold' => Resolver::fold($path),
        'name_fold' => Resolver::foldName($path),
        'size' => 9,
        'modified' => 1,
        'sha256' => hash('sha256', $path),
        'mime' => 'image/jpeg',
        ...$more,
    ]);
}

function fileIndex(object $test): DbFileIndex
{
    return new DbFileIndex($test->site()->id);
}

beforeEach(function (): void {
    DB::beginTransaction();
});

afterEach(function (): void {
    DB::rollBack();
});

it('knows which files exist, byte for byte', function (): void {
    indexFile($this, 'media/x/Pier "1".jpg');
    indexFile($this, 'media/x/ü,{b}\\c.jpg');
    expect(
        fileIndex($this)->existing([
            'media/x/Pier "1".jpg',
            'media/x/pier "1".jpg',
            'media/x/ü,{b}\\c.jpg',
            'media/x/no.jpg',
        ]),
    )->toBe(['media/x/Pier "1".jpg' => 9, 'media/x/ü,{b}\\c.jpg' => 9]);
});

it('finds files by what they are mistaken for', function (): void {
    indexFile($this, 'media/x/Pier.JPG');
    indexFile($this, "media/x/u\u{308}ber.jpg");
    indexFile($this, 'media/x/a b.jpg');
    $index = fileIndex($this);
    foreach (
        [
            'media/x/pier.jpg' => 'media/x/Pier.JPG',
            'media/x/über.jpg' => "media/x/u\u{308}ber.jpg",
            'media/x/a%20b.jpg' => 'media/x/a b.jpg',
        ] as $asked => $meant
    ) {
        expect($index->folded([Resolver::fold($asked)]))->toBe([Resolver::fold($asked) => [$meant]]);
    }
});

it('finds files of one name in all folders', function (): void {
    indexFile($this, 'media/x/one-of-two.jpg');
    indexFile($this, 'media/y/One-Of-Two.jpg');
    expect(fileIndex($this)->named([Resolver::foldName('elsewhere/one-of-two.jpg'), 'no.jpg']))->toBe([
        'one-of-two.jpg' => ['media/x/one-of-two.jpg', 'media/y/One-Of-Two.jpg'],
    ]);
});

it('finds files that differ in nothing but their extension', function (): void {
    indexFile($this, 'media/x/pier.v2.webp');
    indexFile($this, 'media/x/pier.v2.avif');
    indexFile($this, 'media/x.y/pier');
    $index = fileIndex($this);
    expect($index->stemmed([Resolver::stem('media/x/pier.v2.jpg')]))
        ->toBe(['media/x/pier.v2' => ['media/x/pier.v2.avif', 'media/x/pier.v2.webp']])
        // A dot in a folder's name begins no extension.
        ->and($index->stemmed([Resolver::stem('media/x.y/pier.jpg')]))
        ->toBe(['media/x.y/pier' => ['media/x.y/pier']]);
});

it('knows the original of a rendition that a media row lists, whether it exists or not', function (): void {
    $item = $this->item('people/maren-oake.jpg');
    DB::table('media_items')
        ->where('id', $item->id)
        ->update(['renditions' => json_encode(['media/people/maren-small.png', $item->path])]);
    expect(fileIndex($this)->listed(['media/people/maren-small.png', $item->path, 'media/people/no.png']))->toBe([
        'media/people/maren-small.png' => $item->path,
    ]);
});

it('knows no original that is gone itself', function (): void {
    $item = $this->item('people/maren-oake.jpg');
    DB::table('media_items')
        ->where('id', $item->id)
        ->update(['renditions' => json_encode(['media/people/maren-small.png'])]);
    DB::table('files')->where('path', $item->path)->delete();
    expect(fileIndex($this)->listed(['media/people/maren-small.png']))->toBe([]);
});

it('finds a handful of files with the bytes that a file had which is gone', function (): void {
    $bytes = hash('sha256', 'the same');
    foreach (range(1, 12) as $i) {
        indexFile($this, sprintf('media/x/copy-%02d.jpg', $i), ['sha256' => $bytes]);
    }
    DB::table('former_files')->insert([
        'site_id' => $this->site()->id,
        'path' => 'media/old/pier.jpg',
        'sha256' => $bytes,
        'gone_at' => now(),
    ]);
    $found = fileIndex($this)->sameBytes(['media/old/pier.jpg', 'media/old/no.jpg']);
    expect(array_keys($found))
        ->toBe(['media/old/pier.jpg'])
        ->and($found['media/old/pier.jpg'])
        ->toHaveCount(8)
        ->and($found['media/old/pier.jpg'][0])
        ->toBe('media/x/copy-01.jpg');
});

it('asks nothing about what is no text', function (): void {
    $index = fileIndex($this);
    foreach (['existing', 'folded', 'named', 'stemmed', 'listed', 'sameBytes'] as $question) {
        expect($index->$question(["media/\xFF.jpg", "media/a\0b.jpg"]))->toBe([], $question);
    }
});

it('knows nothing of the files of another site', function (): void {
    $other = DB::table('sites')->insertGetId([
        'slug' => 'other',
        'name' => 'Other',
        'address' => 'https://other.example/',
        'field_map' => '',
        'connection' => '',
    ]);
    indexFile($this, 'media/x/pier.jpg');
    $index = new DbFileIndex($other);
    expect($index->existing(['media/x/pier.jpg']))
        ->toBe([])
        ->and($index->folded(['media/x/pier.jpg']))
        ->toBe([])
        ->and($index->named(['pier.jpg']))
        ->toBe([])
        ->and($index->stemmed(['media/x/pier']))
        ->toBe([]);
});

it('answers the resolver as a list would', function (string $address, OutcomeKind $kind, ?string $path): void {
    indexFile($this, 'media/x/Pier.jpg');
    indexFile($this, 'media/x/a b.jpg');
    indexFile($this, 'media/x/log.webp');
    indexFile($this, 'media/x/moved-here.jpg');
    $resolver = new Resolver(fileIndex($this), new RenditionNames('{name}-{width}x{height}.{ext}'), ['media/']);
    $outcome = $resolver->resolve([$this->site()->addresses()->locate($address)])[0];
    expect([$outcome->kind, $outcome->path])->toBe([$kind, $path]);
})->with([
    'as it is' => ['/media/x/Pier.jpg', OutcomeKind::Found, 'media/x/Pier.jpg'],
    'letter case' => ['/media/x/PIER.jpg', OutcomeKind::LetterCase, 'media/x/Pier.jpg'],
    'encoded twice' => ['/media/x/a%2520b.jpg', OutcomeKind::Encoding, 'media/x/a b.jpg'],
    'another extension' => ['/media/x/log.jpg', OutcomeKind::ChangedExtension, 'media/x/log.webp'],
    'another folder' => ['/media/was/moved-here.jpg', OutcomeKind::Moved, 'media/x/moved-here.jpg'],
    'a size that was never made' => ['/media/x/Pier-20x10.jpg', OutcomeKind::MissingRendition, 'media/x/Pier.jpg'],
    'nowhere' => ['/media/x/nowhere.jpg', OutcomeKind::MissingFile, null],
    'in an encoding that is no text' => ['/media/x/%FF%FE.jpg', OutcomeKind::MissingFile, null],
]);
