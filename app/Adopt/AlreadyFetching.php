<?php

declare(strict_types=1);

namespace App\Adopt;

use RuntimeException;
use Ylema\Failure;

final class AlreadyFetching extends RuntimeException implements Failure
{
    public function __construct()
    {
        parent::__construct(
            'Pictures of this site are being fetched already. Wait for the end of it, or stop it first.',
        );
    }
}
