<?php

declare(strict_types=1);

namespace App\Plans;

use App\Media\Pictures;
use App\Models\Site;
use App\Outgoing\HostNames;
use App\Outgoing\Question;
use App\Outgoing\Visit;
use App\Outgoing\Visitor;
use App\Sites\OpenSite;
use App\Support\Sql;
use App\Vault\Vault;
use Illuminate\Support\Facades\DB;
use stdClass;
use Ylema\Addresses\SiteAddresses;
use Ylema\Imaging\UploadRefused;
use Ylema\Sites\FileState;

/** Files that are gone from the site, and where their bytes may still be: in the vault, or at a former address. */
final readonly class LostFiles
{
    private const SECONDS = 20;

    private const AT_ONCE = 4;

    public function __construct(private Vault $vault, private HostNames $names)
    {
    }

    /**
     * @param  list<string>  $paths
     * @return array<string, string> path → where its bytes are: kept, or the address that gave them out when it was
     *       last asked
     */
    public function whereabouts(Site $site, array $paths): array
    {
        $found = [];
        foreach ($this->inVault($site->id, $paths) as $path => $sha) {
            $found[$path] = 'kept';
        }
        $asked = [];
        foreach ($site->addresses()->former() as $former) {
            foreach ($paths as $path) {
                if (! isset($found[$path])) {
                    $url = $former->withoutQuery().SiteAddresses::encodePath($path);
                    $asked[hash('xxh128', $url)] = [$path, $url];
                }
            }
        }
        $rows = DB::select(
            'select url_hash from visits where site_id = ? and status = 200 and url_hash = any(cast(? as text[]))',
            [$site->id, Sql::texts(array_map(strval(...), array_keys($asked)))],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            [$path, $url] = $asked[trim((string) $row->url_hash)];
            $found[$path] ??= $url;
        }

        return $found;
    }

    /**
     * @param  list<string>  $paths
     * @return array<string, FileState> kept in the vault
     */
    public function recover(OpenSite $site, array $paths): array
    {
        $states = [];
        foreach ($this->inVault($site->id, $paths) as $path => $sha) {
            $states[$path] = new FileState($sha, strlen($this->vault->get($sha)));
        }
        $model = Site::query()->findOrFail($site->id);
        $visitor = new Visitor(
            $model,
            $this->names,
            (new Pictures())->check()->maxBytes,
            self::SECONDS,
            self::AT_ONCE,
            $model->pause,
        );
        foreach ($model->addresses()->former() as $former) {
            $left = array_values(array_diff($paths, array_keys($states)));
            $visitor->visit(
                array_map(
                    static fn (string $path): Question => new Question(
                        $former->withoutQuery().SiteAddresses::encodePath($path),
                        follows: false,
                    ),
                    $left,
                ),
                function (int $i, Visit $visit) use ($left, &$states): void {
                    $state = $visit->status() === 200
                        ? $this->kept((string) $visit->response?->getBody(), $left[$i])
                        : null;
                    if ($state !== null) {
                        $states[$left[$i]] = $state;
                    }
                },
            );
        }

        return $states;
    }

    /** Only what is a file of its kind: a former address often answers all with one page. */
    private function kept(string $bytes, string $path): ?FileState
    {
        try {
            (new Pictures())->check()->judge($bytes, basename($path));
        } catch (UploadRefused) {
            return null;
        }

        return new FileState($this->vault->put($bytes), strlen($bytes));
    }

    /**
     * @param  list<string>  $paths
     * @return array<string, string> path → hash, of those whose bytes are kept
     */
    private function inVault(int $site, array $paths): array
    {
        $kept = [];
        $rows = DB::select(
            'select path, sha256 from former_files where site_id = ? and path = any(cast(? as text[]))',
            [$site, Sql::texts($paths)],
        );
        /** @var stdClass $row */
        foreach ($rows as $row) {
            $sha = trim((string) $row->sha256);
            if ($this->vault->has($sha)) {
                $kept[(string) $row->path] = $sha;
            }
        }

        return $kept;
    }
}
