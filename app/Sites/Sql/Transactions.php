<?php

declare(strict_types=1);

namespace App\Sites\Sql;

use PDO;

/** Transactions that lock the rows which they read for writing, where a server keeps them. */
trait Transactions
{
    public function begin(PDO $pdo): void
    {
        $pdo->beginTransaction();
    }

    public function commit(PDO $pdo): void
    {
        $pdo->commit();
    }

    public function rollBack(PDO $pdo): void
    {
        if ($pdo->inTransaction()) {
            $pdo->rollBack();
        }
    }

    public function lock(): string
    {
        return ' for update';
    }
}
