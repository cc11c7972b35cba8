<?php

declare(strict_types=1);

namespace Tests\Browser;

use PDO;
use RuntimeException;

/** The servers that bin/demo or bin/test started: where they listen, and the index behind them. */
final readonly class Installation
{
    /** @param  array<string, string>  $settings */
    private function __construct(private array $settings)
    {
    }

    /** @param  string  $var the folder in which the script that started them keeps its things */
    public static function in(string $var): self
    {
        $settings = [];
        foreach (
            @file("$var/.env", FILE_IGNORE_NEW_LINES) ?: throw new RuntimeException('Start bin/demo first.') as $line
        ) {
            [$name, $value] = explode('=', $line, 2) + [1 => ''];
            $settings[$name] = trim($value, '"');
        }

        return new self($settings);
    }

    public function setting(string $name): string
    {
        return $this->settings[$name];
    }

    public function port(): int
    {
        return (int) parse_url($this->setting('APP_URL'), PHP_URL_PORT);
    }

    /** Where ChromeDriver listens, once it was started. */
    public function driver(): string
    {
        return 'http://127.0.0.1:'.($this->port() + 9);
    }

    /** The demo's public site. */
    public function site(): string
    {
        return 'http://127.0.0.1:'.$this->setting('SITE_PORT');
    }

    public function index(): PDO
    {
        return new PDO(
            "pgsql:host=127.0.0.1;port={$this->setting('DB_PORT')};dbname=ylema",
            $this->setting('DB_USERNAME'),
            $this->setting('DB_PASSWORD'),
            [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION],
        );
    }

    /** @return resource ChromeDriver, to be ended with proc_terminate() */
    public function startDriver()
    {
        $process = proc_open(
            ['chromedriver', '--port='.($this->port() + 9)],
            [1 => ['file', '/dev/null', 'w'], 2 => ['file', '/dev/null', 'w']],
            $pipes,
        );
        sleep(1);

        return $process ?: throw new RuntimeException('ChromeDriver did not start; bin/test installs it.');
    }
}
