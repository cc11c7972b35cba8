<?php

declare(strict_types=1);

use App\Models\MediaReference;
use App\Models\Role;
use App\Models\Site;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\Route;

it('lets nobody come to what is of one site by way of another', function (): void {
    $item = $this->item('people/maren-oake.jpg');
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $ids = [
        '{mediaItem}' => $item->id,
        '{reference}' => MediaReference::query()->where('media_item_id', $item->id)->value('id'),
        '{file}' => $item->files()->value('id'),
        '{plan}' => $plan->id,
        '{change}' => $this->apply($plan)->id,
        '{reading}' => $this->site()->readings()->value('id'),
        '{record}' => $this->site()->records()->value('id'),
        '{side}' => 1,
    ];
    $this->touched();
    $other = Site::query()->create([
        ...$this->site()->only(['name', 'address', 'former', 'field_map', 'connection', 'reach_at']),
        'slug' => 'other',
    ]);
    $walked = 0;
    foreach (Route::getRoutes() as $route) {
        $named = array_filter(array_keys($ids), static fn (string $name): bool => str_contains($route->uri(), $name));
        if ($named === [] || ! str_starts_with($route->uri(), 'api/sites/{site}/')) {
            continue;
        }
        $method = array_diff($route->methods(), ['HEAD'])[0];
        $url = '/'.strtr($route->uri(), [...$ids, '{site}' => $other->slug]);
        $status = $this->as(Role::Owner)->json($method, $url)->status();
        expect($status)->toBe(404, "$method $url");
        $walked++;
    }
    expect($walked)->toBeGreaterThan(18);
});

it('answers what is no address of the API in the API\'s words', function (
    string $method,
    string $path,
    int $status,
): void {
    $this->as(Role::Owner);
    $response = $this->call($method, $path, server: ['HTTP_ACCEPT' => 'text/html']);
    expect($response->status())
        ->toBe($status)
        ->and($response->headers->get('Content-Type'))
        ->toBe('application/problem+json')
        ->and($response->json('detail'))
        ->toBeString()
        ->not->toBe('');
})->with([
    ['GET', '/api', 404],
    ['GET', '/api/', 404],
    ['POST', '/api/nothing', 404],
    ['GET', '/api/sites/korrin-bay/nothing', 404],
    ['GET', '/api/sites/%FF', 400],
    ['GET', '/api/%C3%28', 400],
    ['GET', '/api/sites/korrin-bay/find?q=%00', 400],
    ['GET', '/api/sites/korrin-bay/find?%FF=1', 400],
    ['PUT', '/api/sites', 404],
    ['GET', '/api/sites/korrin-bay/media/1/nothing', 404],
    ['GET', '/api/sites/korrin-bay/media/abc', 404],
    ['GET', '/%61pi/nothing', 404],
]);

it('takes nothing but words for signing in', function (mixed $email, mixed $password): void {
    $this->postJson('/api/session', ['email' => $email, 'password' => $password])
        ->assertStatus(422)
        ->assertHeader('Content-Type', 'application/problem+json');
})->with([
    'lists' => [['a'], ['b']],
    'numbers' => [1, 2],
    'nothing' => [null, null],
    'far too much' => [str_repeat('a', 300), str_repeat('b', 100_000)],
]);

it('works as long for an address that nobody has as for one that somebody has', function (): void {
    $hasher = Hash::spy();
    $hasher->shouldReceive('make')->andReturn('$2y$04$'.str_repeat('a', 53));
    $hasher->shouldReceive('check')->andReturn(false);
    foreach (['viewer@korrinbay.example', 'nobody@korrinbay.example'] as $email) {
        $this->postJson('/api/session', ['email' => $email, 'password' => 'wrong'])->assertStatus(422);
    }
    $hasher->shouldHaveReceived('check')->twice();
});

it('tells a browser to run and load only what is its own', function (string $path): void {
    $headers = $this->get($path)->headers;
    $policy = (string) $headers->get('Content-Security-Policy');
    expect($policy)
        ->toContain("default-src 'none'")
        ->toContain("script-src 'self';")
        ->toContain("frame-ancestors 'none'")
        ->toContain("base-uri 'none'")
        ->not->toContain('unsafe-eval')
        ->and($headers->get('X-Content-Type-Options'))
        ->toBe('nosniff')
        ->and($headers->get('Referrer-Policy'))
        ->toBe('same-origin');
})->with(['/', '/api/session', '/api/nothing', '/korrin-bay/media']);

it('keeps the stricter policy of a picture', function (): void {
    $file = $this->item('people/maren-oake.jpg')->files()->value('id');
    $policy = $this->as(Role::Viewer)
        ->get("/api/sites/korrin-bay/files/$file/picture")
        ->headers->get('Content-Security-Policy');
    expect($policy)->toContain('sandbox');
});

it('says whether it can work', function (): void {
    $this->get('/up')
        ->assertOk()
        ->assertJson(['up' => true]);
    config(['database.connections.pgsql.port' => 1]);
    DB::purge();
    try {
        $this->get('/up')
            ->assertStatus(503)
            ->assertHeader('Content-Type', 'application/problem+json')
            ->assertJsonPath('type', '/problems/database-away');
        $this->getJson('/api/session')->assertStatus(503)->assertJsonPath('type', '/problems/database-away');
    } finally {
        config(['database.connections.pgsql.port' => env('DB_PORT')]);
        DB::purge();
    }
});

it('judges a list of any length in a moment', function (string $path, array $body): void {
    $this->as(Role::Owner);
    $spent = static function (Closure $do): float {
        $before = getrusage();
        $do();
        $after = getrusage();

        return $after['ru_utime.tv_sec']
            - $before['ru_utime.tv_sec']
            + ($after['ru_utime.tv_usec'] - $before['ru_utime.tv_usec']) / 1e6;
    };
    $small = $spent(fn () => $this->postJson("/api/$path", []));
    $large = $spent(fn () => $this->postJson("/api/$path", $body)->assertStatus(422));
    // Reading and writing so much JSON takes a moment, too.
    expect($large)->toBeLessThan($small + 3);
})->with([
    'files elsewhere that are none' => ['drafts', ['remote' => array_fill(0, 20_000, 5)]],
    'places that are none' => ['sites/korrin-bay/plans', ['places' => array_fill(0, 100_000, 'x')]],
    'places that are too many' => ['sites/korrin-bay/plans', ['places' => array_fill(0, 200_000, 1)]],
    'places of places' => ['sites/korrin-bay/plans', ['except' => array_fill(0, 100_000, [1])]],
    'decisions that are none' => ['sites/korrin-bay/repairs', ['decisions' => array_fill(0, 100_000, 3)]],
    'families that are none' => ['sites/korrin-bay/repairs', ['causes' => array_fill(0, 100_000, 'moved')]],
]);
