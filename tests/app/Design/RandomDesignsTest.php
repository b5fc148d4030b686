<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Taking;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Tests\App\Scripts\Harness;
use Fasti\Tests\Core\Design\RandomDesign;
use Fasti\Tests\Core\Golden\Compared;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Scripts of designs that are made up run on real servers, and what is read back is what was worked out. */
final class RandomDesignsTest extends TestCase
{
    public static function tearDownAfterClass(): void
    {
        foreach (Golden::records() ? Traits::ENGINES : [] as $engine) {
            Golden::of("designs.$engine")->save();
        }
    }

    #[DataProvider('seeds')]
    public function testWhatComesIntoBeingIsWhatWasDesigned(string $engine, int $from, int $to): void
    {
        $harness = new Harness();
        for ($seed = $from; $seed < $to; ++$seed) {
            $physical = Physical::of(RandomDesign::of($seed), $engine, [], ['mariadb' => 'fasti_trait', 'postgresql' => 'public', 'sqlite' => 'main'][$engine]);
            $script = (new DesignScript($physical))->text(new ScriptOptions(places: false));
            try {
                $live = $harness->live($engine, $script);
            } catch (\RuntimeException $e) {
                self::fail("Design $seed: {$e->getMessage()}\n$script");
            }
            $meanings = 'sqlite' !== $engine;
            $designed = self::shape($physical->catalog, $meanings);
            $found = self::shape($live, $meanings);
            self::assertSame([], [
                ...preg_replace('/^/', 'designed: ', array_diff($designed, $found)), ...preg_replace('/^/', 'found: ', array_diff($found, $designed)),
            ], "Design $seed\n$script");
            // What an engine writes in its own way, conditions and given values, is read as it writes it.
            self::assertSame([], $harness->madeDifferences($engine, $script), "Design $seed\n$script");
            if (Golden::records()) {
                Golden::of("designs.$engine")->keep("design $seed", '', [], $script);
            }
            $this->assertTaken($harness, $engine, $live, $seed);
        }
    }

    /** What is there is taken into an outline, and its script makes the same again. */
    private function assertTaken(Harness $harness, string $engine, Catalog $live, int $seed): void
    {
        [$design, $notes] = Taking::of($live);
        $text = OutlineWriter::design($design);
        $outline = Outline::read($text);
        self::assertSame([], [...$notes, ...array_map(strval(...), $outline->faults)], $text);
        self::assertSame($text, OutlineWriter::design($outline->design), "Design $seed");
        $script = (new DesignScript(Physical::of($outline->design)))->text(new ScriptOptions(places: false));
        try {
            self::assertSame([], Compared::catalogs($live, $harness->live($engine, $script)), "Design $seed\n$text\n$script");
        } catch (\RuntimeException $e) {
            self::fail("Design $seed: {$e->getMessage()}\n$text\n$script");
        }
    }

    /** @return iterable<string, array{string, int, int}> */
    public static function seeds(): iterable
    {
        $count = is_numeric($_SERVER['FASTI_DESIGNS'] ?? null) ? (int) $_SERVER['FASTI_DESIGNS'] : 30;
        foreach (Traits::ENGINES as $engine) {
            for ($from = 0; $from < $count; $from += 10) {
                yield "$engine, designs from $from on" => [$engine, $from, $from + 10];
            }
        }
    }

    /** @return list<string> all but how expressions are written */
    private static function shape(Catalog $catalog, bool $meanings): array
    {
        $lines = [];
        foreach ($catalog->tables as $table) {
            $says = static function (string $what, mixed ...$of) use (&$lines, $table): void {
                $lines[] = $table->name.': '.$what.' '.json_encode($of, \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);
            };
            foreach ($table->columns as $i => $column) {
                if ($table->kind->isView()) {
                    $says('column', $i, $column->name, $column->type);
                } else {
                    $says(
                        'column', $i, $column->name, $column->type, $column->nullable, null !== $column->default, $meanings ? $column->comment
                            : '', $column->autoNumbered,
                    );
                }
            }
            if ($table->kind->isView()) {
                continue;
            }
            if ($meanings) {
                $says('meaning', $table->comment);
            }
            $says('primary key', $table->primaryKey?->columns);
            $keys = array_filter([$table->primaryKey, ...$table->uniqueKeys]);
            foreach ($table->uniqueKeys as $key) {
                $says('key', $key->name, $key->columns);
            }
            foreach ($table->foreignKeys as $key) {
                $says('leads', $key->name, $key->columns, $key->references->table, $key->references->columns, $key->onDelete, $key->onUpdate);
            }
            foreach ($table->indexes as $index) {
                $of = array_map(static fn (IndexPart $part): string => $part->column, $index->parts);
                $isKey = static fn (Key $key): bool => $key->columns === $of && $index->unique;
                if ([] === array_filter($keys, $isKey)) {
                    $says(
                        'index',
                        $index->name,
                        $of,
                        array_map(static fn (IndexPart $part): bool => $part->descending, $index->parts),
                    );
                }
            }
            foreach ($table->checks as $check) {
                $says('condition', $check->name);
            }
        }
        sort($lines);

        return $lines;
    }
}
