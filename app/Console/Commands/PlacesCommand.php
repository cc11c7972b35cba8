<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Bytes\Marks;
use App\Bytes\Place;
use App\Console\ExitCode;
use Ylema\Failure;

final class PlacesCommand extends Command
{
    protected $signature = 'ylema:places {--take= : make a folder this installation’s, whatever it was before}
        {--json : as json}';

    protected $description = 'The folders that Ylema keeps bytes in, and whether it knows them (exit code 1 where it '
        .'does not)';

    public function handle(Marks $marks): int
    {
        $places = array_filter(Place::all(), static fn (Place $place): bool => $place->isMarked);
        $take = $this->option('take');
        if (is_string($take)) {
            $asked = array_filter($places, static fn (Place $place): bool => $place->key() === $take);
            if ($asked === []) {
                $this->error("There is no place \"$take\". There are: "
                    .implode(', ', array_map(static fn (Place $place): string => $place->key(), $places)).'.');

                return ExitCode::WRONG;
            }
            try {
                array_map($marks->take(...), $asked);
            } catch (Failure $e) {
                return $this->refused($e);
            }
        }
        $said = array_map(static fn (Place $place): array => [
            'place' => $place->key(),
            'folder' => $place->root->folder,
            'wrong' => $marks->wrong($place),
        ], array_values($places));
        if ($this->option('json')) {
            $flags = JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE;
            $this->line((string) json_encode($said, $flags));
        } else {
            foreach ($said as $place) {
                $this->line(sprintf('%-10s %s', $place['place'], $place['folder']));
                $place['wrong'] === null ?: $this->line("           Not written to: {$place['wrong']}");
            }
        }

        return array_filter(array_column($said, 'wrong')) === [] ? ExitCode::DONE : ExitCode::NO;
    }
}
