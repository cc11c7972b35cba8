<?php

declare(strict_types=1);

namespace App\Reading;

use RuntimeException;
use Ylema\Failure;

final class AlreadyReading extends RuntimeException implements Failure
{
    public function __construct()
    {
        parent::__construct('This site is being read already. Wait for it to finish, or stop it first.');
    }
}
