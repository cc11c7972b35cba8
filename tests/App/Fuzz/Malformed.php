<?php

declare(strict_types=1);

namespace Tests\App\Fuzz;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** Draws requests that are wrong in some way or other. The same seed gives the same request. */
final class Malformed
{
    private Randomizer $random;

    public function __construct(int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    /**
     * @param  array<string, string>  $good values for the places of the path that name something
     * @return array{string, string, string, string} method, address with its query, body, type of the body
     */
    public function request(Operation $operation, array $good): array
    {
        $method = $this->often(4)
            ? $this->one(['PUT', 'TRACE', 'OPTIONS', 'POST', 'DELETE', 'PATCH'])
            : $operation->method;
        $values = [];
        foreach ($operation->places() as $place) {
            $values[$place] = $this->often($operation->query === [] && $operation->body === null ? 70 : 15)
                ? $this->segment()
                : $good[$place] ?? '1';
        }
        $query = [];
        foreach ([...$operation->query, $this->one(['x', 'page', '_method', '']), 'site'] as $name) {
            if ($this->often(60)) {
                $query[] = rtrim($name, '[]').$this->one(['', '', '', '[]', '[a]', '[][]', '[', ']', '%00', '.'])
                    .$this->one(['=', '=', '=', '']).$this->scalar();
            }
        }
        [$body, $type] = $method === 'GET' ? ['', ''] : $this->body($operation);

        return [$method, $operation->address($values).($query === [] ? '' : '?'.implode('&', $query)), $body, $type];
    }

    /** @return array{string, string} */
    private function body(Operation $operation): array
    {
        if ($operation->isUpload) {
            return $this->upload();
        }
        $properties = array_keys($operation->body['properties'] ?? ['reason' => 1, 'places' => 1]);
        $object = [];
        foreach ($properties as $property) {
            if ($this->often(75)) {
                $object[(string) $property] = $this->value(3);
            }
        }
        $json = (string) json_encode($object, JSON_INVALID_UTF8_IGNORE | JSON_PARTIAL_OUTPUT_ON_ERROR);

        return match ($this->number(0, 15)) {
            0 => ['', 'application/json'],
            1 => [substr($json, 0, -1), 'application/json'],
            2 => [$this->one(['null', '1', '"x"', '[]', '[[]]', 'true', '[1,2]', '{"":1}']), 'application/json'],
            3 => [str_repeat('[', 2000).str_repeat(']', 2000), 'application/json'],
            4 => ["{\"email\":\"\xFF\xFE\",\"reason\":\"\xC3(\",\"q\":\"\xED\xA0\x80\"}", 'application/json'],
            5 => [http_build_query($object), 'application/x-www-form-urlencoded'],
            6 => ['<a/>', 'text/xml'],
            7 => [$json, $this->one(['text/plain', 'application/json; charset=utf-16', '*/*', 'x', "a\tb"])],
            default => [$json, 'application/json'],
        };
    }

    /** @return array{string, string} */
    private function upload(): array
    {
        $boundary = 'x'.$this->number(1, 99);
        $name = $this->one(['picture', 'picture', 'picture[]', 'picture[a]', 'other', '']);
        $long = str_repeat('a', 3000).'.jpg';
        $file = $this->one(['a.jpg', '', "a\0.svg", '../../a.png', $long, "\xFF\xFE.gif", 'a.php']);
        $bytes = $this->one([
            '', 'x', "\xFF\xD8", "\x89PNG\r\n\x1A\n", 'GIF89a', '<svg', '<svg xmlns="http://www.w3.org/2000/svg">',
            "RIFF\0\0\0\0WEBP", '%PDF-', 'OggS', 'ID3', "\0\0\0\x0Cftypavif", "\x1A\x45\xDF\xA3",
            str_repeat("\0", 5000),
        ]);
        $part = "--$boundary\r\nContent-Disposition: form-data; name=\"$name\"; filename=\"$file\"\r\n"
            ."Content-Type: image/jpeg\r\n\r\n$bytes\r\n--$boundary--\r\n";

        return match ($this->number(0, 4)) {
            0 => ['', "multipart/form-data; boundary=$boundary"],
            1 => [substr($part, 0, 40), "multipart/form-data; boundary=$boundary"],
            2 => ['{"picture": "x"}', 'application/json'],
            default => [$part, "multipart/form-data; boundary=$boundary"],
        };
    }

    /** A part of a path, encoded as it is sent. */
    private function segment(): string
    {
        return $this->one([
            '0', '-1', '01', '1.5', '1e3', '99999999999999999999', '9223372036854775808', '999999999999999999', 'abc',
            '%00', 'a%00b', '%FF%FE', '%C3%28', '%ED%A0%80', '%2e%2e%2f', '..', '%20', '1%20', '%27%20or%201=1--',
            'null', 'NaN', '%F0%9F%9A%A2', str_repeat('9', 400), str_repeat('a', 3000), '%0A1', '1%3B', '{1}',
            '%5B%5D', '*', '+1',
        ]);
    }

    /** A value in a query, encoded as it is sent. */
    private function scalar(): string
    {
        return $this->one([
            '', '0', '-1', '1', '1.5', '1e9', 'abc', '%00', 'a%00b', '%FF', '%C3%28', '%ED%A0%80', 'true', 'null', '[]',
            '99999999999999999999', '9223372036854775807', '-9223372036854775809', '2147483648', '%F0%9F%9A%A2', '%27',
            '%25', '%25_%5C', str_repeat('x', 5000), '%0A', '%E2%80%AE', '2016-13-45', 'reach', '-reach', '1%27%20or%201=1--',
            '%', '%G1', 'https://%5B::1', 'http://a:99999999/', '//', '%5C%5C', '%23', '%3F%3F', '2016-02-30T25:61', '%C2%A0',
            '0x1F', '%01',
        ]);
    }

    private function value(int $depth): mixed
    {
        return match ($this->number(0, $depth > 0 ? 21 : 17)) {
            0 => null,
            1 => true,
            2 => 0,
            3 => -1,
            4 => 1.5,
            5 => PHP_INT_MAX,
            6 => 1e300,
            7 => '',
            8 => "a\0b",
            9 => str_repeat('x', 70_000),
            10 => "\u{202E}\u{1F6A2}\u{FFFF}",
            11 => '99999999999999999999',
            12 => ['key' => 'value'],
            13 => [],
            14 => 'swap',
            15 => '1',
            16 => [1, 'a', null, [1]],
            17 => "\r\n\t",
            18 => array_fill(0, $this->one([3, 300, 100_000]), $this->number(1, 9)),
            19 => [$this->value($depth - 1), $this->value($depth - 1)],
            20 => ['a' => $this->value($depth - 1)],
            default => [[[$this->value($depth - 1)]]],
        };
    }

    private function often(int $percent): bool
    {
        return $this->number(1, 100) <= $percent;
    }

    private function number(int $from, int $to): int
    {
        return $this->random->getInt($from, $to);
    }

    /**
     * @template T
     *
     * @param  list<T>  $of
     * @return T
     */
    private function one(array $of): mixed
    {
        return $of[$this->number(0, count($of) - 1)];
    }
}
