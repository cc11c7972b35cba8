<?php

declare(strict_types=1);

namespace Ylema\Plan;

/** A file of another host, fetched and kept for a plan. */
final readonly class ForeignPicture
{
    /**
     * @param  string  $url whole address under which places name it
     * @param  string  $alt as one of the places says it
     * @param  string  $caption likewise
     */
    public function __construct(
        public string $url,
        public KeptFile $file,
        public string $alt = '',
        public string $caption = '',
        public string $credit = '',
    ) {
    }

    /** The name that an address gives its file. */
    public static function nameIn(string $url): string
    {
        $name = basename(rawurldecode((string) parse_url($url, PHP_URL_PATH)));

        return $name === '' ? 'picture' : mb_strcut(mb_scrub($name), 0, 120);
    }
}
