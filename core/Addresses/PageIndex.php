<?php

declare(strict_types=1);

namespace Ylema\Addresses;

/**
 * What is known of the pages of a site; each question is put for many addresses at once. An address is said by its path
 * below the root, decoded, without a slash at either end, and with its query where it has one.
 */
interface PageIndex
{
    /**
     * @param  list<string>  $addresses
     * @return array<string, array{string, bool}> those that are a page's → the address as the page says it, and whether
     *       visitors get it
     */
    public function pages(array $addresses): array;

    /**
     * @param  list<string>  $addresses
     * @return array<string, string|null> those that were a page's → its address now; null where the page is gone
     */
    public function formerly(array $addresses): array;

    /**
     * @param  list<string>  $addresses
     * @return array<string, string> those that redirects of the site know → where they lead in the end; a whole address
     *       where that is none of the site's
     */
    public function redirected(array $addresses): array;

    /**
     * @param  list<string>  $addresses
     * @return array<string, PageAnswer>
     */
    public function answers(array $addresses): array;

    /**
     * @param  list<string>  $addresses
     * @return array<string, list<string>> address → pages with like words in theirs, the likeliest first; a handful
     */
    public function alike(array $addresses): array;
}
