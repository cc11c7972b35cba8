<?php

declare(strict_types=1);

namespace App\Media;

use Illuminate\Support\Facades\File;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Storage;
use Symfony\Component\Process\PhpExecutableFinder;
use Ylema\Imaging\Size;
use Ylema\Imaging\UploadRefused;

/**
 * A picture that a process of its own holds decoded (app/Console/pictures.php). Whatever the bytes make of a decoder,
 * that process ends, and this one says so.
 */
final class OpenPicture
{
    /** Beside pixels: the libraries, and what they keep of their own. */
    private const ROOM = 1_500_000_000;

    /** Of PHP, where they are not built in. */
    private const MODULES = ['ctype', 'exif', 'fileinfo', 'gd', 'iconv', 'imagick', 'mbstring'];

    /** Open files, with those that it inherits. */
    private const FILES = 1024;

    public readonly Size $size;

    private string $folder = '';

    /** @var resource */
    private $process;

    /** @var resource to it */
    private $to;

    /** @var resource from it */
    private $from;

    /** @var array<string, mixed> how the process ended, which can be asked for once */
    private array $ended = [];

    /** Whether it was begun anew already: a picture that ends its process once more does so by itself. */
    private bool $isSecond = false;

    /** @throws UploadRefused */
    public function __construct(
        private readonly string $bytes,
        private readonly string $extension,
        private readonly string $name,
        private readonly int $memory,
        private readonly int $seconds,
    ) {
        try {
            $answer = $this->ask([])[0];
        } catch (UploadRefused $e) {
            // What was never made is never unmade by itself.
            $this->close();
            throw $e;
        }
        $this->size = new Size((int) $answer['width'], (int) $answer['height']);
    }

    /**
     * Starts a process, and has it open the picture.
     *
     * @return array<string, mixed>|null what it answered; null where it was lost
     *
     * @throws UploadRefused
     */
    private function start(float $until): ?array
    {
        $this->close();
        // A process inherits each file that is open here; what lies in cycles holds some that nobody needs any more.
        gc_collect_cycles();
        // What a process that is ended leaves in its folder ends with it.
        $this->folder = Storage::disk('work')->path('pictures/'.bin2hex(random_bytes(8)));
        File::ensureDirectoryExists($this->folder, 0o700);
        $process = proc_open(
            [
                'prlimit', '--as='.(3 * $this->memory + self::ROOM), "--cpu=$this->seconds", '--core=0',
                '--fsize='.(2 * $this->memory), '--nofile='.self::FILES, '--', self::php(),
                ...self::modules(), '-d', 'memory_limit='.(2 * $this->memory),
                dirname(__DIR__).'/Console/pictures.php', (string) $this->memory,
            ],
            [['pipe', 'r'], ['pipe', 'w'], ['file', "$this->folder/said", 'w']],
            $pipes,
            $this->folder,
            ['PATH' => '/usr/bin:/bin', 'LC_ALL' => 'C.UTF-8', 'TMPDIR' => $this->folder, 'PHP_INI_SCAN_DIR' => ''],
        );
        if ($process === false) {
            throw new UploadRefused('No process could be started to open the picture in. Try again in a minute.');
        }
        $this->process = $process;
        $this->ended = [];
        [$this->to, $this->from] = $pipes;
        stream_set_blocking($this->to, false);
        stream_set_blocking($this->from, false);
        $question = ['do' => 'open', 'extension' => $this->extension, 'name' => $this->name];

        return $this->exchange(PictureMessage::pack($question, $this->bytes), $until)[0] ?? null;
    }

    public function __destruct()
    {
        $this->close();
    }

    private function close(): void
    {
        if ($this->folder === '') {
            return;
        }
        @fclose($this->to);
        @fclose($this->from);
        proc_terminate($this->process, 9);
        proc_close($this->process);
        File::deleteDirectory($this->folder);
        $this->folder = '';
    }

    /**
     * Fills the target size, cropping around the focal point where the shapes differ.
     *
     * @param  string  $extension one of Pictures::WRITABLE
     *
     * @throws UploadRefused
     */
    public function fill(Size $target, string $extension, float $focusX = 0.5, float $focusY = 0.5): string
    {
        return $this->ask([
            'do' => 'fill',
            'width' => $target->width,
            'height' => $target->height,
            'x' => $focusX,
            'y' => $focusY,
            'extension' => $extension,
        ])[1];
    }

    /**
     * A process that is lost may have been ended from outside: it is begun anew once.
     *
     * @param  array<string, scalar>  $question empty for what it answers when it opens the picture
     * @return array{array<string, mixed>, string} the answer, and the bytes that came with it
     *
     * @throws UploadRefused
     */
    private function ask(array $question): array
    {
        do {
            $until = microtime(true) + $this->seconds;
            $opened = $this->folder === '' ? $this->start($until) : [];
            $answer = match (true) {
                $opened === null => null,
                $question === [] => [$opened, ''],
                default => $this->exchange(PictureMessage::pack($question, ''), $until),
            };
            if ($answer !== null) {
                return $answer;
            }
            $refused = $this->lost(microtime(true) >= $until);
            $this->close();
            $goesOn = ! $this->isSecond && microtime(true) < $until;
            $this->isSecond = true;
        } while ($goesOn);

        throw $refused;
    }

    /**
     * @return array{array<string, mixed>, string}|null null where the process was lost, or took too long
     *
     * @throws UploadRefused as the process says it
     */
    private function exchange(string $message, float $until): ?array
    {
        while ($message !== '') {
            $write = [$this->to];
            $read = $except = null;
            $left = $until - microtime(true);
            // Not ready yet, or woken by a signal: asked again, as long as there is time.
            $ready = $left > 0 ? @stream_select($read, $write, $except, (int) $left, 100_000) : null;
            $sent = $ready === 1 ? @fwrite($this->to, substr($message, 0, 65_536)) : 0;
            if ($ready === null || $sent === false || ! $this->isRunning()) {
                return null;
            }
            $message = substr($message, $sent);
        }
        $answer = PictureMessage::from(fn (int $length): string => $this->read($length, $until));
        if (isset($answer[0]['refused'])) {
            throw new UploadRefused(is_string($answer[0]['refused']) ? $answer[0]['refused'] : '');
        }

        return $answer;
    }

    /** @return string shorter than asked for where the process ended */
    private function read(int $length, float $until): string
    {
        $read = '';
        while (strlen($read) < $length) {
            $from = [$this->from];
            $write = $except = null;
            $left = $until - microtime(true);
            if ($left <= 0) {
                break;
            }
            if (@stream_select($from, $write, $except, (int) $left, 100_000) !== 1) {
                continue;
            }
            $part = fread($this->from, max(1, min(1_048_576, $length - strlen($read))));
            if ($part === false || ($part === '' && feof($this->from))) {
                break;
            }
            $read .= $part;
        }

        return $read;
    }

    /** Where this runs behind a web server, its own program is another one, which runs no script. */
    private static function php(): string
    {
        return (new PhpExecutableFinder())->find(false) ?: 'php';
    }

    /**
     * Nothing is loaded but what pictures need: the rest takes longer to load than most pictures to open, and hostile
     * bytes should find as little as can be beside them.
     *
     * @return list<string>
     */
    private static function modules(): array
    {
        $arguments = [];
        foreach (self::MODULES as $module) {
            if (is_file(ini_get('extension_dir')."/$module.so")) {
                array_push($arguments, '-d', "extension=$module");
            }
        }

        return $arguments;
    }

    private function isRunning(): bool
    {
        $status = proc_get_status($this->process);
        if (! $status['running'] && $this->ended === []) {
            $this->ended = $status;
        }

        return $status['running'];
    }

    /** What the process said and how it ended goes to the log: the machine may be the cause as well. */
    private function lost(bool $tookTooLong): UploadRefused
    {
        for ($i = 0; $i < 20 && ! $tookTooLong && $this->isRunning(); $i++) {
            usleep(10_000);
        }
        Log::warning("The process that opened \"{$this->name}\" was lost.", [
            'exit' => $this->ended['exitcode'] ?? null,
            'signal' => $this->ended['termsig'] ?? null,
            'said' => mb_strcut(mb_scrub((string) @file_get_contents("$this->folder/said")), 0, 500),
        ]);

        return new UploadRefused(
            $tookTooLong
                ? "\"{$this->name}\" takes longer to open than {$this->seconds} seconds. Save it with fewer pixels and "
                    .'try again.'
                : "\"{$this->name}\" cannot be opened within the memory that one picture may take here. Save it with "
                    .'fewer pixels, or export it again.',
        );
    }
}
