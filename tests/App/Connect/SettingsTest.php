<?php

declare(strict_types=1);

use App\Connect\Settings;

function shortNameOf(array $said): string
{
    $of = ['address' => 'https://мельница.example/', 'content' => '/srv/mill', 'files' => '/srv/mill'];

    return Settings::fromArray([...$of, ...$said], '/')->slug;
}

it('makes a short name of any name', function (string $name, string $short): void {
    expect(shortNameOf(['name' => $name]))->toBe($short);
})->with([
    ['Hollin Mill', 'hollin-mill'],
    ['Müllers Mühle', 'mullers-muhle'],
    ['漢字', 'melnica-example'],
    ['Sites', 'sites-site'],
    [str_repeat('very long ', 20), substr(str_repeat('very-long-', 20), 0, 59)],
]);

it('refuses a short name under which Ylema itself is reached', function (): void {
    expect(fn () => shortNameOf(['short' => 'people people']))->toThrow(InvalidArgumentException::class)
        ->and(fn () => shortNameOf(['short' => 'api']))->toThrow(InvalidArgumentException::class, 'none of api');
});
