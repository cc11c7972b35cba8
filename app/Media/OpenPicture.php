<?php

declare(strict_types=1);

namespace App\Media;

use Illuminate\Support\Facades\File;
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

    public readonly Size $size;

    private readonly string $folder;

    /** @var resource */
    private $process;

    /** @var resource to it */
    private $to;

    /** @var resource from it */
    private $from;

    /** @throws UploadRefused */
    public function __construct(
        string $bytes,
        string $extension,
        private readonly string $name,
        int $memory,
        private readonly int $seconds,
    ) {
        // What a process that is ended leaves in its folder ends with it.
        $this->folder = Storage::disk('work')->path('pictures/'.bin2hex(random_bytes(8)));
        File::ensureDirectoryExists($this->folder, 0o700);
        $process = proc_open(
            [
                'prlimit', '--as='.(3 * $memory + self::ROOM), "--cpu=$seconds", '--core=0', '--fsize='.(2 * $memory),
                '--nofile=256', '--', self::php(), '-d', 'memory_limit='.(2 * $memory),
                dirname(__DIR__).'/Console/pictures.php', (string) $memory,
            ],
            [['pipe', 'r'], ['pipe', 'w'], ['file', '/dev/null', 'w']],
            $pipes,
            $this->folder,
            ['PATH' => '/usr/bin:/bin', 'LC_ALL' => 'C.UTF-8', 'TMPDIR' => $this->folder],
        );
        if ($process === false) {
            throw new UploadRefused('No process could be started to open the picture in. Try again in a minute.');
        }
        $this->process = $process;
        [$this->to, $this->from] = $pipes;
        stream_set_blocking($this->to, false);
        stream_set_blocking($this->from, false);
        try {
            $answer = $this->ask(['do' => 'open', 'extension' => $extension, 'name' => $name], $bytes)[0];
        } catch (UploadRefused $e) {
            // What was never made is never unmade by itself.
            $this->close();
            throw $e;
        }
        $this->size = new Size((int) $answer['width'], (int) $answer['height']);
    }

    public function __destruct()
    {
        $this->close();
    }

    private function close(): void
    {
        @fclose($this->to);
        @fclose($this->from);
        proc_terminate($this->process, 9);
        proc_close($this->process);
        File::deleteDirectory($this->folder);
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
     * @param  array<string, scalar>  $question
     * @return array{array<string, mixed>, string} the answer, and the bytes that came with it
     *
     * @throws UploadRefused
     */
    private function ask(array $question, string $bytes = ''): array
    {
        $until = microtime(true) + $this->seconds;
        $message = PictureMessage::pack($question, $bytes);
        while ($message !== '') {
            $write = [$this->to];
            $read = $except = null;
            $left = $until - microtime(true);
            $ready = $left > 0 ? stream_select($read, $write, $except, (int) $left, 100_000) : 0;
            $sent = $ready > 0 ? @fwrite($this->to, substr($message, 0, 65_536)) : false;
            if ($sent === false || ($sent === 0 && ! proc_get_status($this->process)['running'])) {
                throw $this->lost($left <= 0);
            }
            $message = substr($message, $sent);
        }
        [$answer, $came] = PictureMessage::from(fn (int $length): string => $this->read($length, $until))
            ?? throw $this->lost(microtime(true) >= $until);
        if (isset($answer['refused'])) {
            throw new UploadRefused(is_string($answer['refused']) ? $answer['refused'] : '');
        }

        return [$answer, $came];
    }

    /** @return string shorter than asked for where the process ended */
    private function read(int $length, float $until): string
    {
        $read = '';
        while (strlen($read) < $length) {
            $from = [$this->from];
            $write = $except = null;
            $left = $until - microtime(true);
            if ($left <= 0 || stream_select($from, $write, $except, (int) $left, 100_000) === 0) {
                break;
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

    private function lost(bool $tookTooLong): UploadRefused
    {
        return new UploadRefused(
            $tookTooLong
                ? "\"{$this->name}\" takes longer to open than {$this->seconds} seconds. Save it with fewer pixels and "
                    .'try again.'
                : "\"{$this->name}\" cannot be opened within the memory that one picture may take here. Save it with "
                    .'fewer pixels, or export it again.',
        );
    }
}
