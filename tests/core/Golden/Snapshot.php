<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Golden;

use PHPUnit\Framework\Assert;

/**
 * What was worked out once and looked at, in tests/golden/seen: a change of any of it shows. `bin/test record` writes it anew; the difference is to be read.
 */
final class Snapshot
{
    /** @param list<string> $lines */
    public static function same(string $name, array $lines): void
    {
        $path = \dirname(__DIR__, 2)."/golden/seen/$name.txt";
        $text = implode("\n", $lines)."\n";
        if (Golden::records()) {
            file_put_contents($path, $text);
        }
        $seen = is_file($path) ? (string) file_get_contents($path) : '';
        if ($seen === $text) {
            Assert::assertNotSame('', trim($text));

            return;
        }
        // Thousands of lines are not held against each other at a glance: the first that differ are.
        $was = explode("\n", $seen);
        $is = explode("\n", $text);
        for ($i = 0; ($was[$i] ?? null) === ($is[$i] ?? null); ++$i) {
            continue;
        }
        $where = "$name, line ".($i + 1).'. Where it is meant to be another: bin/test record, and read the difference.';
        Assert::assertSame(\array_slice($was, $i, 5), \array_slice($is, $i, 5), $where);
        Assert::fail($where);
    }

    /** A figure that does not depend on the last digits of the machine. */
    public static function figure(float $value, int $digits = 3): string
    {
        $text = number_format($value, $digits, '.', '');

        return 0.0 == (float) $text ? '0' : rtrim(rtrim($text, '0'), '.');
    }
}
