<?php

declare(strict_types=1);

namespace App\Changes\Verifying;

use App\Models\Record;
use App\Outgoing\Visitor;
use App\Sites\OpenSite;
use App\Support\Sql;
use App\Usage\UsageIndex;
use Psr\Http\Message\ResponseInterface;
use Ylema\Addresses\Url;
use Ylema\Plan\Expectation;
use Ylema\Reading\Encoding\Charset;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;

/** Public pages and style sheets, against what a plan said that visitors meet on them. */
final readonly class PageLook
{
    /** Style sheets that were written themselves, and are asked for beside the pages. */
    private const SHEETS = 60;

    public function __construct(
        private OpenSite $site,
        private Visitor $visitor,
        private FieldReader $reader,
        private Expectation $expected,
        private int $since,
    ) {
    }

    /**
     * @param  list<int>  $records ids of what was written
     * @param  int  $limit pages that are asked for at most
     * @return array{list<array<string, mixed>>, int, int} what was seen on each, pages asked for, pages reached
     */
    public function look(array $records, int $limit): array
    {
        if ($records === []) {
            return [[], 0, 0];
        }
        [$reached, $sample] = (new UsageIndex($this->site->id))->sample($records, $limit);
        $pages = Record::query()
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($sample)])
            ->orderBy('address')
            ->get();
        // A changed style sheet is fetched by address, too, and caches keep it as they keep pages.
        $sheets = Record::query()
            ->whereRaw('id = any(cast(? as bigint[]))', [Sql::ids($records)])
            ->where('is_page', false)
            ->whereNotNull('address')
            ->orderBy('id')
            ->limit(self::SHEETS)
            ->get();

        return [$this->ask([...$pages->all(), ...$sheets->all()]), $pages->count(), $reached];
    }

    /**
     * @param  list<Record>  $all
     * @return list<array<string, mixed>>
     */
    public function ask(array $all): array
    {
        $addresses = array_map(
            fn (Record $page): string => $this->site->addresses->addressOf((string) $page->address),
            $all,
        );
        $seen = [];
        $this->visitor->ask($addresses, 'GET', function (int $i, ?ResponseInterface $response, ?string $error) use (
            &$seen,
            $all,
            $addresses,
        ): void {
            $age = $response?->getHeaderLine('Age') ?? '';
            $age = $age === '' ? null : (int) $age;
            [$verdict, $words] = $response === null
                ? ['unreachable', (string) $error]
                : $this->unreadable($response, $all[$i]) ?? $this->verdict($response, $all[$i], $addresses[$i], $age);
            $seen[$i] = [
                'id' => $all[$i]->id,
                'title' => $all[$i]->title,
                'address' => $addresses[$i],
                'verdict' => $verdict,
                'words' => $words,
                'age' => $age,
            ];
        });
        ksort($seen);

        return array_values($seen);
    }

    /** @return array{string, string}|null verdict and words where the answer is not the page; null where it is */
    private function unreadable(ResponseInterface $response, Record $page): ?array
    {
        $status = $response->getStatusCode();
        $packed = trim(strtolower($response->getHeaderLine('Content-Encoding')));
        $type = $response->getHeaderLine('Content-Type');

        return match (true) {
            $status >= 400 => ['unreachable', "It answers $status."],
            $status >= 300 => [
                'unreachable',
                'It leads on to an address that is not the site\'s own, or goes round in circles; '
                    .'nothing can be said of what a visitor meets there.',
            ],
            ! in_array($packed, ['', 'identity'], true) => [
                'unclear',
                "It came packed ($packed), which nobody asked for, and was not looked into.",
            ],
            $page->is_page && preg_match('~^\s*(?:$|text/|application/(?:xhtml\+)?xml)~i', $type) !== 1 => [
                'unclear',
                "It is sent as $type, not as a page, and was not looked into.",
            ],
            default => null,
        };
    }

    /** @return array{string, string} verdict and words */
    private function verdict(ResponseInterface $response, Record $page, string $address, ?int $age): array
    {
        $body = (string) $response->getBody();
        $expected = $this->expected;
        [$shown, $said] = $this->shown($body, $page, $address, $response->getHeaderLine('Content-Type'));
        $before = $age !== null && time() - $age < $this->since;
        $hasOld = array_intersect_key($shown, array_fill_keys($expected->gone, true)) !== []
            || array_intersect_key($said, array_fill_keys($expected->unsaid, true)) !== [];
        $hasNew = array_intersect_key($shown, array_fill_keys($expected->there, true)) !== []
            || array_intersect_key($said, array_fill_keys($expected->said, true)) !== []
            || array_intersect_key($shown, $this->places($expected->said, $address)) !== [];
        foreach ($expected->texts as $text) {
            $hasNew =
                $hasNew
                || str_contains($body, htmlspecialchars($text, ENT_QUOTES | ENT_HTML5))
                || str_contains($body, $text);
        }
        $waitsForNew = $expected->there !== [] || $expected->said !== [] || $expected->texts !== [];

        return match (true) {
            $hasOld && $before => [
                'stale',
                "A cache made this page {$age} s ago, before the change, and still gives it out.",
            ],
            $hasOld && ! $hasNew => [
                'old',
                'It still shows the old file in a place that was not chosen or could not be written.',
            ],
            $hasOld && $expected->everywhere => [
                'old',
                'It shows what the plan said, and in another place still the old file.',
            ],
            $hasOld => ['fresh', 'It shows what the plan said, and the old file in places that were not chosen.'],
            $hasNew => ['fresh', 'It shows what the plan said.'],
            $before => ['stale', "A cache made this page {$age} s ago, before the change."],
            $waitsForNew => [
                'unclear',
                'It names neither the old file nor the new one, so nothing can be said of what a visitor sees there: '
                    .'a script may put it in, or another page may be given out at this address.',
            ],
            default => ['fresh', 'It no longer names the old file.'],
        };
    }

    /**
     * @param  list<string>  $values
     * @return array<string, true> paths that they lead to from a page, which may say them in another way
     */
    private function places(array $values, string $address): array
    {
        $own = Url::parse($address);
        $paths = array_map(fn (string $value): ?string => $this->site->addresses->locate($value, $own)?->path, $values);

        return array_fill_keys(array_filter($paths, is_string(...)), true);
    }

    /**
     * The files that a page or style sheet names, as a browser would resolve them, and how it says so.
     *
     * @param  string  $type what it was sent as
     * @return array{array<string, true>, array<string, true>} paths, and values
     */
    private function shown(string $body, Record $page, string $address, string $type): array
    {
        $notation = $page->is_page ? Notation::Html : Notation::Css;
        $reading = $this->reader->read($body, $notation, $this->site->map->rules(), Charset::labelIn($type));
        $own = Url::parse($address);
        $base = $reading->base === null ? $own : Url::parse($reading->base, $own) ?? $own;
        $paths = $values = [];
        foreach ($reading->references as $reference) {
            $values[$reference->value] = true;
            $from = $reading->isBeforeBase($reference) ? $own : $base;
            $path = $this->site->addresses->locate($reference->value, $from)?->path;
            if ($path !== null) {
                $paths[$path] = true;
            }
        }

        return [$paths, $values];
    }
}
