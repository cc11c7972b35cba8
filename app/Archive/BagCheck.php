<?php

declare(strict_types=1);

namespace App\Archive;

use Ylema\Archive\Bag as Format;
use Ylema\Plan\Words;

/** Whether a bag is complete and valid (RFC 8493, 3): every file that is named, no other, each with its hashes. */
final readonly class BagCheck
{
    /** Damages that are named one by one. */
    private const NAMED = 50;

    public function __construct(private BagDisk $disk)
    {
    }

    /** @return list<string> what is damaged, in sentences without a full stop; empty for a valid bag */
    public function look(): array
    {
        $trouble = [];
        foreach (['bagit.txt', ...array_map(Format::manifest(...), Format::ALGORITHMS)] as $needed) {
            if (! $this->disk->has($needed)) {
                return ["$needed is missing"];
            }
        }
        if ((string) stream_get_contents($this->disk->stream('bagit.txt')) !== Format::DECLARATION) {
            $trouble[] = 'bagit.txt is not what a bag of version 1.0 says';
        }
        $there = array_fill_keys($this->disk->files(), true);
        foreach ([true, false] as $isPayload) {
            [$said, $sound] = $this->said($isPayload, $trouble);
            $trouble = $sound;
            foreach ($said as $path => $hashes) {
                if (! isset($there[$path])) {
                    $trouble[] = "$path is missing";

                    continue;
                }
                try {
                    $is = $this->disk->hashes((string) $path, array_keys($hashes));
                } catch (BagTrouble $e) {
                    $trouble[] = $e->getMessage();

                    continue;
                }
                if ($is !== $hashes) {
                    $trouble[] = "$path has other bytes than its manifest says";
                }
            }
            if ($isPayload) {
                foreach (array_keys($there) as $path) {
                    if (str_starts_with((string) $path, 'data/') && ! isset($said[$path])) {
                        $trouble[] = "$path is in no manifest";
                    }
                }
            }
        }
        $more = count($trouble) - self::NAMED;

        return $more > 0
            ? [...array_slice($trouble, 0, self::NAMED), 'and '.Words::many($more, 'more damage')]
            : $trouble;
    }

    /**
     * @param  list<string>  $trouble found so far
     * @return array{array<array-key, array<string, string>>, list<string>} path → algorithm → hash, and what is wrong
     */
    private function said(bool $isPayload, array $trouble): array
    {
        $said = [];
        foreach (Format::ALGORITHMS as $algorithm) {
            $name = $isPayload ? Format::manifest($algorithm) : Format::tagManifest($algorithm);
            if (! $this->disk->has($name)) {
                $trouble[] = "$name is missing";

                continue;
            }
            $stream = $this->disk->stream($name);
            while (($line = fgets($stream)) !== false) {
                $read = Format::read($line);
                if ($read === null) {
                    $trouble[] = "$name has a line that is none of a manifest";

                    continue;
                }
                $said[$read[1]][$algorithm] = $read[0];
            }
            fclose($stream);
        }
        if ($isPayload) {
            foreach ($said as $path => $hashes) {
                // Every manifest must list every payload file (3, "complete").
                if (count($hashes) !== count(Format::ALGORITHMS)) {
                    $trouble[] = "$path is not in every manifest";
                }
            }
        }

        return [$said, $trouble];
    }
}
