<?php

declare(strict_types=1);

use Ylema\Addresses\OutcomeKind;
use Ylema\Addresses\PageAnswer;
use Ylema\Addresses\PageIndex;
use Ylema\Addresses\PageResolver;
use Ylema\Addresses\SiteAddresses;

/** An index of pages that knows what it is told. */
function pageIndex(array $knows): PageIndex
{
    return new class($knows) implements PageIndex
    {
        public function __construct(private array $knows)
        {
        }

        private function told(string $what, array $addresses): array
        {
            return array_intersect_key($this->knows[$what] ?? [], array_flip($addresses));
        }

        public function pages(array $addresses): array
        {
            return $this->told('pages', $addresses);
        }

        public function formerly(array $addresses): array
        {
            return $this->told('formerly', $addresses);
        }

        public function redirected(array $addresses): array
        {
            return $this->told('redirected', $addresses);
        }

        public function answers(array $addresses): array
        {
            return $this->told('answers', $addresses);
        }

        public function alike(array $addresses): array
        {
            return $this->told('alike', $addresses);
        }
    };
}

it('says where a link leads', function (
    string $link,
    array $knows,
    OutcomeKind $kind,
    ?string $path,
    array $candidates = [],
): void {
    $addresses = new SiteAddresses('https://now.example/', ['https://www.old.example/bay/']);
    $outcome = (new PageResolver(pageIndex($knows)))->resolve([$addresses->locate($link)])[0];
    expect([$outcome->kind, $outcome->path, $outcome->candidates])->toBe([$kind, $path, $candidates]);
})->with([
    'a page' => ['/about/', ['pages' => ['about' => ['about/', true]]], OutcomeKind::Page, 'about/'],
    'the first page' => ['https://now.example', ['pages' => ['' => ['', true]]], OutcomeKind::Page, ''],
    'a page over plain http' => [
        'http://now.example/about',
        ['pages' => ['about' => ['about', true]]],
        OutcomeKind::InsecureScheme,
        'about',
    ],
    'a page at the former address' => [
        'https://old.example/bay/about#x',
        ['pages' => ['about' => ['about', true]]],
        OutcomeKind::FormerAddress,
        'about',
    ],
    'a page that is known by its query' => [
        '/index.php?p=7',
        ['pages' => ['index.php?p=7' => ['index.php?p=7', true], 'index.php' => ['index.php', true]]],
        OutcomeKind::Page,
        'index.php?p=7',
    ],
    'a page asked with more' => ['/a?utm=1', ['pages' => ['a' => ['a', true]]], OutcomeKind::Page, 'a'],
    'a page that visitors do not get' => [
        '/draft',
        ['pages' => ['draft' => ['draft', false]], 'alike' => ['draft' => ['drafts']]],
        OutcomeKind::DeadLink,
        null,
        ['drafts'],
    ],
    'a renamed page' => ['/old', ['formerly' => ['old' => 'new']], OutcomeKind::DeadLink, 'new', ['new']],
    'a page that is gone' => ['/old', ['formerly' => ['old' => null]], OutcomeKind::DeadLink, null],
    'a redirect' => ['/old', ['redirected' => ['old' => 'new']], OutcomeKind::ByRedirect, 'new'],
    'a redirect is surer than a name of before' => [
        '/old',
        ['redirected' => ['old' => 'there'], 'formerly' => ['old' => 'new']],
        OutcomeKind::ByRedirect,
        'there',
    ],
    'a redirect that was met' => [
        '/old',
        ['answers' => ['old' => new PageAnswer(200, 'new')]],
        OutcomeKind::ByRedirect,
        'new',
    ],
    'an address that the site itself answers' => [
        '/search?q=x',
        ['answers' => ['search?q=x' => new PageAnswer(200)]],
        OutcomeKind::Page,
        'search?q=x',
    ],
    'an address that answers 404' => [
        '/storm',
        ['answers' => ['storm' => new PageAnswer(404)], 'alike' => ['storm' => ['the-storm']]],
        OutcomeKind::DeadLink,
        null,
        ['the-storm'],
    ],
    'an address that could not say' => ['/x', ['answers' => ['x' => new PageAnswer(503)]], OutcomeKind::Page, null],
    'an address that nobody asked' => ['/x', [], OutcomeKind::Page, null],
    'a former address of which nothing is known' => ['https://old.example/bay/x', [], OutcomeKind::DeadLink, null],
    'a former address that is served here' => [
        'https://old.example/bay/x?y',
        ['answers' => ['x?y' => new PageAnswer(200)]],
        OutcomeKind::FormerAddress,
        'x?y',
    ],
    'another site' => ['https://elsewhere.example/', [], OutcomeKind::Elsewhere, null],
]);

it('has one key for each path and query, whatever signs they are made of', function (): void {
    mt_srand(4711);
    $parts = ['?', '%', '3F', '25', '%3F', '%25', '%253F', 'a', '/', '=', '%3f', '#', ' ', 'ü'];
    $draw = static fn (): string => implode('', array_map(
        static fn (): string => $parts[mt_rand(0, count($parts) - 1)],
        range(0, mt_rand(0, 7)),
    ));
    $seen = [];
    for ($i = 0; $i < 20_000; $i++) {
        $path = trim($draw(), '/');
        $query = mt_rand(0, 1) === 0 ? null : $draw();
        $key = PageResolver::key($path, $query);
        expect([PageResolver::path($key), PageResolver::query($key)])->toBe([$path, $query === '' ? null : $query]);
        $is = serialize([$path, $query === '' ? null : $query]);
        expect($seen[$key] ??= $is)->toBe($is);
    }
    expect(PageResolver::key('media/what?.jpg'))->toBe('media/what%3F.jpg')
        ->and(PageResolver::key('index.php', 'p=7'))->toBe('index.php?p=7');
});
