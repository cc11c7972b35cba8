<?php

declare(strict_types=1);

use App\Models\Role;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Storage;

function png(int $width, int $height): string
{
    $chunk = static fn (string $type, string $data): string => pack('N', strlen($data))
        .$type
        .$data
        .pack('N', crc32($type.$data));

    return "\x89PNG\r\n\x1a\n"
        .$chunk('IHDR', pack('NNCCCCC', $width, $height, 8, 2, 0, 0, 0))
        .$chunk('IDAT', (string) gzcompress("\0"))
        .$chunk('IEND', '');
}

it('refuses what is no good picture, says why, and stores nothing', function (
    Closure $bytes,
    string $name,
    string $says,
): void {
    $before = Storage::disk('work')->allFiles('uploads');
    $this->as(Role::Maintainer)
        ->post(
            '/api/sites/korrin-bay/uploads',
            ['picture' => UploadedFile::fake()->createWithContent($name, $bytes->call($this))],
            ['Accept' => 'application/json'],
        )
        ->assertStatus(422)
        ->assertHeader('Content-Type', 'application/problem+json')
        ->assertJsonPath('type', '/problems/upload-refused')
        ->assertJson(
            fn ($json) => $json->where('detail', fn (string $detail): bool => str_contains($detail, $says))->etc(),
        );
    expect(Storage::disk('work')->allFiles('uploads'))->toBe($before);
})->with([
    'text' => [fn (): string => 'just words', 'notes.jpg', 'is not a picture'],
    'a page' => [fn (): string => '<!DOCTYPE html><script>alert(1)</script>', 'page.jpg', 'is not a picture'],
    'a program named like a picture' => [fn (): string => '<?php echo 1;', 'shell.php.jpg', 'is not a picture'],
    '0 bytes' => [fn (): string => '', 'empty.png', '0 bytes'],
    'cut off' => [fn (): string => substr($this->jpeg(), 0, 9000), 'cut.jpg', 'part of the file is missing'],
    'cut off inside, with an end stuck on' => [
        fn (): string => substr($this->jpeg(), 0, 9000)."\xFF\xD9",
        'glued.jpg',
        'damaged',
    ],
    'a bomb' => [fn (): string => png(50_000, 50_000), 'bomb.png', '50,000 × 50,000 pixels'],
    'a drawing with a script' => [
        fn (): string => '<svg xmlns="http://www.w3.org/2000/svg"><script>fetch("/")</script></svg>',
        'logo.svg',
        'contains a script',
    ],
    'a drawing with an event' => [
        fn (): string => '<svg xmlns="http://www.w3.org/2000/svg" onload="x()"></svg>',
        'logo.svg',
        'runs on an event',
    ],
    'a drawing with a hidden script link' => [
        fn (): string => '<svg xmlns="http://www.w3.org/2000/svg"><a href="java&#10;script:x()"><circle '
            .'r="4"/></a></svg>',
        'logo.svg',
        'link that runs code',
    ],
    'over the limit' => [fn (): string => str_repeat("\xFF", 41 * 1024 * 1024), 'huge.jpg', 'limit is 40 MB'],
]);

it('takes good pictures of each kind', function (Closure $bytes, string $name, string $extension): void {
    $this->as(Role::Maintainer)
        ->post(
            '/api/sites/korrin-bay/uploads',
            ['picture' => UploadedFile::fake()->createWithContent($name, $bytes->call($this))],
            ['Accept' => 'application/json'],
        )
        ->assertCreated()
        ->assertJsonPath('extension', $extension);
})->with([
    'jpeg, whatever its name says' => [fn (): string => $this->jpeg(), 'face.png', 'jpg'],
    'webp' => [
        fn (): string => self::bytes(Standin\Drawing\Motifs::draw('icon', 1, 64, 64, '')->image, 'webp'),
        'i.webp',
        'webp',
    ],
    'avif' => [
        fn (): string => self::bytes(Standin\Drawing\Motifs::draw('icon', 1, 64, 64, '', 1.0)->image, 'avif'),
        'i.avif',
        'avif',
    ],
    'a plain drawing' => [
        fn (): string => '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20z"/></svg>',
        'mark.svg',
        'svg',
    ],
]);

it('says so when nothing came', function (): void {
    $this->as(Role::Maintainer)
        ->postJson('/api/sites/korrin-bay/uploads')
        ->assertStatus(422)
        ->assertJsonPath('type', '/problems/upload-refused');
});

it('gives nobody what somebody else sent, nor to another site', function (): void {
    $token = $this->sent($this->jpeg(1200, 800), 'mine.jpg', Role::Maintainer);
    $item = $this->item('people/maren-oake.jpg')->id;
    $swap = ['from' => $item, 'manner' => 'new-reference', 'upload' => $token];
    $asks = fn (): array => [
        $this->getJson("/api/sites/korrin-bay/uploads/$token")->status(),
        $this->getJson("/api/sites/korrin-bay/uploads/$token/picture")->status(),
        $this->getJson("/api/sites/korrin-bay/media/$item/fit?manner=new-reference&upload=$token")->status(),
        $this->getJson("/api/sites/korrin-bay/bags/files?upload=$token")->status(),
    ];
    $this->as(Role::Owner);
    expect($asks())->toBe([422, 422, 422, 422]);
    $this->postJson('/api/sites/korrin-bay/plans', $swap)->assertStatus(422)
        ->assertJsonPath('detail', 'The uploaded picture is no longer here. Send it again.');
    $this->as(Role::Maintainer);
    expect($asks())->toBe([200, 200, 200, 200]);
    $other = $this->site()->replicate()->fill(['slug' => 'other', 'name' => 'Other']);
    $other->save();
    expect($this->getJson("/api/sites/other/uploads/$token")->status())->toBe(422);
    $other->delete();
});
