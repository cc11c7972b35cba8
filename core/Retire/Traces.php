<?php

declare(strict_types=1);

namespace Ylema\Retire;

use Ylema\Usage\Standing;

/** What was found of one file, or of an item with all its files. Times in seconds since 1970. */
final readonly class Traces
{
    /**
     * @param  Standing  $standing through all that names it
     * @param  int  $named how many references name it
     * @param  bool  $isPickedById for a rendition: whether records name its item by id, so that the site's own code
     *       chooses which size is shown
     * @param  int  $coded how many places of the site's code name it by an address, a path or its name
     * @param  string  $codedAt one of them: `theme/footer.phtml:12`
     * @param  int  $seen pages that were seen to show it
     * @param  int  $visitors how often visitors of the site asked for it
     * @param  string  $otherPage a page of another site that sent somebody
     * @param  int|null  $lastPerson when a person asked last
     * @param  int|null  $modified when its bytes were last written
     * @param  int  $copies other files with the same bytes that stay
     * @param  bool  $isCode whether the site's own code consists of it
     * @param  int  $mentions places that name it in a way that is not read
     * @param  string  $mentionedAt one of them, the weightiest
     * @param  bool  $isNamedWhole whether one of them is its whole name in what visitors meet
     * @param  int  $meant addresses without a file that may mean it
     * @param  bool  $isMissing whether it has no file at all, as a row of the list of media whose file is gone
     * @param  string  $sharedBy another site here that keeps the same file, and uses it; else empty
     */
    public function __construct(
        public Standing $standing,
        public int $named = 0,
        public bool $isPickedById = false,
        public int $coded = 0,
        public string $codedAt = '',
        public int $seen = 0,
        public int $visitors = 0,
        public int $otherSites = 0,
        public string $otherPage = '',
        public int $mail = 0,
        public int $robots = 0,
        public ?int $lastPerson = null,
        public ?int $modified = null,
        public int $copies = 0,
        public string $sharedBy = '',
        public bool $isCode = false,
        public int $mentions = 0,
        public string $mentionedAt = '',
        public bool $isNamedWhole = false,
        public int $meant = 0,
        public bool $isMissing = false,
    ) {
    }
}
