<?php

declare(strict_types=1);

use App\Models\MediaReference;
use App\Models\Role;
use App\Models\User;
use App\Reading\ReadSite;
use Illuminate\Routing\Route as Line;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;
use Tests\App\Schema;

/** @return array<string, mixed> */
function document(object $test): array
{
    return $test->getJson('/api/openapi.json')->assertOk()->json();
}

/** @return list<array{string, string, Line}> method, path below /api, route */
function apiRoutes(): array
{
    $routes = [];
    foreach (Route::getRoutes()->getRoutes() as $route) {
        if (str_starts_with($route->uri(), 'api/') && ! str_contains($route->uri(), '{any}')) {
            foreach (array_diff($route->methods(), ['HEAD']) as $method) {
                $routes[] = [strtolower($method), substr($route->uri(), 3), $route];
            }
        }
    }

    return $routes;
}

it('describes every route and no other', function (): void {
    $described = [];
    foreach (document($this)['paths'] as $path => $item) {
        foreach (array_intersect(array_keys($item), ['get', 'post', 'put', 'patch', 'delete']) as $method) {
            $described[] = "$method $path";
        }
    }
    $there = array_map(static fn (array $r): string => "{$r[0]} {$r[1]}", apiRoutes());
    sort($described);
    sort($there);
    expect($described)->toBe($there)->and(count($there))->toBeGreaterThan(25);
});

it('asks on each route for the role that the document names', function (): void {
    $document = document($this);
    foreach (apiRoutes() as [$method, $path, $route]) {
        $role = $document['paths'][$path][$method]['x-role'];
        $middleware = $route->gatherMiddleware();
        $needs = match ($role) {
            'none' => [],
            'viewer' => ['auth', 'can:look'],
            'maintainer' => ['auth', 'can:look', 'can:maintain'],
            default => ['auth', 'can:look', 'can:own'],
        };
        expect(
            array_values(
                array_filter($middleware, static fn (string $m): bool => $m === 'auth' || str_starts_with($m, 'can:')),
            ),
        )->toBe($needs, "$method $path");
    }
});

function aDraft(): int
{
    return App\Models\Draft::query()->create([
        'said' => [
            'name' => 'Lane',
            'address' => 'https://lane.example/',
            'content' => '/nowhere',
            'files' => '/nowhere',
        ],
    ])->id;
}

it('lets each role do what it may on each route, and nothing more', function (): void {
    $document = document($this);
    // Looking at every picture is none of the questions here, and takes most of a minute.
    Illuminate\Support\Facades\Queue::fake([App\Retire\LookAtPictures::class]);
    // Real things to act on, so that it is the role that decides and not their absence.
    $this->touched();
    $this->site()->update(['reach_at' => ['korrinbay.example' => 'http://127.0.0.1:9']]);
    $change = $this->undo($this->apply($this->plan('people/maren-oake.jpg', 'people/isla-ferrant.jpg')));
    $item = $this->item('people/maren-oake.jpg');
    $this->apply(
        app(App\Plans\PlanDesk::class)->make(
            $this->site(),
            new Ylema\Retire\RestPlanner(
                new Ylema\Retire\RestRequest(
                    new Ylema\Plan\IdleQuestion(items: [$this->item('archive/left-09.jpg')->id]),
                    true,
                ),
            ),
            null,
        ),
    );
    $ids = [
        '{site}' => 'korrin-bay',
        '{mediaItem}' => $item->id,
        '{reference}' => MediaReference::query()->where('media_item_id', $item->id)->value('id'),
        '{file}' => $item->files()->value('id'),
        '{plan}' => $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg')->id,
        '{change}' => $change->id,
        '{reading}' => $this->site()->readings()->value('id'),
        '{record}' => $this->site()->records()->value('id'),
        '{side}' => 1,
        '{draft}' => aDraft(),
        '{version}' => mapVersion($this),
        '{person}' => App\Models\User::query()->where('email', 'viewer@korrinbay.example')->sole()->id,
        '{list}' => 'failing',
        '{host}' => 'pics.shorelog.example',
        '{adoption}' => App\Models\Adoption::query()->create([
            'site_id' => $this->site()->id,
            'state' => 'done',
            'hosts' => [],
            'started_at' => now(),
            'worked_at' => now(),
        ])->id,
        '{survey}' => App\Models\Survey::query()->create([
            'site_id' => $this->site()->id,
            'state' => 'done',
            'stage' => 'end',
            'started_at' => now(),
            'worked_at' => now(),
        ])->id,
        '{cause}' => 'former-address',
        '{decision}' => App\Usage\Findings::letStand(
            $this->site(),
            Ylema\Addresses\OutcomeKind::MissingFile,
            'media/2013/founders.jpg',
            'They asked for it.',
            null,
        )->id,
        '{where}' => 'resting',
        '{bag}' => App\Models\Bag::query()->create([
            'site_id' => $this->site()->id,
            'name' => 'korrin-bay-1',
            'state' => 'open',
            'made_at' => now(),
            'trouble' => [],
        ])->name,
        '{id}' => DB::table('resting_files')->value('id'),
        '{question}' => DB::table('place_questions')->insertGetId([
            'site_id' => $this->site()->id,
            'kind' => 'keys',
            'source' => 'table',
            'place' => 'boats.second_id',
            'names' => 3,
            'of' => 3,
            'reading_id' => $this->site()->readings()->value('id'),
        ]),
        '{log}' => DB::table('log_files')->insertGetId([
            'site_id' => $this->site()->id,
            'name' => 'access.log',
            'begins' => hash('sha256', 'access.log'),
            'read_at' => now(),
        ]),
        '{upload}' => $this->sent($this->jpeg(), 'new.jpg', Role::Owner),
    ];
    foreach (apiRoutes() as [$method, $path]) {
        $role = $document['paths'][$path][$method]['x-role'];
        if ($role === 'none' || $path === '/session') {
            continue;
        }
        $url = '/api'.strtr($path, $ids);
        auth()->logout();
        $this->json($method, $url)->assertStatus(401)->assertHeader('Content-Type', 'application/problem+json');
        foreach (Role::cases() as $who) {
            // One that was given up or connected is gone for the next.
            $url = str_contains($path, '{draft}') ? '/api'.strtr($path, ['{draft}' => aDraft()]) : $url;
            $status = $this->as($who)->json($method, $url)->getStatusCode();
            // Done, or refused for what was asked; never for who asked, and never by a fault.
            expect($status)->toBeIn(
                $who->covers(Role::from($role)) ? [200, 201, 202, 204, 409, 422] : [403],
                "$who->value $method $path",
            );
        }
    }
});

it('answers as the document says', function (): void {
    $document = document($this);
    $schema = new Schema($document);
    $item = $this->item('people/maren-oake.jpg');
    $plan = $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg');
    $change = $this->apply($plan);
    $this->as(Role::Owner);
    $ids = [
        '{site}' => 'korrin-bay',
        '{draft}' => aDraft(),
        '{version}' => mapVersion($this),
        '{person}' => App\Models\User::query()->where('email', 'viewer@korrinbay.example')->sole()->id,
        '{mediaItem}' => $item->id,
        '{reference}' => MediaReference::query()->whereNotNull('address_id')->value('id'),
        '{plan}' => $plan->id,
        '{change}' => $change->id,
        '{record}' => $this->site()->records()->where('is_page', true)->value('id'),
        '{cause}' => 'former-address',
        '{list}' => 'failing',
        '{upload}' => $this->sent($this->jpeg(), 'new.jpg', Role::Owner),
    ];
    $asked = [
        '/sites/{site}/findings/{cause}/excerpt' => '?asked='
            .rawurlencode(
                (string) DB::table('findings')
                    ->where('outcome', 'former-address')
                    ->where('leads', false)
                    ->value('asked'),
            ),
        '/sites/{site}/find' => '?q=oake',
        '/sites/{site}/moves/names' => '?from=media/people',
        '/sites/{site}/renditions/files' => '?width=480',
        '/sites/{site}/copies/differences' => "?one=$item->id&other=".$this->item('people/lise-holm.jpg')->id,
        '/sites/{site}/media/{mediaItem}/fit' => '?manner=same-address&to='.$this->item('people/lise-holm.jpg')->id,
    ];
    $held = 0;
    foreach ($document['paths'] as $path => $methods) {
        $answer = $methods['get']['responses']['200']['content']['application/json']['schema'] ?? null;
        // What is handed over as a file is read by its own test.
        if ($answer === null || str_ends_with($path, '/export')) {
            continue;
        }
        $response = $this->getJson('/api'.strtr($path, $ids).($asked[$path] ?? ''));
        expect($response->status())
            ->toBe(200, $path)
            ->and($schema->misfits(json_decode((string) $response->getContent()), $answer))
            ->toBe([], $path);
        $held++;
    }
    expect($held)->toBeGreaterThan(20);
    $problem = $this->getJson('/api/sites/nowhere')->assertNotFound();
    expect(
        $schema->misfits(json_decode((string) $problem->getContent()), ['$ref' => '#/components/schemas/Problem']),
    )->toBe([]);
});

it('shows viewers no path of the machine, whatever has failed', function (): void {
    $this->touched();
    $folder = self::folder().'/site';
    $ids = [
        '{site}' => 'korrin-bay',
        '{mediaItem}' => $this->item('people/maren-oake.jpg')->id,
        '{plan}' => $this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg')->id,
        '{reading}' => $this->site()->readings()->value('id'),
        '{record}' => $this->site()->records()->value('id'),
        '{cause}' => 'former-address',
        '{list}' => 'failing',
    ];
    $leaks = [];
    $look = function (string $when) use (&$leaks, $ids): void {
        $this->as(Role::Viewer);
        foreach (document($this)['paths'] as $path => $methods) {
            if (! isset($methods['get']) || ($methods['get']['x-role'] ?? '') !== 'viewer') {
                continue;
            }
            $body = str_replace('\\/', '/', (string) $this->getJson('/api'.strtr($path, $ids))->getContent());
            foreach ([self::folder(), storage_path(), base_path(), sys_get_temp_dir().'/'] as $secret) {
                if (str_contains($body, $secret)) {
                    $leaks[] = "$when $path: ".substr($body, max(0, (int) strpos($body, $secret) - 120), 240);
                }
            }
        }
    };
    $look('whole');
    $this->site()->update(['keeping' => [...$this->site()->keeping ?? [], 'logs' => self::folder().'/nowhere']]);
    rename($folder, "$folder.away");
    try {
        rescue(fn () => app(ReadSite::class)->begin($this->site(), null), report: false);
        rescue(fn () => $this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg')), report: false);
        $look('away');
    } finally {
        rename("$folder.away", $folder);
    }
    chmod("$folder/media/people", 0o555);
    $change = $this->apply($this->plan('people/maren-oake.jpg', 'people/lise-holm.jpg'));
    $ids['{change}'] = $change->id;
    $look('read-only');
    chmod("$folder/media/people", 0o755);
    expect($leaks)->toBe([]);
});

it('lets the owner alone decide whether the public site is asked over the network', function (): void {
    $this->as(Role::Maintainer)
        ->patchJson('/api/sites/korrin-bay', ['ask_public' => true])
        ->assertForbidden();
    $this->as(Role::Owner)
        ->patchJson('/api/sites/korrin-bay', ['ask_public' => 'perhaps'])
        ->assertUnprocessable();
    expect($this->site()->ask_public)->toBeFalse();
    $this->patchJson('/api/sites/korrin-bay', ['ask_public' => true])
        ->assertOk()
        ->assertJsonPath('ask_public', true);
    expect($this->site()->ask_public)->toBeTrue();
    $this->patchJson('/api/sites/korrin-bay', ['ask_public' => false])->assertOk();
});

it('never lets one site see through another', function (): void {
    $other = App\Models\Site::query()->create([
        ...$this->site()->only(['name', 'address', 'former', 'field_map', 'connection', 'reach_at']),
        'slug' => 'other',
    ]);
    $id = $this->item('people/maren-oake.jpg')->id;
    $this->as(Role::Owner)
        ->getJson("/api/sites/{$other->slug}/media/$id")
        ->assertNotFound();
    $this->getJson("/api/sites/{$other->slug}/media/$id/trail")->assertNotFound();
    $other->delete();
});

it('signs in and out, and says plainly when the password is wrong', function (): void {
    $this->postJson('/api/session', ['email' => 'viewer@korrinbay.example', 'password' => 'wrong'])
        ->assertStatus(422)
        ->assertJsonPath(
            'errors.email.0',
            'No account has this address and password. Check both; passwords tell upper from lower case.',
        );
    $this->postJson('/api/session', ['email' => 'viewer@korrinbay.example', 'password' => 'tidewater-demo'])
        ->assertOk()
        ->assertJsonPath('user.role', 'viewer');
    $this->getJson('/api/session')->assertJsonPath('user.email', 'viewer@korrinbay.example');
    $this->deleteJson('/api/session')->assertNoContent();
    expect(User::query()->value('password'))->toStartWith('$2y$');
});

it('slows down who guesses passwords', function (): void {
    for ($i = 0; $i < 6; $i++) {
        $this->postJson('/api/session', ['email' => 'owner@korrinbay.example', 'password' => "guess $i"])->assertStatus(
            422,
        );
    }
    $this->postJson('/api/session', ['email' => 'owner@korrinbay.example', 'password' => 'tidewater-demo'])
        ->assertStatus(429)
        ->assertJsonPath('type', '/problems/too-many');
});

it('never counts who signs in rightly as one who guesses', function (): void {
    for ($i = 0; $i < 8; $i++) {
        $this->postJson('/api/session', [
            'email' => 'viewer@korrinbay.example',
            'password' => 'tidewater-demo',
        ])->assertOk();
        $this->deleteJson('/api/session')->assertNoContent();
    }
});

it('refuses a request without the session\'s token', function (): void {
    // The framework lets tests pass without one, so here the middleware is asked directly.
    $middleware = new class(app(), app('encrypter')) extends Illuminate\Foundation\Http\Middleware\VerifyCsrfToken
    {
        protected function runningUnitTests(): bool
        {
            return false;
        }
    };
    $request = Illuminate\Http\Request::create('/api/sites/korrin-bay/readings', 'POST');
    $request->setLaravelSession(app('session.store'));
    expect(fn () => $middleware->handle($request, fn () => response('through')))->toThrow(
        Illuminate\Session\TokenMismatchException::class,
    );
    $this->getJson('/api/session');
    $stack = app(Illuminate\Routing\Router::class)->getMiddlewareGroups()['web'];
    expect(
        array_filter(
            $stack,
            static fn (mixed $m): bool => is_string($m)
                && is_a($m, Illuminate\Foundation\Http\Middleware\VerifyCsrfToken::class, true),
        ),
    )->not->toBeEmpty();
});

it('finds items by words, path and whole addresses', function (string $q, string $path): void {
    $found = $this->as(Role::Viewer)
        ->getJson('/api/sites/korrin-bay/media?'.http_build_query(['q' => $q]))
        ->assertOk()
        ->json('items');
    expect(array_column($found, 'path'))->toContain($path);
})->with([
    'a name' => ['maren oake', 'media/people/maren-oake.jpg'],
    'words in another order' => ['oake portrait', 'media/people/maren-oake.jpg'],
    'a path' => ['2016/mud flats', 'media/2016/mud flats.jpg'],
    'the address of a rendition' => [
        'https://korrinbay.example/media/people/maren-oake.w150.jpg',
        'media/people/maren-oake.jpg',
    ],
    'an address of before' => [
        'http://korrin-observatory.example/bay/media/people/maren-oake.jpg?x=1',
        'media/people/maren-oake.jpg',
    ],
    'a percent sign is only a percent sign' => ['curlew', 'media/birds/curlew.jpg'],
]);

it('shows the raw text of a reference with the referencing bytes marked', function (): void {
    $reference = MediaReference::query()
        ->where('media_item_id', $this->item('people/maren-oake.jpg')->id)
        ->whereRelation('record', 'key', '103')
        ->firstOrFail();
    $excerpt = $this->as(Role::Viewer)
        ->getJson("/api/sites/korrin-bay/references/{$reference->id}/excerpt")
        ->assertOk()
        ->json();
    expect($excerpt['marked'])
        ->toBe($excerpt['value'])
        ->and($excerpt['lead'])
        ->toEndWith('<img src="')
        ->and($excerpt['outcome'])
        ->toBe('former-address');
});

it('serves small pictures', function (): void {
    $file = $this->item('2024/IMG_4410.jpg')->files()->where('is_original', true)->firstOrFail();
    $response = $this->as(Role::Viewer)
        ->get("/api/sites/korrin-bay/files/{$file->id}/picture?w=480")
        ->assertOk()
        ->assertHeader('Content-Type', 'image/webp');
    expect(getimagesizefromstring((string) $response->getContent())[0])->toBe(480);
});

function mapVersion(object $test): int
{
    $site = $test->site();

    return (int) DB::table('field_maps')->insertGetId([
        'site_id' => $site->id,
        'yaml' => $site->field_map,
        'reason' => 'as it was before',
        'made_at' => now(),
    ]);
}
