<?php

declare(strict_types=1);

use App\Console\ExitCode;
use App\Models\Site;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Process\Process;

/*
 * What commands end with, and where they say it. The same as docs/command-line.md.
 */

/** The command line itself, as a shell runs it. */
function ylema(array $arguments, array $environment = []): Process
{
    $process = ylemaBegun($arguments, $environment);
    $process->wait();

    return $process;
}

/** The same while it still runs. */
function ylemaBegun(array $arguments, array $environment = []): Process
{
    $settings = [];
    foreach (['DB_HOST', 'DB_PORT', 'DB_DATABASE', 'DB_USERNAME', 'DB_PASSWORD', 'YLEMA_VAR', 'APP_KEY'] as $name) {
        $settings[$name] = (string) (env($name) ?? '');
    }
    $connection = config('database.connections.pgsql');
    $settings = [
        ...$settings, 'DB_HOST' => $connection['host'], 'DB_PORT' => (string) $connection['port'],
        'DB_DATABASE' => $connection['database'], 'DB_USERNAME' => $connection['username'],
        'DB_PASSWORD' => $connection['password'], 'APP_KEY' => config('app.key'), 'APP_ENV' => 'testing',
    ];
    $process = new Process(
        [PHP_BINARY, base_path('app/Console/ylema.php'), ...$arguments],
        base_path(),
        [...array_filter($settings, static fn (string $one): bool => $one !== ''), ...$environment],
    );
    $process->start();

    return $process;
}

const INDEXED = [
    'uses' => ['path' => 'media/people/maren-oake.jpg'], 'findings' => [], 'idle' => [], 'copies' => [], 'weight' => [],
    'redirects' => [], 'renditions' => [], 'repair' => ['--sure' => true],
    'swap' => ['from' => 'media/people/maren-oake.jpg', 'to' => 'media/people/lise-holm.jpg'],
    'move' => ['from' => 'media/people', 'to' => 'media/staff'], 'rest' => ['--safe' => true],
];

it('says that a call is wrong, and that a site was not read yet', function (string $command, array $more): void {
    $this->touched();
    expect(Artisan::call("ylema:$command", ['site' => 'nowhere', ...$more]))->toBe(ExitCode::WRONG)
        ->and(Artisan::output())->toContain('There is no site "nowhere"');
    Site::query()->update(['read_at' => null]);
    expect(Artisan::call("ylema:$command", ['site' => 'korrin-bay', ...$more]))->toBe(ExitCode::NOT_LOOKED)
        ->and(Artisan::output())->toContain('was not read yet', 'bin/ylema read korrin-bay');
})->with(static fn (): array => array_map(
    static fn (string $command): array => [$command, array_filter(
        INDEXED[$command],
        static fn (string|int $name): bool => ! str_starts_with((string) $name, '--'),
        ARRAY_FILTER_USE_KEY,
    )],
    array_keys(INDEXED),
));

it('takes any name for a name', function (string $path): void {
    foreach (['uses' => ['path' => $path], 'swap' => ['from' => $path, 'to' => $path]] as $command => $more) {
        expect(Artisan::call("ylema:$command", ['site' => 'korrin-bay', ...$more]))->toBe(ExitCode::WRONG)
            ->and(Artisan::output())->toMatch('~No media item of "korrin-bay"|is no text \(UTF-8\)~');
    }
    expect(Artisan::call('ylema:uses', ['site' => $path, 'path' => 'x']))->toBe(ExitCode::WRONG);
})->with([
    'a percent sign' => ['media/per%cent.jpg'], 'percent signs' => ['%%%'], 'no text' => ["media/\xCE\xFF.jpg"],
    'a byte of nothing' => ["media/a\0b.jpg"], 'nothing' => [''], 'a slash' => ['/'],
    'very long' => [str_repeat('x', 5000)],
    'signs' => ["'; drop table sites; --"], 'lines' => ["a\nb"], 'wild cards' => ['100_%'],
]);

it('finds a name with a percent sign before it decodes it', function (): void {
    $this->touched();
    $item = $this->item('people/maren-oake.jpg');
    $item->files()->where('is_original', true)->update(['path' => 'media/per%63ent.jpg']);
    $call = ['site' => 'korrin-bay', 'path' => 'media/per%63ent.jpg'];
    expect(Artisan::call('ylema:uses', $call))->toBe(ExitCode::DONE);
});

it('says on standard error that the database is away, and never that something is used nowhere', function (): void {
    foreach ([[], ['--json']] as $json) {
        $process = ylema(['uses', 'korrin-bay', 'media/people/maren-oake.jpg', ...$json], ['DB_PORT' => '9']);
        expect($process->getExitCode())->toBe(ExitCode::NOT_LOOKED)
            ->and($process->getOutput())->toBe('')
            ->and($process->getErrorOutput())->toContain('The database of Ylema does not answer');
    }
    expect(json_decode(ylema(['findings', 'korrin-bay', '--json'], ['DB_PORT' => '9'])->getErrorOutput(), true))
        ->toHaveKey('error');
});

it('keeps standard output for answers', function (): void {
    $wrong = ylema(['uses', 'nowhere', 'x']);
    expect($wrong->getExitCode())->toBe(ExitCode::WRONG)
        ->and($wrong->getOutput())->toBe('')
        ->and($wrong->getErrorOutput())->toContain('There is no site "nowhere"');
    $json = ylema(['uses', 'nowhere', 'x', '--json']);
    expect($json->getOutput())->toBe('')
        ->and(json_decode($json->getErrorOutput(), true)['error'])->toContain('There is no site');
    foreach ([['nonsense'], ['uses', '--nonsense', 'a', 'b'], ['uses']] as $call) {
        $process = ylema($call);
        expect($process->getExitCode())->toBe(ExitCode::WRONG)
            ->and($process->getOutput())->toBe('')
            ->and($process->getErrorOutput())->not->toBe('');
    }
    $good = ylema(['uses', 'korrin-bay', 'media/people/maren-oake.jpg', '--json']);
    expect($good->getExitCode())->toBe(ExitCode::DONE)
        ->and($good->getErrorOutput())->toBe('')
        ->and(json_decode($good->getOutput(), true)['uses'])->toHaveCount(25);
});

it('ends when somebody stops it, with nothing in the pipe', function (): void {
    $this->touched();
    $begun = DB::table('readings')->count();
    // Signals are not listened to while a framework tests itself. With a queue that nobody works off it waits until
    // it is stopped, however busy the machine is.
    $process = ylemaBegun(['read', 'korrin-bay'], ['APP_ENV' => 'production', 'QUEUE_CONNECTION' => 'database']);
    while (DB::table('readings')->count() === $begun && $process->isRunning()) {
        usleep(10_000);
    }
    $process->signal(SIGINT);
    $process->wait();
    expect([$process->getExitCode(), $process->getOutput()])
        ->toBe([130, ''])
        ->and($process->getErrorOutput())
        ->toContain('Stopped. What was under way is taken up');
    Artisan::call('ylema:recover');
    expect(Site::query()->where('slug', 'korrin-bay')->exists())->toBeTrue();
});

it('takes the words inside a file along, unless others are said', function (array $said, array $wanted): void {
    $this->touched();
    $file = sys_get_temp_dir().'/Lantern.jpg';
    $xmp = "http://ns.adobe.com/xap/1.0/\0<x:xmpmeta><rdf:RDF><rdf:Description photoshop:Credit=\"A. Vale\">"
        .'<dc:title>The lantern</dc:title><dc:description>At night</dc:description></rdf:Description></rdf:RDF>'
        .'</x:xmpmeta>';
    $bytes = $this->jpeg(1200, 800);
    file_put_contents($file, substr($bytes, 0, 2)."\xFF\xE1".pack('n', strlen($xmp) + 2).$xmp.substr($bytes, 2));
    $from = 'media/people/maren-oake.jpg';
    Artisan::call('ylema:swap', ['site' => 'korrin-bay', 'from' => $from, 'to' => $file, ...$said]);
    unlink($file);
    $row = self::content()->query('select title, alt, caption, credit from media order by id desc limit 1')
        ->fetch(PDO::FETCH_ASSOC);
    expect(array_intersect_key($row, $wanted))->toBe($wanted);
})->with([
    'as it says' => [[], ['title' => 'The lantern', 'caption' => 'At night', 'credit' => 'A. Vale']],
    'otherwise' => [['--title' => 'Pier', '--alt' => 'A light', '--caption' => ''],
        ['title' => 'Pier', 'alt' => 'A light', 'credit' => 'A. Vale']],
]);
