<?php

declare(strict_types=1);

namespace Fasti\Work;

/** A process by its machine, its number and the moment it began, since numbers are given out again; see proc(5), field 22 of stat. */
final class WorkerProcess
{
    public static function own(): string
    {
        $id = (int) getmypid();

        return mb_strimwidth((string) gethostname(), 0, 60).':'.$id.':'.self::began($id);
    }

    /** Whether it is gone for certain: one of another machine, or where nothing can be known, is not. */
    public static function isGone(string $process): bool
    {
        $parts = explode(':', $process);
        if (3 !== \count($parts) || $parts[0] !== mb_strimwidth((string) gethostname(), 0, 60) || '' === $parts[2] || '' === self::began((int) getmypid())) {
            return false;
        }

        return self::began((int) $parts[1]) !== $parts[2];
    }

    /** '' where there is no such process, or one that only waits to be buried */
    private static function began(int $id): string
    {
        $stat = @file_get_contents("/proc/$id/stat");
        if (false === $stat) {
            return '';
        }
        // The name of the program, in parentheses, may hold anything.
        $fields = explode(' ', trim(substr($stat, (int) strrpos($stat, ')') + 1)));

        return 'Z' === ($fields[0] ?? '') ? '' : ($fields[19] ?? '');
    }
}
