<?php

declare(strict_types=1);

use App\Media\Uploads;
use App\Models\ChangeState;
use App\Models\StepState;
use App\Sites\FolderStore;
use Ylema\Sites\WriteRefused;

/*
 * A folder that is swapped for a link while somebody works on it: nothing outside of the site's folder is touched.
 */

function swapForLink(string $folder, string $outside): void
{
    rename($folder, "$folder.before");
    symlink($outside, $folder);
}

beforeEach(function (): void {
    $this->touched();
    $this->base = self::folder().'/store';
    shell_exec('rm -rf '.escapeshellarg($this->base));
    mkdir("$this->base/site/media/a", 0o775, true);
    mkdir("$this->base/site/media/b", 0o775, true);
    mkdir("$this->base/outside", 0o775, true);
    file_put_contents("$this->base/site/media/a/x.jpg", 'inside');
    file_put_contents("$this->base/outside/x.jpg", 'outside');
    $this->store = new FolderStore("$this->base/site", ['media/'], false);
    // As a worker that has worked in the folder already, and remembers it.
    $this->store->state('media/a/x.jpg');
    $this->store->write('media/a/y.jpg', 'y');
});

it('writes, moves and takes away nothing behind a link that came in between', function (callable $do): void {
    swapForLink("$this->base/site/media/a", "$this->base/outside");
    expect(fn () => $do($this->store))->toThrow(WriteRefused::class, 'link that leads out of the site')
        ->and(scandir("$this->base/outside"))->toBe(['.', '..', 'x.jpg'])
        ->and(file_get_contents("$this->base/outside/x.jpg"))->toBe('outside')
        ->and(scandir("$this->base/site/media/b"))->toBe(['.', '..']);
})->with([
    'a new file' => [fn (FolderStore $store) => $store->write('media/a/new.jpg', 'x')],
    'a file in a new folder' => [fn (FolderStore $store) => $store->write('media/a/deep/er/new.jpg', 'x')],
    'other bytes' => [fn (FolderStore $store) => $store->write('media/a/x.jpg', 'x')],
    'a move there' => [fn (FolderStore $store) => $store->move('media/a/x.jpg', 'media/b/x.jpg')],
    'taking away' => [fn (FolderStore $store) => $store->delete('media/a/x.jpg')],
    'where it lies' => [fn (FolderStore $store) => $store->fileAt('media/a/x.jpg')],
]);

it('follows links that stay inside', function (): void {
    symlink("$this->base/site/media/b", "$this->base/site/media/c");
    $this->store->write('media/c/new.jpg', 'x');
    $this->store->move('media/c/new.jpg', 'media/c/deep/other.jpg');
    expect(file_get_contents("$this->base/site/media/b/deep/other.jpg"))->toBe('x');
    $this->store->delete('media/c/deep/other.jpg');
    expect(scandir("$this->base/site/media/b/deep"))->toBe(['.', '..']);
});

it('replaces no link that leads out', function (): void {
    unlink("$this->base/site/media/a/x.jpg");
    symlink("$this->base/outside/x.jpg", "$this->base/site/media/a/x.jpg");
    expect(fn () => $this->store->write('media/a/x.jpg', 'x'))->toThrow(WriteRefused::class, 'leads out')
        ->and(file_get_contents("$this->base/outside/x.jpg"))->toBe('outside')
        ->and(is_link("$this->base/site/media/a/x.jpg"))->toBeTrue();
});

it('refuses the steps of a plan whose folder is a link by now, and names nothing behind it', function (): void {
    $before = $this->contentDigest();
    $upload = app(Uploads::class)->keep($this->jpeg(1200, 800), 'Light house.jpg', $this->site());
    $plan = $this->plan('people/maren-oake.jpg', null, upload: $upload['token']);
    swapForLink(self::folder().'/site/media/people', "$this->base/outside");
    $change = $this->apply($plan);
    expect($change->state)->toBe(ChangeState::AppliedInPart)
        ->and($change->steps()->where('state', StepState::Done)->count())->toBe(0)
        ->and($change->steps()->where('kind', 'write-file')->value('message'))->toContain('leads out of the site')
        ->and(scandir("$this->base/outside"))->toBe(['.', '..', 'x.jpg'])
        ->and($this->contentDigest())->toBe($before);
});
