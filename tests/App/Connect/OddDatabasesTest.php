<?php

declare(strict_types=1);

use App\Connect\DbSamples;
use Tests\App\Connect\SecondSite;
use Ylema\Addresses\SiteAddresses;
use Ylema\Connect\FileLookup;
use Ylema\Connect\Proposer;

/*
 * Databases that nobody would make on purpose: each gets a proposal, or a sentence that says why a part of it does not.
 */

function proposedOf(string $name, array $statements): array
{
    $file = Tests\App\AppTestCase::folder()."/$name.sqlite";
    @unlink($file);
    $pdo = new PDO("sqlite:$file");
    $pdo->exec('begin');
    array_map($pdo->exec(...), $statements);
    $pdo->exec('commit');
    $samples = new DbSamples("sqlite:$file", '', '');
    $proposal = (new Proposer(
        $samples,
        new FileLookup(['u/a.jpg']),
        new SiteAddresses('https://x.example/'),
    ))->propose();

    return [$proposal->map['records'] ?? [], $proposal->leftOut, $samples->unread];
}

it('reads 2,000 tables as soon as few', function (): void {
    $statements = [];
    foreach (range(1, 2000) as $n) {
        $statements[] = "create table t$n (id integer primary key, name varchar(50), body text, picture_id int)";
        $statements[] = "insert into t$n values (1, 'x', '<img src=\"/u/a.jpg\">', 1)";
    }
    [$records] = proposedOf('many', $statements);
    expect($records)->toHaveCount(2000)->and(memory_get_peak_usage())->toBeLessThan(900_000_000);
});

it('keeps what a database stamps by itself', function (): void {
    $pdo = SecondSite::empty(SecondSite::maria());
    $pdo->exec('create table pages (id int primary key, body text, made datetime default now(), '
        .'changed timestamp default now() on update now())');
    $pdo->exec("insert into pages (id, body) values (1, '<img src=\"/u/a.jpg\">')");
    $connection = SecondSite::credentials();
    $proposal = (new Proposer(
        new DbSamples($connection['dsn'], $connection['user'], $connection['password']),
        new FileLookup(['u/a.jpg']),
        new SiteAddresses('https://x.example/'),
    ))->propose();
    expect($proposal->map['records']['page']['keep'])
        ->toBe(['changed'])
        ->and($proposal->evidence['pages.keep'])
        ->toContain('writes it anew');
});

it('leaves out what nothing names, and says so', function (): void {
    [$records, $leftOut] = proposedOf('keyless', [
        'create table notes (body text)',
        "insert into notes values ('<img src=\"/u/a.jpg\">')",
        'create table posts (id integer primary key, body text)',
        "insert into posts values (1, '<img src=\"/u/a.jpg\">')",
        'create view newest as select * from posts',
        'create table unused (id integer primary key)',
    ]);
    expect(array_column($records, 'table'))
        ->toBe(['posts'])
        ->and($leftOut['notes'])
        ->toContain('nothing names its rows')
        ->and($leftOut['unused'])
        ->toBe('it is empty');
});

it('judges rows of 50 MB by their beginning, and broken text by the rest of it', function (): void {
    [$records] = proposedOf('large', [
        'create table pages (id integer primary key, body text, other text)',
        "insert into pages values (1, '<img src=\"/u/a.jpg\">' || hex(zeroblob(25000000)), null)",
        "insert into pages values (2, null, cast(x'ff' as text) || '<img src=\"/u/a.jpg\">' || cast(x'fe00' as text))",
    ]);
    expect($records['page']['fields'])->toBe(['body' => 'html', 'other' => 'html']);
});

it('asks whether a folder is that of the site, where nothing in the database names a file of it', function (
    array $files,
    string $asks,
): void {
    $file = Tests\App\AppTestCase::folder().'/elsewhere.sqlite';
    @unlink($file);
    $pdo = new PDO("sqlite:$file");
    $pdo->exec('create table posts (id integer primary key, title varchar(20), body text)');
    $pdo->exec("insert into posts values (1, 'One', '<img src=\"/u/a.jpg\">')");
    $propose = static fn (array $files): array => array_map(
        static fn (object $question): string => $question->words,
        (new Proposer(
            new DbSamples("sqlite:$file", '', ''),
            new FileLookup($files),
            new SiteAddresses('https://x.example/'),
        ))->propose()->questions,
    );
    expect(implode(' ', $propose($files)))
        ->toContain($asks)
        ->and(implode(' ', $propose(['u/a.jpg'])))
        ->not->toContain('folder of this site');
})->with([
    'another site' => [['pics/x.jpg', 'pics/y.jpg'], 'names any of the 2 files in the folder. Is it the folder'],
    'an empty folder' => [[], 'No file lies in the folder of the files'],
]);
