<?php

declare(strict_types=1);

namespace Tests\App\Connect\Drawn;

/**
 * What one site writes into its columns, with the files that each text uses: markup, Markdown, json, serialized arrays,
 * tokens, and what looks like a use and is none.
 *
 * @phpstan-type Written array{string, list<string>} a text, and paths that it uses
 */
final class Content
{
    private const TOKENS = [
        '[[%s %s]]', '{{%s:%s}}', '[%s id="%s"]', '##%s(%s,left)##', '{%s=%s}', '<!--%s:%s-->', '[%s=%s]',
    ];

    /** rooted, absolute, plain, former, bare, or number: how addresses of media are written */
    public readonly string $way;

    private readonly ?string $token;

    private readonly string $tokenWord;

    private readonly string $byNumber;

    private readonly Draw $draw;

    /** @var list<array{key: string, path: string, small: string|null}> */
    private readonly array $pool;

    private int $gone = 0;

    public function __construct(private readonly DrawnSite $site)
    {
        $this->draw = $site->draw;
        $this->pool = $site->library->pool();
        $ways = [
            'rooted', 'rooted', 'rooted', 'absolute', 'plain', 'stamped', 'bare',
            ...$site->former === '' ? [] : ['former', 'former'],
            ...$site->library->isByNumber ? ['number', 'number', 'number'] : []];
        $this->way = $this->draw->one($ways);
        $this->byNumber = $this->draw->one(['/file.php?id=%s', '/dl/%s/picture.jpg', '/media.php?nr=%s']);
        $hasNumbers = ! in_array($site->library->kind, ['none', 'natural'], true);
        $this->token = $hasNumbers && $this->draw->is(40) ? $this->draw->one(self::TOKENS) : null;
        $this->tokenWord = $this->draw->one(['photo', 'image', 'picture', 'pic', 'media', 'bild', 'foto']);
        if ($this->token !== null) {
            $site->habits[] = 'token '.sprintf($this->token, $this->tokenWord, 'N');
        }
    }

    /** @return array{key: string, path: string, small: string|null} */
    public function item(): array
    {
        return $this->draw->one($this->pool);
    }

    /** @return Written an address, and the file that it leads to */
    public function address(): array
    {
        $item = $this->item();
        $way = $this->draw->is(85) ? $this->way : 'rooted';
        if ($way === 'number') {
            return [sprintf($this->byNumber, $item['key']), [$item['path']]];
        }
        $path = $item['small'] !== null && $this->draw->is(30) ? $item['small'] : $item['path'];
        $written = str_replace(' ', '%20', $path);
        if ($way === 'former') {
            $this->site->wrong["http://{$this->site->former}/$written"] = true;
        }

        return [match ($way) {
            'absolute' => "https://{$this->site->host}/$written",
            'plain' => "//{$this->site->host}/$written",
            'stamped' => "/$written?v=3",
            'former' => "http://{$this->site->former}/$written",
            'bare' => $written,
            default => "/$written",
        }, [$path]];
    }

    /** @return Written */
    public function html(string $pages): array
    {
        $text = '<h2>About</h2><p>Words of a day by the sea.</p>';
        $paths = [];
        $said = $this->draw->number(0, 3);
        for ($i = 0; $i < $said; $i++) {
            [$part, $own] = $this->part();
            $text .= "\n$part";
            array_push($paths, ...$own);
        }
        if ($pages !== '' && $this->draw->is(40)) {
            $text .= "<p>See <a href=\"$pages\">more of it</a>.</p>";
        }

        return [$text, $paths];
    }

    /** @return Written */
    private function part(): array
    {
        [$address, $paths] = $this->address();
        $drawn = $this->draw->number(1, 100);
        if ($drawn <= 8) {
            return $this->decoy($address);
        }
        if ($drawn <= 11) {
            $gone = '/'.$this->site->library->base.'gone-'.(++$this->gone).'.jpg';
            $this->site->wrong[$gone] = true;

            return ["<p><img src=\"$gone\" alt=\"gone\"></p>", []];
        }
        if ($this->token !== null && $drawn <= 45) {
            $item = $this->item();

            return ['<p>'.sprintf($this->token, $this->tokenWord, $item['key']).'</p>', [$item['path']]];
        }

        if ($drawn === 49 && $this->way === 'rooted') {
            return ["[img]{$address}[/img]", $paths];
        }

        return match (intdiv($drawn, 10)) {
            5 => ["<a href=\"$address\">Take it with you</a>", $paths],
            6 => ["<div style=\"background-image: url('$address')\">x</div>", $paths],
            7 => str_contains($address, ' ') ? ["<img src=\"$address\">", $paths]
                : ["<img src=\"$address\" srcset=\"$address 2x\" alt=\"\">", [...$paths, ...$paths]],
            8 => ["<figure><img alt='x' src='$address'><figcaption>Words</figcaption></figure>", $paths],
            default => ["<p><img src=\"$address\" alt=\"A view\" width=\"300\"></p>", $paths],
        };
    }

    /** @return Written what looks like a use, and is none */
    private function decoy(string $address): array
    {
        $key = $this->item()['key'];
        $token = sprintf($this->token ?? '[[%s %s]]', $this->tokenWord, $key);
        $abroad = 'https://pictures.example/'.basename($address);
        $this->site->wrong[$abroad] = true;

        return [match ($this->draw->number(1, 6)) {
            1 => '<p>Write <code>&lt;img src="'.$address.'"&gt;</code> to show it.</p>',
            2 => "<!-- <p><img src=\"$address\"></p> -->",
            3 => str_starts_with($token, '<') ? '' : "<p>Write <code>$token</code> to place one.</p>",
            4 => '<p><a href="https://partner.example/welcome/logo.png">our partner</a></p>',
            5 => '<p><img src="'.$abroad.'" alt="of others"></p>',
            default => '<p>Taken with a camera, no. '.$key.', f/2.8, 1/250 s.</p>',
        }, []];
    }

    /** @return Written */
    public function markdown(string $pages): array
    {
        [$text, $paths] = ["## About\n\nWords of a *day* by the sea.\n", []];
        $said = $this->draw->number(0, 3);
        for ($i = 0; $i < $said; $i++) {
            [$address, $own] = $this->address();
            [$part, $own] = match ($this->draw->number(1, 5)) {
                1 => ["[a sheet]($address)", $own],
                2 => ["`![x]($address)`", []],
                3 => ["![A view]($address \"words\")", $own],
                default => ["![A view]($address)", $own],
            };
            $text .= "\n$part\n";
            array_push($paths, ...$own);
        }

        return [$text.($pages === '' ? '' : "\n[More]($pages)\n"), $paths];
    }

    /** @return array{array<array-key, mixed>, list<string>} a document of blocks, and paths that it uses */
    public function blocks(string $shape): array
    {
        [$blocks, $paths] = [[], []];
        $many = $this->draw->number(1, 4);
        for ($i = 0; $i < $many; $i++) {
            [$block, $own] = $this->block($shape);
            $blocks[] = $block;
            array_push($paths, ...$own);
        }

        return [str_ends_with($shape, '!') ? ['version' => 2, 'blocks' => $blocks] : $blocks, $paths];
    }

    /** @return array{array<string, mixed>, list<string>} */
    private function block(string $shape): array
    {
        $hasIds = $this->site->library->kind !== 'none' && str_starts_with($shape, 'id');
        switch ($this->draw->number(1, 4)) {
            case 1:
                [$html, $paths] = $this->html('');

                return [['type' => 'text', 'html' => $html], $paths];
            case 2:
                $items = [$this->item(), $this->item(), $this->item()];
                $paths = array_column($items, 'path');
                $keys = array_map(self::key(...), array_column($items, 'key'));

                return [$hasIds
                    ? ['type' => 'gallery', 'images' => $keys]
                    : ['type' => 'gallery', 'images' => array_map(
                        static fn (string $path): array => ['src' => '/'.str_replace(' ', '%20', $path), 'alt' => ''],
                        $paths,
                    )], $paths];
            default:
                $item = $this->item();
                if (! $hasIds) {
                    [$address, $paths] = $this->address();

                    return [['type' => 'image', 'src' => $address, 'width' => 640], $paths];
                }
                $key = self::key($item['key']);

                return [match (rtrim($shape, '!')) {
                    'id plain' => ['type' => 'image', 'image' => $key, 'width' => 640],
                    'id word' => ['type' => 'image', 'imageId' => $key],
                    default => ['type' => 'image', 'data' => ['file' => ['id' => $key, 'alt' => 'x']]],
                }, [$item['path']]];
        }
    }

    public static function key(string $key): int|string
    {
        return ctype_digit($key) ? (int) $key : $key;
    }
}
