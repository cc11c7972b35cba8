<?php

declare(strict_types=1);

namespace Tests\App\Kill;

use Generator;
use Ylema\Change\Rewriter;
use Ylema\Plan\Facts;
use Ylema\Plan\Outline;
use Ylema\Plan\Planner;
use Ylema\Plan\Steps\AddMedia;
use Ylema\Plan\Steps\ArchiveFile;
use Ylema\Plan\Steps\ChangeMedia;
use Ylema\Plan\Steps\EditRecord;
use Ylema\Plan\Steps\FieldEdits;
use Ylema\Plan\Steps\MoveFile;
use Ylema\Plan\Steps\PromisedEdit;
use Ylema\Plan\Steps\Redirect;
use Ylema\Plan\Steps\RestFile;
use Ylema\Plan\Steps\SealBag;
use Ylema\Plan\Steps\WriteFile;
use Ylema\Reading\FieldReader;
use Ylema\Sites\FileState;
use Ylema\Sites\NewMedia;

/** One step of every kind, and many of some: what a worker is killed in. */
final readonly class AllKindsPlanner implements Planner
{
    public const IDLE = 14;

    public const BAGGED = 6;

    /** @param  list<string>  $keys of pages */
    public function __construct(private array $keys, private string $bag = 'kill-1')
    {
    }

    public static function kind(): string
    {
        return 'all-kinds';
    }

    public static function of(array $request): self
    {
        return new self(array_map(strval(...), $request['keys']), (string) $request['bag']);
    }

    public function request(): array
    {
        return ['keys' => $this->keys, 'bag' => $this->bag];
    }

    public function plan(Facts $facts): Generator
    {
        $files = $facts->files(['media/a.jpg', 'media/b.jpg', 'media/rests.jpg', 'media/moves.jpg']);
        yield new WriteFile(
            'media/new/c.jpg',
            null,
            new FileState($files['media/b.jpg']->sha256, $files['media/b.jpg']->size),
        );
        yield new WriteFile(
            'media/a.jpg',
            $files['media/a.jpg'],
            new FileState($files['media/b.jpg']->sha256, $files['media/b.jpg']->size),
        );
        yield new MoveFile('media/moves.jpg', 'media/new/moved.jpg', $files['media/moves.jpg']);
        yield new RestFile('media/rests.jpg', $files['media/rests.jpg'], '2031-01-01');
        $idle = $facts->files(array_map(static fn (int $n): string => "media/idle/$n.jpg", range(1, self::IDLE)));
        foreach ($idle as $path => $file) {
            yield new RestFile((string) $path, $file, '2031-01-01');
        }
        foreach (array_slice($idle, 0, self::BAGGED) as $path => $file) {
            yield new ArchiveFile($this->bag, "data/$path", (string) $path, $file, '2031-01-01');
        }
        yield new SealBag($this->bag);
        yield new AddMedia(new NewMedia('media/new/c.jpg', 'C', 'a c', 9, 9, []), 'c');
        foreach ($facts->words(null) as $batch) {
            foreach ($batch as $media) {
                yield new ChangeMedia(
                    $media->id,
                    $media->path,
                    ['alt' => $media->words['alt']],
                    ['alt' => "{$media->words['alt']}, seen anew"],
                );
            }
        }
        $reader = new FieldReader();
        foreach ($facts->records('page', $this->keys) as $n => $record) {
            $body = $record->fields[0];
            $reading = $reader->read($body->text, $body->notation, $body->rules);
            $image = $reading->references[0];
            // A number in the text stands for an item by its id, which is known only once its row is there.
            yield (int) $record->key % 3 === 0
                ? EditRecord::of(
                    $record,
                    [],
                    [new PromisedEdit('body', $image->start, $image->length, 'c', '/media/new/c.jpg')],
                )
                : EditRecord::of($record, [
                    'body' => FieldEdits::of(
                        $body->text,
                        (new Rewriter($reader))->edits(
                            $body->text,
                            $body->notation,
                            $body->rules,
                            [[$image, '/media/new/c.jpg']],
                            $reading,
                        ),
                    ),
                ]);
        }
        yield new Redirect('media/rests.jpg', '/media/new/c.jpg', 301);

        return new Outline('All kinds of step', 'One of each.');
    }
}
