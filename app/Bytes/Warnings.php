<?php

declare(strict_types=1);

namespace App\Bytes;

/** What the file system said: PHP says it in a warning, and answers false. */
final class Warnings
{
    private string $last = '';

    /**
     * @template T
     *
     * @param  callable(): T  $do
     * @return T
     */
    public function during(callable $do): mixed
    {
        $this->last = '';
        set_error_handler(function (int $level, string $message): bool {
            $this->last = $message;

            return true;
        });
        try {
            return $do();
        } finally {
            restore_error_handler();
        }
    }

    /** The reason alone; empty where nothing was said. */
    public function why(): string
    {
        return lcfirst(trim(preg_replace('~^\w+\(.*?\): (?:Failed to open stream: )?~s', '', $this->last) ?? ''));
    }

    /** The reason, and what to do about it: never empty. */
    public function advice(): string
    {
        $said = $this->why();
        foreach ([
            'No space left' => 'its disk is full. Make room on it, then try again',
            'Disk quota exceeded' => 'its disk quota is used up. Raise it or make room, then try again',
            'File too large' => 'it is larger than this process may write (RLIMIT_FSIZE). Raise that limit, then try '
                .'again',
            'Read-only file system' => 'its disk is read-only, or Ylema may not write to that folder (on a server: '
                .'bin/install --sites). Let it, then try again',
            'Permission denied' => 'permission denied. Give this user the right to write there, then try again',
            'Operation not permitted' => 'operation not permitted. Give this user the right to write there, then try '
                .'again',
            'File name too long' => 'its name is longer than its disk takes. Choose a shorter one',
            'Input/output error' => 'its disk failed (input/output error). Look at the disk before anything else',
        ] as $reason => $advice) {
            if (stripos($said, $reason) !== false) {
                return $advice;
            }
        }

        return ($said === '' ? 'the file system did not say why' : $said)
            .'. Look at its disk and at the rights of this user, then try again';
    }
}
