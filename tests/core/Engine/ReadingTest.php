<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Engine;

use Fasti\Core\Survey\Progress;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What is said while a catalog is being read. */
final class ReadingTest extends TestCase
{
    /** @param list<string> $steps */
    #[TestWith(['mariadb', ['the list of tables', 'tables', 'columns', 'indexes and keys', 'foreign keys', 'check constraints', 'views', 'triggers', 'routines',
        'done']])]
    #[TestWith(['postgresql', ['the list of tables', 'tables', 'types', 'columns', 'constraints', 'indexes', 'policies and partitions', 'triggers', 'routines',
        'done']])]
    #[TestWith(['sqlite', ['the statements that made it', 'views', 'done']])]
    public function testEachStepIsToldAndTheLastIsTheWhole(string $engine, array $steps): void
    {
        $progress = new class implements Progress {
            /** @var list<array{string, int, int}> */
            public array $told = [];

            public function at(string $what, int $done, int $total): void
            {
                $this->told[] = [$what, $done, $total];
            }
        };
        $golden = Golden::of("scripts.$engine");
        Traits::survey($engine, new Replayed($golden->case($golden->names()[0])['answers'] ?? []), $progress);
        [, $done, $total] = $progress->told[\count($progress->told) - 1];
        $shares = array_column($progress->told, 1);
        $rising = $shares;
        sort($rising);

        self::assertSame($steps, array_column($progress->told, 0));
        self::assertSame($total, $done);
        self::assertSame([$total], array_values(array_unique(array_column($progress->told, 2))));
        self::assertSame($rising, $shares);
        self::assertSame(0, $shares[0]);
    }
}
