<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** Finds the site's own table of redirects: an old address and a new one in each row. */
final class RedirectTable
{
    /**
     * @param  array<string, TableProfile>  $tables
     * @return array{table: string, from: string, to: string, code?: string}|null
     */
    public static function among(array $tables): ?array
    {
        foreach ($tables as $table) {
            $from = $to = $code = null;
            foreach ($table->columns as $column) {
                $isAddress = $column->type === ColumnType::Text
                    && $column->values !== []
                    && self::areAddresses($column);
                $from ??= $isAddress && Hints::say(Hints::OLD, $column->name) ? $column->name : null;
                $to ??= $isAddress && Hints::say(Hints::NEW, $column->name) ? $column->name : null;
                $code ??=
                    $column->share('~^(?:30[1278]|410)$~') === 1.0 && Hints::say(Hints::CODE, $column->name)
                        ? $column->name
                        : null;
            }
            if ($from !== null && $to !== null && $from !== $to) {
                return [
                    'table' => $table->name,
                    'from' => $from,
                    'to' => $to,
                    ...$code === null ? [] : ['code' => $code],
                ];
            }
        }

        return null;
    }

    /** Whole addresses or paths; many sites say their paths without the slash before them. */
    private static function areAddresses(ColumnProfile $column): bool
    {
        return $column->share('~^(?:https?:/)?/~i') >= 0.8
            || ($column->share('~^(?:https?://|/)?[\w.%+-]+(?:/[\w.%+-]*)*(?:\?\S*)?$~i') === 1.0
                && $column->share('~/|\.[a-z0-9]{2,5}$~i') >= 0.5);
    }
}
