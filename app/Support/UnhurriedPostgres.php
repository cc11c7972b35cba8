<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Database\Connectors\PostgresConnector;
use PDO;

/**
 * Connections without just-in-time compiling of plans, which takes longer than any of the questions that are asked
 * here.
 */
final class UnhurriedPostgres extends PostgresConnector
{
    /** @param  array<string, mixed>  $config */
    public function connect(array $config): PDO
    {
        $connection = parent::connect($config);
        $connection->exec('set jit = off');

        return $connection;
    }
}
