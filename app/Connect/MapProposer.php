<?php

declare(strict_types=1);

namespace App\Connect;

use App\Models\Site;
use Symfony\Component\Yaml\Yaml;
use Ylema\Connect\FileLookup;
use Ylema\Connect\FolderProposer;
use Ylema\Connect\FolderSamples;
use Ylema\Connect\Proposal;
use Ylema\Connect\Proposer;
use Ylema\Sites\MediaStore;
use Ylema\Sites\SourceUnavailable;
use Ylema\Sites\StoredFile;

/** Proposes the field map of a site from its database, its files and its public pages. */
final readonly class MapProposer
{
    /** Files that are told apart by name; a site with more has the same habits in those. */
    private const FILES = 300_000;

    /**
     * @param  array<string, string>  $answers question → answer
     *
     * @throws SourceUnavailable
     */
    public function propose(Site $site, MediaStore $files, array $answers = []): Proposal
    {
        $connection = $site->connection;
        if ($connection['dsn'] === '') {
            $trial = new PublicTrial($site);

            return (new FolderProposer(
                $this->look($connection, $files),
                $trial->isThere() ? $trial : null,
                $answers,
            ))->propose();
        }
        $samples = new DbSamples($connection['dsn'], $connection['user'], $connection['password']);
        $trial = new PublicTrial($site);
        $proposal = (new Proposer(
            $samples,
            new FileLookup($this->paths($files)),
            $site->addresses(),
            $trial->isThere() ? $trial : null,
            $answers,
        ))->propose();

        $map = $proposal->map;
        [$beside, $code] = (new FolderProposer(
            $this->look($connection, $files),
        ))->beside();
        if ($code !== []) {
            $map['code'] = $code;
        }
        $map['records'] = [...(is_array($map['records'] ?? null) ? $map['records'] : []), ...$beside];

        return new Proposal($map, $proposal->evidence, $proposal->questions, [
            ...$proposal->leftOut,
            ...array_map(static fn (string $why): string => "it could not be read: $why", $samples->unread),
        ], $proposal->former, $proposal->aliases);
    }

    /** @param  array{folder: string, content?: string, remote?: array<string, string>}  $connection */
    private function look(array $connection, MediaStore $files): FolderSamples
    {
        return isset($connection['remote']) && ! isset($connection['content'])
            ? new StoreLook($files)
            : new FolderLook($connection['content'] ?? $connection['folder']);
    }

    /** The map as a file, with what speaks for each kind of record above it. */
    public function yaml(Proposal $proposal): string
    {
        $yaml = Yaml::dump($proposal->map, 5, 2, Yaml::DUMP_EMPTY_ARRAY_AS_SEQUENCE);
        $lines = [];
        $table = '';
        foreach (explode("\n", $yaml) as $line) {
            if (preg_match('~^    table: (.+)$~', $line, $found) === 1) {
                $table = trim($found[1], "'\"");
            }
            if (preg_match('~^      (\w+):~', $line, $found) === 1 && isset($proposal->evidence["$table.$found[1]"])) {
                $lines[] = '      # '.$proposal->evidence["$table.$found[1]"];
            }
            if (
                preg_match('~^    (address|state|keep):~', $line, $found) === 1
                && isset($proposal->evidence["$table.$found[1]"])
            ) {
                $lines[] = '    # '.$proposal->evidence["$table.$found[1]"];
            }
            $lines[] = $line;
        }

        return "# Proposed by Ylema from the database, the files and the public pages; read it before you rely on it.\n"
            .implode("\n", $lines);
    }

    /** @return iterable<string> */
    private function paths(MediaStore $files): iterable
    {
        $count = 0;
        foreach ($files->files() as $file) {
            if ($file instanceof StoredFile && $count++ < self::FILES) {
                yield $file->path;
            }
        }
    }
}
