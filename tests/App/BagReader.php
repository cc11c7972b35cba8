<?php

declare(strict_types=1);

namespace Tests\App;

/**
 * Checks a bag by the words of RFC 8493 alone: it shares nothing with what writes bags.
 */
final class BagReader
{
    /** @return list<string> */
    public static function problems(string $bag): array
    {
        $problems = [];
        // 2.1.1: two lines, in this order.
        $declaration = (string) @file_get_contents("$bag/bagit.txt");
        if (preg_match('~^BagIt-Version: \d+\.\d+\nTag-File-Character-Encoding: UTF-8\n?$~D', $declaration) !== 1) {
            $problems[] = 'bagit.txt';
        }
        $payload = self::below($bag, 'data');
        $manifests = glob("$bag/manifest-*.txt") ?: [];
        if ($manifests === []) {
            $problems[] = 'no payload manifest';
        }
        foreach ([...$manifests, ...glob("$bag/tagmanifest-*.txt") ?: []] as $file) {
            preg_match('~(tag)?manifest-([a-z0-9]+)\.txt$~', $file, $m);
            $listed = [];
            foreach (explode("\n", rtrim((string) file_get_contents($file), "\n")) as $line) {
                if (preg_match('~^([0-9a-f]+)[ \t]+(\S.*)$~i', $line, $l) !== 1) {
                    $problems[] = "a line of $file";

                    continue;
                }
                $path = str_ireplace(['%0A', '%0D', '%25'], ["\n", "\r", '%'], $l[2]);
                $listed[] = $path;
                if (! is_file("$bag/$path") || hash_file($m[2], "$bag/$path") !== strtolower($l[1])) {
                    $problems[] = "$path in $file";
                }
            }
            sort($listed);
            if ($m[1] === '' && $listed !== $payload) {
                $problems[] = "$file does not list the payload";
            }
        }
        // 2.2.2: Payload-Oxum is OctetCount.StreamCount.
        preg_match('~^Payload-Oxum: (\d+)\.(\d+)$~m', (string) @file_get_contents("$bag/bag-info.txt"), $oxum);
        $bytes = array_sum(array_map(static fn (string $path): int => (int) filesize("$bag/$path"), $payload));
        if (($oxum[1] ?? '') !== (string) $bytes || ($oxum[2] ?? '') !== (string) count($payload)) {
            $problems[] = 'Payload-Oxum';
        }

        return $problems;
    }

    /** @return list<string> */
    private static function below(string $bag, string $folder): array
    {
        $files = [];
        $all = new \RecursiveDirectoryIterator("$bag/$folder", \FilesystemIterator::SKIP_DOTS);
        foreach (new \RecursiveIteratorIterator($all) as $file) {
            $files[] = substr((string) $file, strlen($bag) + 1);
        }
        sort($files);

        return $files;
    }
}
