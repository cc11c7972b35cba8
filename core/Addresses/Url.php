<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * An address as the URL Standard parses and resolves it (https://url.spec.whatwg.org, section 4.4),
 * for the special schemes of the web; others are kept whole and never resolved.
 */
final readonly class Url
{
    private const DEFAULT_PORTS = ['http' => 80, 'https' => 443, 'ws' => 80, 'wss' => 443, 'ftp' => 21];

    /** Schemes that mean something on every site; a site's own address begins with none of them. */
    public const KNOWN = [
        'http', 'https', 'ws', 'wss', 'ftp', 'file', 'data', 'blob', 'about', 'javascript', 'mailto', 'tel', 'sms',
        'urn', 'view-source', 'intent', 'magnet', 'geo',
    ];

    /**
     * @param  string  $path begins with `/` for special schemes; opaque otherwise
     * @param  int|null  $port null for the scheme's default
     */
    public function __construct(
        public string $scheme,
        public string $host,
        public ?int $port,
        public string $path,
        public ?string $query = null,
        public ?string $fragment = null,
    ) {
    }

    /** @return self|null null where a browser would refuse the address */
    public static function parse(string $input, ?self $base = null): ?self
    {
        // 4.4, steps 1–3: controls and spaces at the ends, tabs and newlines anywhere, are dropped.
        $input = preg_replace('~^[\x00-\x20]+|[\x00-\x20]+$~', '', $input) ?? '';
        $input = str_replace(["\t", "\n", "\r"], '', $input);
        $fragment = null;
        if (($hash = strpos($input, '#')) !== false) {
            // The fragment percent-encode set (1.3).
            $fragment = self::encode(substr($input, $hash + 1), '\x00-\x20"<>`\x7F-\xFF');
            $input = substr($input, 0, $hash);
        }
        $scheme = null;
        if (preg_match('~^([a-z][a-z0-9+.-]*):~i', $input, $m) === 1) {
            $scheme = strtolower($m[1]);
            $rest = substr($input, strlen($m[0]));
            if (! isset(self::DEFAULT_PORTS[$scheme])) {
                return self::opaque($scheme, $rest, $fragment);
            }
            // "http:path" is relative when the base has the same scheme (special relative or authority state).
            if ($base !== null && $base->scheme === $scheme && preg_match('~^[/\\\\]{2}~', $rest) !== 1) {
                $input = $rest;
                $scheme = null;
            } else {
                $input = '//'.ltrim($rest, '/\\');
            }
        }
        if ($scheme === null && ($base === null || ! isset(self::DEFAULT_PORTS[$base->scheme]))) {
            return null;
        }
        $query = null;
        if (($mark = strpos($input, '?')) !== false) {
            $query = self::encode(substr($input, $mark + 1), '\x00-\x20"#<>\'\x7F-\xFF');
            $input = substr($input, 0, $mark);
        }
        $input = str_replace('\\', '/', $input);
        $scheme ??= $base === null ? 'https' : $base->scheme;
        if (str_starts_with($input, '//')) {
            return self::withAuthority($scheme, $input, $query, $fragment);
        }
        if ($base === null) {
            return null;
        }
        if ($input === '') {
            return new self($scheme, $base->host, $base->port, $base->path, $query ?? $base->query, $fragment);
        }
        $path = $input[0] === '/' ? $input : substr($base->path, 0, (int) strrpos($base->path, '/') + 1).$input;

        return new self($scheme, $base->host, $base->port, self::normalisePath($path), $query, $fragment);
    }

    /** An address that is no address of a host: nothing in it is resolved. */
    private static function opaque(string $scheme, string $rest, ?string $fragment): self
    {
        $parts = explode('?', $rest, 2);

        return new self($scheme, '', null, $parts[0], $parts[1] ?? null, $fragment);
    }

    private static function withAuthority(string $scheme, string $input, ?string $query, ?string $fragment): ?self
    {
        $input = ltrim($input, '/');
        $slash = strpos($input, '/');
        $authority = $slash === false ? $input : substr($input, 0, $slash);
        $path = $slash === false ? '/' : substr($input, $slash);
        if (($at = strrpos($authority, '@')) !== false) {
            $authority = substr($authority, $at + 1);
        }
        if (preg_match('~^(.*?)(?::(\d*))?$~sD', $authority, $m) !== 1) {
            return null;
        }
        $host = Host::parse($m[1]);
        if ($host === null) {
            return null;
        }
        $port = ($m[2] ?? '') === '' ? null : (int) $m[2];
        if ($port !== null && $port > 65535) {
            return null;
        }

        return new self(
            $scheme,
            $host,
            $port === self::DEFAULT_PORTS[$scheme] ? null : $port,
            self::normalisePath($path),
            $query,
            $fragment,
        );
    }

    /** Dot segments, also in their percent-encoded spellings, and the path percent-encode set (4.4, path state). */
    private static function normalisePath(string $path): string
    {
        $out = [];
        $segments = explode('/', substr($path, 1));
        $last = count($segments) - 1;
        foreach ($segments as $i => $segment) {
            $plain = strtolower(str_ireplace('%2e', '.', $segment));
            if ($plain === '..') {
                array_pop($out);
            } elseif ($plain !== '.') {
                $out[] = self::encode($segment, '\x00-\x20"#<>?^`{}\x7F-\xFF');

                continue;
            }
            if ($i === $last) {
                $out[] = '';
            }
        }

        return '/'.implode('/', $out);
    }

    private static function encode(string $text, string $set): string
    {
        return preg_replace_callback("~[$set]~", static fn (array $m): string => sprintf('%%%02X', ord($m[0])), $text)
            ?? $text;
    }

    public function isWeb(): bool
    {
        return $this->scheme === 'http' || $this->scheme === 'https';
    }

    /** The address without query and fragment. */
    public function withoutQuery(): self
    {
        return new self($this->scheme, $this->host, $this->port, $this->path);
    }

    public function authority(): string
    {
        return $this->host.($this->port === null ? '' : ':'.$this->port);
    }

    public function __toString(): string
    {
        if (! isset(self::DEFAULT_PORTS[$this->scheme])) {
            $written = $this->scheme.':'.$this->path;
        } else {
            $written = $this->scheme.'://'.$this->authority().$this->path;
        }

        return $written
            .($this->query === null ? '' : '?'.$this->query)
            .($this->fragment === null ? '' : '#'.$this->fragment);
    }
}
