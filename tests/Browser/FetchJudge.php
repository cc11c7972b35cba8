<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use Facebook\WebDriver\Remote\RemoteWebDriver;
use PDO;
use Ylema\Addresses\Url;
use Ylema\Reading\Fetch;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;

/**
 * The browser as the judge: which pictures Chromium requests for a public page, what the reader says of the page's
 * markup and style sheets, and what the map says that a visitor of the page meets.
 */
final class FetchJudge
{
    private readonly RemoteWebDriver $browser;

    private readonly FieldReader $reader;

    private readonly Rules $rules;

    private readonly string $origin;

    private readonly PDO $index;

    public function __construct(Installation $installation)
    {
        $this->origin = $installation->site();
        $this->index = $installation->index();
        // The site's own names lead to its stand-ins on this machine; every other name leads nowhere.
        $this->browser = Chromium::start(
            $installation->driver(),
            ['--window-size=1280,4000', '--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1'],
            true,
        );
        $tools = new ChromeDevToolsDriver($this->browser);
        $tools->execute('Network.enable');
        $tools->execute('Network.setCacheDisabled', ['cacheDisabled' => true]);
        $this->reader = new FieldReader();
        $this->rules = new Rules(mediaFolders: ['/media/']);
    }

    public function quit(): void
    {
        $this->browser->quit();
    }

    /** @return list<string> addresses of public pages, from the site's root */
    public function pages(): array
    {
        return array_map(
            static fn (string $address): string => '/'.$address,
            $this->index
                ->query(
                    'select address from records where is_page and state = 0 and address is not null order by address',
                )
                ->fetchAll(PDO::FETCH_COLUMN),
        );
    }

    public function judge(string $path): FetchVerdict
    {
        $requested = $this->requested($path);
        [$always, $may] = $this->said($path);
        $missed = array_diff($always, $requested);
        $unnamed = array_diff($requested, $may);
        $own = [];
        foreach ($requested as $address) {
            if (str_starts_with($address, $this->origin.'/')) {
                $own[] = rawurldecode(substr((string) strtok($address, '?'), strlen($this->origin) + 1));
            }
        }

        return new FetchVerdict(
            $path,
            $requested,
            $always,
            array_values(array_intersect($requested, array_diff($may, $always))),
            array_values($missed),
            array_values($unnamed),
            array_values(array_diff($own, $this->mapped($path))),
        );
    }

    /** @return list<string> */
    private function requested(string $path): array
    {
        $this->browser->manage()->getLog('performance');
        $this->browser->get($this->origin.$path);
        $requested = [];
        // Until nothing more is asked for; style sheets and lazy pictures come late.
        for ($quiet = 0, $turns = 0; $quiet < 3 && $turns < 200; $turns++) {
            usleep(150_000);
            $isLoaded = $this->browser->executeScript(
                'return document.readyState === "complete" && [...document.images].every((picture) => '
                    .'picture.complete || picture.loading === "lazy")',
            );
            $quiet += $isLoaded ? 1 : 0;
            foreach ($this->browser->manage()->getLog('performance') as $entry) {
                $message = json_decode($entry['message'], true)['message'] ?? [];
                if (($message['method'] ?? '') !== 'Network.requestWillBeSent') {
                    continue;
                }
                $params = $message['params'];
                if (
                    in_array($params['type'] ?? '', ['Image', 'Media'], true)
                    && ($params['documentURL'] ?? '') === $this->origin.$path
                    && str_starts_with($params['request']['url'], 'http')
                ) {
                    $requested[(string) strtok($params['request']['url'], '#')] = true;
                    $quiet = 0;
                }
            }
        }

        return array_keys($requested);
    }

    /**
     * @return array{list<string>, list<string>} what a browser fetches by itself, and that with what it fetches on a
     *       condition
     */
    private function said(string $path): array
    {
        $page = Url::parse($this->origin.$path);
        $always = $may = [];
        foreach (
            $this->reader->read((string) file_get_contents($this->origin.$path), Notation::Html, $this->rules)
                ->references as $reference
        ) {
            $url = Url::parse($reference->value, $page);
            if ($url === null || ! $url->isWeb() || $reference->fetch === Fetch::WhenFollowed) {
                continue;
            }
            $sheet = $reference->role === 'link[href]' && str_ends_with($url->path, '.css');
            $shown = [];
            if ($sheet) {
                foreach (
                    $this->reader->read((string) file_get_contents((string) $url), Notation::Css, $this->rules)
                        ->references as $inSheet
                ) {
                    $shown[] = [Url::parse($inSheet->value, $url), $inSheet->fetch];
                }
            } else {
                // What other links lead to is no picture of the page: an icon, a manifest.
                $shown[] = [$url, $reference->role === 'link[href]' ? Fetch::OnCondition : $reference->fetch];
            }
            foreach ($shown as [$address, $fetch]) {
                if ($address !== null && $address->isWeb()) {
                    $bare = (string) new Url(
                        $address->scheme,
                        $address->host,
                        $address->port,
                        $address->path,
                        $address->query,
                    );
                    $may[$bare] = true;
                    if ($fetch === Fetch::Always) {
                        $always[$bare] = true;
                    }
                }
            }
        }

        return [array_keys($always), array_keys($may)];
    }

    /**
     * @return list<string> files of the items that the map says a visitor of the page meets, through any chain of
     *       carriers
     */
    private function mapped(string $path): array
    {
        $statement = $this->index->prepare(
            <<<'SQL'
            with recursive shown(id) as (
                select id from records where (is_page and state = 0 and address = ?) or everywhere
                union
                select m.target_record_id from media_references m join shown on shown.id = m.record_id
                where m.names = 'record' and m.target_record_id is not null
            )
            select f.path from media_references m join shown on shown.id = m.record_id
            join files f on f.media_item_id = m.media_item_id
            union select a.asked from media_references m join shown on shown.id = m.record_id
            join addresses a on a.id = m.address_id where a.asked is not null
            SQL
            ,
        );
        $statement->execute([ltrim($path, '/')]);

        return $statement->fetchAll(PDO::FETCH_COLUMN);
    }
}
