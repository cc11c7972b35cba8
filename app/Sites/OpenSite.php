<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Addresses\RenditionNames;
use Ylema\Addresses\SiteAddresses;
use Ylema\Sites\ContentSource;
use Ylema\Sites\MediaStore;

/** One site with its ports open: what every service of this application is handed. */
final readonly class OpenSite
{
    /**
     * @param  string  $readWith names all that an index depends on besides the content itself
     * @param  CodeFiles|null  $code null where nobody said where the site's own code is
     * @param  TablesBeside|null  $tablesBeside null where the content lies in no database
     */
    public function __construct(
        public int $id,
        public FieldMap $map,
        public SiteAddresses $addresses,
        public ContentSource $content,
        public MediaStore $files,
        public string $readWith = '',
        public ?CodeFiles $code = null,
        public ?TablesBeside $tablesBeside = null,
        public ?FilesBeside $filesBeside = null,
    ) {
    }

    public function renditionNames(): RenditionNames
    {
        return $this->map->renditionNames;
    }
}
