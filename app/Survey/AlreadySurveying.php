<?php

declare(strict_types=1);

namespace App\Survey;

use RuntimeException;
use Ylema\Failure;

final class AlreadySurveying extends RuntimeException implements Failure
{
    public function __construct()
    {
        parent::__construct('A survey of this site is under way already. Wait for its end, or stop it first.');
    }
}
