<?php

declare(strict_types=1);

use App\Console\ExitCode;
use App\Console\Kernel;
use App\Retire\LookAtPictures;
use Illuminate\Contracts\Events\Dispatcher;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Symfony\Component\Console\Input\ArgvInput;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\BufferedOutput;
use Symfony\Component\Console\Output\ConsoleOutput;
use Symfony\Component\Console\Output\OutputInterface;

/*
 * Every command called badly: the database away, words that nobody knows, nothing, names of any bytes. It ends with the
 * code that docs/command-line.md gives to that, says why on standard error, and puts nothing in a pipe.
 */

/** A good call of each, of which one part at a time is made a bad one. */
const GOOD_CALLS = [
    'adopt' => ['korrin-bay', '--dry-run'], 'archive' => ['korrin-bay', '--dry-run'], 'backup' => ['/dev/full/x'],
    'bag' => ['list'], 'check' => ['korrin-bay'], 'clear' => [], 'connect' => ['/nowhere.yaml'],
    'copies' => ['korrin-bay'], 'coverage' => ['korrin-bay'], 'demo' => [], 'fieldmap' => ['korrin-bay'],
    'findings' => ['korrin-bay'], 'from-backup' => ['/nowhere.tar'], 'idle' => ['korrin-bay'],
    'logs' => ['korrin-bay', '/nowhere.log'], 'map' => ['korrin-bay'],
    'move' => ['korrin-bay', 'media/people', 'media/staff', '--dry-run'], 'nightly' => [], 'person' => [],
    'places' => [], 'read' => ['nowhere'], 'recover' => [], 'redirects' => ['korrin-bay'], 'rehearse' => ['999999'],
    'renditions' => ['korrin-bay'], 'repair' => ['korrin-bay', '--sure', '--dry-run'],
    'rest' => ['korrin-bay', '--safe', '--dry-run'], 'restore' => ['korrin-bay', '--called', '--dry-run'],
    'site' => ['korrin-bay'], 'sites' => [], 'status' => [], 'survey' => ['nowhere'],
    'swap' => ['korrin-bay', 'media/people/maren-oake.jpg', 'media/people/lise-holm.jpg', '--dry-run'],
    'undo' => ['999999'], 'uses' => ['korrin-bay', 'media/people/maren-oake.jpg'], 'watch' => [],
    'weight' => ['korrin-bay'],
];

/** Words of which none means anything anywhere; `person` is asked nothing that it could make an account of. */
const ODD_WORDS = [
    '', '%', 'per%cent.jpg', "it's", '../../etc/passwd', '-', '999999999999999999999', '-1', "a\nb",
    "media/\xCE\xFF.jpg",
    "a\0b", '海豹', '{', '<error>x</error>', "'; drop table sites; --",
];

/** @return array{int, string, string} exit code, standard output, standard error */
function called(string $command, string ...$words): array
{
    $error = new BufferedOutput();
    $output = new class($error) extends ConsoleOutput
    {
        public string $said = '';

        public function __construct(private readonly OutputInterface $errors)
        {
            parent::__construct();
        }

        public function getErrorOutput(): OutputInterface
        {
            return $this->errors;
        }

        protected function doWrite(string $message, bool $newline): void
        {
            $this->said .= $message.($newline ? "\n" : '');
        }
    };
    $kernel = new Kernel(app(), app(Dispatcher::class));
    $input = new ArgvInput(['ylema', "ylema:$command", ...$words]);
    $input->setInteractive(false);
    $code = $kernel->handle($input, $output);

    return [$code, $output->said, $error->fetch()];
}

/** @return array<string, Symfony\Component\Console\Command\Command> name → command */
function allCommands(): array
{
    $all = [];
    foreach (Artisan::all() as $name => $command) {
        if (str_starts_with($name, 'ylema:')) {
            $all[substr($name, 6)] = $command;
        }
    }

    return $all;
}

/** That it ended as a command does which was called badly, or found the words good after all. */
function expectWords(string $call, int $code, string $out, string $error): void
{
    expect(in_array($code, [0, 1, 2, 3, 4], true))->toBeTrue("$call ended with $code: $error")
        ->and(str_contains("$out$error", 'SQLSTATE') || str_contains($error, 'A fault of Ylema'))
        ->toBeFalse("$call said $out$error");
    if ($code >= ExitCode::WRONG) {
        expect(trim($error))->not->toBe('', "$call ended with $code and said nothing");
    }
}

beforeEach(function (): void {
    $this->touched();
    // What takes minutes, and has nothing to do with words.
    Queue::fake([LookAtPictures::class]);
    $this->cwd = getcwd();
    @mkdir(self::folder().'/elsewhere');
    chdir(self::folder().'/elsewhere');
});

afterEach(fn () => chdir($this->cwd));

it('knows a good call of each command', function (): void {
    expect(array_keys(allCommands()))->toEqualCanonicalizing(array_keys(GOOD_CALLS));
});

it('calls wrong what lacks a word, or has one too many', function (): void {
    foreach (allCommands() as $name => $command) {
        $calls = [['--nonsense'], [...GOOD_CALLS[$name], '--nonsense=x']];
        if ($command->getDefinition()->getArgumentRequiredCount() > 0) {
            $calls[] = [];
        }
        $last = array_values($command->getDefinition()->getArguments());
        if ($last === [] || ! end($last)->isArray()) {
            $calls[] = array_fill(0, $command->getDefinition()->getArgumentCount() + 1, 'x');
        }
        foreach ($command->getDefinition()->getOptions() as $option) {
            if (! $option->acceptValue()) {
                $calls[] = [...GOOD_CALLS[$name], "--{$option->getName()}=x"];
            }
        }
        foreach ($calls as $call) {
            [$code, $out, $error] = called($name, ...$call);
            $said = "$name ".implode(' ', $call);
            expect([$code, $out])->toBe([ExitCode::WRONG, ''], $said)->and(trim($error))->not->toBe('', $said);
        }
    }
});

it('says in words what it cannot do with a word, whatever bytes it is made of', function (string $name): void {
    $command = allCommands()[$name];
    $good = GOOD_CALLS[$name];
    $arguments = array_values($command->getDefinition()->getArguments());
    expectWords($name, ...called($name, ...$good));
    foreach ($arguments as $i => $argument) {
        foreach (ODD_WORDS as $word) {
            // A file of any name may be written to, and an account may be asked for by any address.
            if ($name === 'backup' || str_starts_with($word, '-')) {
                continue;
            }
            $call = $good;
            $call[$i] = $word;
            [$code, $out, $error] = called($name, ...$call);
            expectWords("$name ".json_encode($call, JSON_INVALID_UTF8_SUBSTITUTE), $code, $out, $error);
            if ($argument instanceof InputArgument && $argument->getName() === 'site') {
                expect([$code, $out])->toBe([ExitCode::WRONG, ''], "$name $word");
            }
        }
    }
    foreach ($command->getDefinition()->getOptions() as $option) {
        $isFile = in_array($option->getName(), ['out', 'env'], true);
        if (! $option instanceof InputOption || ! $option->acceptValue() || $isFile) {
            continue;
        }
        foreach (ODD_WORDS as $word) {
            [$code, $out, $error] = called($name, ...[...$good, "--{$option->getName()}=$word"]);
            $said = json_encode($word, JSON_INVALID_UTF8_SUBSTITUTE);
            expectWords("$name --{$option->getName()}=$said", $code, $out, $error);
        }
    }
})->with(static fn (): array => array_map(static fn (string $name): array => [$name], array_keys(GOOD_CALLS)));

it('says that the database is away, and nothing else', function (): void {
    $port = config('database.connections.pgsql.port');
    config(['database.connections.pgsql.port' => 9]);
    DB::purge();
    try {
        foreach (GOOD_CALLS as $name => $call) {
            foreach ([[], ['--json']] as $more) {
                if ($more !== [] && ! allCommands()[$name]->getDefinition()->hasOption('json')) {
                    continue;
                }
                [$code, $out, $error] = called($name, ...$call, ...$more);
                // What reads a file first may find that one missing.
                $isWrong = in_array($name, ['connect', 'from-backup', 'backup', 'logs'], true);
                $codes = $isWrong ? [ExitCode::NOT_LOOKED, ExitCode::WRONG, ExitCode::LEFT] : [ExitCode::NOT_LOOKED];
                $says = str_contains($error, 'The database of Ylema does not answer');
                expect($out)->toBe('', $name)
                    ->and(in_array($code, $codes, true))->toBeTrue("$name ended with $code: $error")
                    ->and($isWrong || $says)->toBeTrue("$name said $error")
                    ->and(str_contains($error, 'SQLSTATE'))->toBeFalse("$name said $error");
                if ($more !== []) {
                    expect(json_decode($error, true))->toHaveKey('error');
                }
            }
        }
    } finally {
        config(['database.connections.pgsql.port' => $port]);
        DB::purge();
    }
});
