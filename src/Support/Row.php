<?php

declare(strict_types=1);

namespace Fasti\Support;

/** Typed access to rows as the database layer hands them over. A missing or mistyped column is a fault of ours, so it throws. */
final class Row
{
    /** @param array<string, mixed> $row */
    public static function int(array $row, string $column): int
    {
        $value = $row[$column] ?? null;

        return is_numeric($value) ? (int) $value : throw new \LogicException(\sprintf('Column %s holds no number.', $column));
    }

    /** @param array<string, mixed> $row */
    public static function maybeInt(array $row, string $column): ?int
    {
        return isset($row[$column]) ? self::int($row, $column) : null;
    }

    /** @param array<string, mixed> $row */
    public static function text(array $row, string $column): string
    {
        $value = $row[$column] ?? '';

        return \is_scalar($value) ? (string) $value : throw new \LogicException(\sprintf('Column %s holds no text.', $column));
    }

    /** @param array<string, mixed> $row */
    public static function maybeText(array $row, string $column): ?string
    {
        return isset($row[$column]) ? self::text($row, $column) : null;
    }

    /**
     * @param array<string, mixed> $row
     *
     * @return array<mixed>
     */
    public static function json(array $row, string $column): array
    {
        $value = json_decode(self::text($row, $column), true);

        return \is_array($value) ? $value : [];
    }
}
