<?php

declare(strict_types=1);

namespace App\Sites;

use App\Reading\DbFileIndex;
use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\Resolver;
use Ylema\Addresses\SiteAddresses;
use Ylema\Sites\ContentSource;
use Ylema\Sites\MediaStore;

/** One site with its ports open: what every service of this application is handed. */
final readonly class OpenSite
{
    public function __construct(
        public int $id,
        public FieldMap $map,
        public SiteAddresses $addresses,
        public ContentSource $content,
        public MediaStore $files,
    ) {
    }

    public function renditionNames(): RenditionNames
    {
        return $this->map->renditionNames;
    }

    public function resolver(): Resolver
    {
        return new Resolver(new DbFileIndex($this->id), $this->map->renditionNames, $this->map->mediaFolders, $this->map->mediaPages);
    }
}
