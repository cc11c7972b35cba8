<?php

declare(strict_types=1);

namespace App\Bytes;

use Illuminate\Support\Facades\DB;
use Ylema\Sites\WriteRefused;

/**
 * Whether a folder is the one that this installation knows: a file in it holds the installation's id. A folder of
 * another installation, or an empty one where a disk should be mounted, is not written to; two that share one would
 * clear away each other's bytes.
 */
final class Marks
{
    public const FILE = '.ylema-mark';

    private ?string $own = null;

    /** @var array<string, true> places that are known to have been marked */
    private array $known = [];

    /** @throws WriteRefused */
    public function expect(Place $place): void
    {
        $why = $this->wrong($place);
        if ($why !== null) {
            throw new WriteRefused($place->title(), $why);
        }
        if (! isset($this->known[$place->key()])) {
            if ($this->found($place) === null) {
                $this->put($place);
            }
            // After the mark: a transaction that fails takes the row back, and the mark is found the next time.
            DB::table('places')->insertOrIgnore(['name' => $place->key(), 'marked_at' => now()]);
            $this->known[$place->key()] = true;
        }
    }

    /** @return string|null why a folder is not this installation's, and what to do; null where it is, or is new */
    public function wrong(Place $place): ?string
    {
        $found = $this->found($place);
        if ($found === $this->own()) {
            return null;
        }
        if ($found === false) {
            return 'its mark ('.self::FILE.') cannot be read by this user, so it may be another installation\'s. Give '
                .'this user the right to read it, or this installation a folder of its own';
        }
        if ($found !== null) {
            return "it belongs to another installation of Ylema ($found; this one is {$this->own()}). Give this one "
                ."its own folder; or, if the other one is gone for good: bin/ylema places --take={$place->key()}";
        }
        if (DB::table('places')->where('name', $place->key())->exists()) {
            return 'it lacks the mark that Ylema put there ('.self::FILE.'): its disk is not mounted, or it is another '
                .'folder. Mount it, or bring all of its files here; or, if they are lost: bin/ylema places '
                ."--take={$place->key()}";
        }

        return null;
    }

    /** From now on it is this installation's, whatever it was. @throws WriteRefused */
    public function take(Place $place): void
    {
        $this->put($place);
        DB::table('places')->insertOrIgnore(['name' => $place->key(), 'marked_at' => now()]);
    }

    /** The database is another one by now. */
    public function forget(): void
    {
        $this->own = null;
        $this->known = [];
    }

    private function put(Place $place): void
    {
        Part::write(
            $place->root->folder.'/'.self::FILE,
            $this->own()."\nYlema keeps files here, and knows the folder by this line. Leave it where they are.\n",
            new Attributes(0o600),
            $place->title(),
            folders: 0o700,
        );
    }

    /** @return string|false|null the id that is written there; null where there is none, false where nobody can tell */
    private function found(Place $place): string|false|null
    {
        $file = $place->root->folder.'/'.self::FILE;
        clearstatcache(true, $file);
        $text = @file_get_contents($file);
        if ($text === false) {
            return file_exists($file) || is_link($file) ? false : null;
        }

        return trim((string) strtok($text, "\n"));
    }

    private function own(): string
    {
        $id = $this->own ?? DB::table('installation')->value('id');

        return $this->own = is_string($id) ? $id : '';
    }
}
