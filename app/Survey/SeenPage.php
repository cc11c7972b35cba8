<?php

declare(strict_types=1);

namespace App\Survey;

use App\Reading\ChunkReader;
use App\Sites\OpenSite;
use Ylema\Addresses\Place;
use Ylema\Addresses\Resolver;
use Ylema\Addresses\Url;
use Ylema\Net\Mention;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/** Reads what the public site sent, as a browser would: the media that it names, and the style sheets. */
final readonly class SeenPage
{
    /** More than this on one page is no page that anybody looks at. */
    public const MOST = 2000;

    private FieldReader $reader;

    private Resolver $resolver;

    private Rules $rules;

    public function __construct(private OpenSite $site, Resolver $resolver, private PageNet $net)
    {
        $this->reader = new FieldReader();
        $this->resolver = $resolver;
        // What the site's own code puts in the place of tokens and numbers is seen here, so none is left to read.
        $this->rules = new Rules(
            lazyAttributes: $site->map->rules()->lazyAttributes,
            mediaFolders: $site->map->rules()->mediaFolders,
            elements: $site->map->elements,
        );
    }

    /**
     * @param  string|null  $type what it was sent as
     * @return array{array<string, array{string, string|null, string}>, list<string>, bool, list<Mention>} url → whole
     *       address, path below the root where it is the site's, and role; the style sheets of the page that are the
     *       site's; whether there was more than is counted; and of markup, what names files in a way that is not read
     */
    public function read(string $body, string $address, Notation $notation, ?string $type = null): array
    {
        $reading = $this->reader->read($body, $notation, $this->rules, Charset::labelIn($type));
        $own = Url::parse($address);
        $base = $reading->base === null ? $own : Url::parse($reading->base, $own) ?? $own;
        $media = $sheets = [];
        $mentions = $notation === Notation::Html ? $this->net->in($body, $reading, $base) : [];
        foreach ($reading->references as $reference) {
            if (count($media) >= self::MOST) {
                return [$media, array_map(strval(...), array_keys($sheets)), true, $mentions];
            }
            $from = $reading->isBeforeBase($reference) ? $own : $base;
            $place = $this->site->addresses->locate($reference->value, $from);
            if ($place === null) {
                continue;
            }
            if ($this->isSheet($reference, $place)) {
                $sheets[ChunkReader::key($place->url)] = true;
            }
            // A style sheet that is one of the site's files is fetched as well as read.
            if ($place->url->isWeb() && ChunkReader::concerns($this->resolver, $reference, $place)) {
                $url = ChunkReader::key($place->url);
                $media[hash('xxh128', $url)] ??= [$url, $place->path, $reference->role];
            }
        }

        return [$media, array_map(strval(...), array_keys($sheets)), false, $mentions];
    }

    private function isSheet(Reference $reference, Place $place): bool
    {
        return $place->path !== null
            && (str_starts_with($reference->role, 'link[') || $reference->role === 'css import')
            && preg_match('~\.css$~i', $place->url->path) === 1;
    }
}
