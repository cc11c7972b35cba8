<?php

declare(strict_types=1);

use App\Models\Role;
use Illuminate\Http\UploadedFile;
use Tests\Core\Growth;

/*
 * Logs that no web server would write so, or that somebody else wrote to do harm: each is answered in words.
 */

/** A line of the Combined Log Format. */
function oddLine(string $request, string $when = '10/Nov/2026:10:00:00 +0000', string $from = '203.0.113.9'): string
{
    return "$from - - [$when] \"$request\" 200 120 \"https://elsewhere.example/\x01\" \"Mozilla/5.0\"\n";
}

it('answers every log in words, and none with a failure', function (string $bytes, string $name = 'access.log'): void {
    $this->touched();
    $sent = UploadedFile::fake()->createWithContent('access.log', $bytes);
    $log = new UploadedFile($sent->getPathname(), $name, 'text/plain', null, true);
    $spent = Growth::spent();
    $answer = $this->as(Role::Maintainer)->post(
        '/api/sites/korrin-bay/logs',
        ['log' => $log],
        ['Accept' => 'application/json'],
    );
    expect($answer->status())
        ->toBeIn([201, 409, 422], (string) $answer->getContent())
        ->and((string) $answer->json($answer->status() === 201 ? 'said' : 'detail'))
        ->not->toBe('')
        ->and(Growth::spent() - $spent)
        ->toBeLessThan(20);
    $this->getJson('/api/sites/korrin-bay/logs')->assertOk();
})->with([
    'a null in an address' => [oddLine("GET /media/a\0b.jpg HTTP/1.1")],
    'a null written out' => [oddLine('GET /media/a%00b.jpg HTTP/1.1')],
    'no utf-8' => [oddLine("GET /media/\xFF\xFE.jpg HTTP/1.1")],
    'no utf-8, written out' => [oddLine('GET /media/%FF%FE.jpg HTTP/1.1')],
    'nulls only' => [str_repeat("\0", 5000)],
    'nulls in a line that is none' => [oddLine('GET /a.jpg HTTP/1.1')."\0\0\0 nothing\n"],
    'a name with a null' => [oddLine('GET /a.jpg HTTP/1.1'), "a\0b.log"],
    'a name of broken bytes' => [oddLine('GET /a.jpg HTTP/1.1'), "\xFF\xFE.log"],
    'a name that is long' => [oddLine('GET /a.jpg HTTP/1.1'), str_repeat('n', 3000).'.log'],
    'the year 9999' => [oddLine('GET /media/a.jpg HTTP/1.1', '31/Dec/9999:23:59:59 +0000')],
    'a year of many digits' => [oddLine('GET /media/a.jpg HTTP/1.1', '31/Dec/999999999:23:59:59 +0000')],
    'before time' => [oddLine('GET /media/a.jpg HTTP/1.1', '01/Jan/0001:00:00:00 +0000')],
    'a day that is none' => [oddLine('GET /media/a.jpg HTTP/1.1', '99/Foo/2026:99:99:99 +9999')],
    'an address of 60 kB' => [oddLine('GET /media/'.str_repeat('a', 60_000).'.jpg HTTP/1.1')],
    'a line of 2 MB' => [str_repeat('x', 2_000_000)],
    'a host of nulls' => [oddLine("GET http://a\0b.example/media/a.jpg HTTP/1.1")],
    'a page that is none' => [
        str_replace('elsewhere.example/', "e\xFF\0.example", oddLine('GET /media/a.jpg HTTP/1.1')),
    ],
    'half a packed one' => [substr((string) gzencode(str_repeat(oddLine('GET /media/a.jpg HTTP/1.1'), 500)), 0, 200)],
    'a packed one with a fault' => [substr_replace(
        (string) gzencode(str_repeat(oddLine('GET /media/a.jpg HTTP/1.1'), 5000)), 'xxxxxxxx', 60, 8,
    )],
    'packed twice' => [(string) gzencode((string) gzencode(oddLine('GET /media/a.jpg HTTP/1.1')))],
    'nothing' => [''],
    'a blank' => ["\n"],
    'line ends only' => [str_repeat("\n", 250_000)],
    'line ends after a line' => [oddLine('GET /media/a.jpg HTTP/1.1').str_repeat("\n", 250_000)],
    'returns only' => [str_repeat("\r", 250_000)],
    'quotes only' => [str_repeat('"', 250_000)],
    'brackets only' => [str_repeat('[', 250_000)."\n"],
    'json lines' => ["{\"a\":1}\n{\"b\":2}\n"],
    'a picture' => ["\xFF\xD8\xFF\xE0".str_repeat("\0\1\2\n", 9000)],
]);
