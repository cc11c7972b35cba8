<?php

declare(strict_types=1);

use App\Models\Role;
use Illuminate\Http\Request;
use Tests\App\AppTestCase;
use Tests\App\Fuzz\Malformed;
use Tests\App\Fuzz\Operation;

/** Ids of things that are there, so that a request comes as far as it can. */
function namesOfThings(): array
{
    static $names;

    return $names ??= [
        'site' => 'korrin-bay',
        'mediaItem' => (string) DB::table('media_items')->min('id'),
        'reference' => (string) DB::table('media_references')->min('id'),
        'file' => (string) DB::table('files')->min('id'),
        'record' => (string) DB::table('records')->min('id'),
        'cause' => 'missing',
        'side' => '0',
    ];
}

// Requests that were well formed by chance did something.
afterAll(static function (): void {
    AppTestCase::spoil();
});

it('answers every malformed request in its own words, and none with a failure', function (string $name): void {
    config(['queue.default' => 'null']);
    $operation = Operation::all()[$name];
    $kernel = app(Illuminate\Contracts\Http\Kernel::class);
    $this->as(Role::Owner);
    $this->withoutMiddleware(Illuminate\Routing\Middleware\ThrottleRequests::class);
    // As many as a run of all tests has time for; bench/fuzz says more.
    $many = (int) (getenv('YLEMA_REQUESTS') ?: 20);
    for ($n = 0; $n < $many; $n++) {
        [$method, $address, $body, $type] = (new Malformed($n + crc32($name)))->request($operation, namesOfThings());
        $request = Request::create(
            'http://127.0.0.1'.$address,
            $method,
            [],
            [],
            [],
            [
                'CONTENT_TYPE' => $type,
                'HTTP_ACCEPT' => 'application/json',
            ],
            $body,
        );
        if (str_starts_with($type, 'application/x-www-form-urlencoded')) {
            @parse_str($body, $fields);
            $request->request->replace($fields);
        }
        $response = $kernel->handle($request);
        $status = $response->getStatusCode();
        $seed = $n + crc32($name);
        $said
            = "$method "
            .mb_strcut(mb_scrub($address), 0, 300)
            ." (seed $seed) with "
            .mb_strcut(mb_scrub($body), 0, 300);
        expect($status)->toBeLessThan(500, "$said: $status ".mb_strcut((string) $response->getContent(), 0, 600));
        if ($status >= 400) {
            expect($response->headers->get('Content-Type'))->toBe('application/problem+json', $said);
            $problem = json_decode((string) $response->getContent(), true);
            expect($problem)->toHaveKeys(['type', 'title', 'status', 'detail'], $said);
            expect($problem['status'])
                ->toBe($status, $said)
                ->and($problem['detail'])
                ->toBeString()
                ->not->toBe('', $said);
        }
    }
})->with(static fn (): array => array_keys(Operation::all()));
