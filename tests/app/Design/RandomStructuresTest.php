<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Design\Changes;
use Fasti\Core\Design\Matching;
use Fasti\Core\Design\ReadBack;
use Fasti\Core\Design\RowQuestion;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Tests\App\Scripts\Harness;
use Fasti\Tests\Core\Golden\Compared;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Planned changes between made-up structures with rows, on three servers: what comes of them is what was to come, rows are kept as it is promised,
 * and whatever rows do not allow is said before, with nothing touched.
 */
final class RandomStructuresTest extends TestCase
{
    #[DataProvider('seeds')]
    public function testWhatIsPlannedIsWhatHappens(string $engine, int $from, int $to): void
    {
        for ($seed = $from; $seed < $to; ++$seed) {
            $this->pair(new RandomStructure($seed, $engine), $engine, $seed);
        }
    }

    private function pair(RandomStructure $made, string $engine, int $seed): void
    {
        $harness = new Harness();
        $schema = Traits::SCHEMAS[$engine];
        $before = $harness->live($engine, $made->before.$made->rows);
        $after = ReadBack::script($made->after, Dialects::of($engine), $schema);
        $matching = Matching::told($before, $after, ...self::said($made, $schema));
        $options = new ScriptOptions(places: false);
        $changes = Changes::between($before, $after, $matching, $options);
        $about = "Pair $seed on $engine: ".implode(', ', $made->done)."\n{$made->before}{$made->rows}\n==== becomes\n{$made->after}\n==== by\n";
        $held = self::held($harness->open($engine), $before);
        $stopped = $this->carried($harness, $engine, $changes, $about);
        if (null !== $stopped) {
            self::assertSame([], Compared::catalogs($before, $harness->survey($engine)), "Nothing is touched where it stops.\n$about".$changes->script());
            self::assertSame($held, self::held($harness->open($engine), $before), "No row is touched where it stops.\n$about".$changes->script());
            // Then somebody decides: such rows get another value, or are taken out.
            for ($asked = -1; $asked !== \count($changes->questions);) {
                $asked = \count($changes->questions);
                $changes = Changes::between($before, $after, $matching, $options, array_map(
                    static fn (RowQuestion $one): string => array_values(array_diff($one->fates, [RowQuestion::STOP]))[0] ?? RowQuestion::STOP,
                    $changes->questions,
                ));
            }
            $stopped = $this->carried($harness, $engine, $changes, $about);
            if (null !== $stopped) {
                return;
            }
        }
        $found = $harness->survey($engine);
        $found = $found->with(tables: array_values(array_filter($found->tables, static fn ($table): bool => !str_starts_with($table->name, Changes::OUT))));
        self::assertSame([], self::differences($changes->after, $found), $about.$changes->script());
        $this->assertKept($harness->open($engine), $held, $before, $changes, $about);
    }

    /** Where an engine has no transaction for structure, a plan that stopped anywhere is gone on with from what there is then. */
    #[DataProvider('stopping')]
    public function testAPlanThatStoppedIsGoneOnWith(int $from, int $to): void
    {
        $harness = new Harness();
        $schema = Traits::SCHEMAS['mariadb'];
        for ($seed = $from; $seed < $to; ++$seed) {
            $made = new RandomStructure($seed, 'mariadb');
            $before = $harness->live('mariadb', $made->before.$made->rows);
            $after = ReadBack::script($made->after, Dialects::of('mariadb'), $schema);
            $plan = static fn (Catalog $from): Changes => Changes::between(
                $from, $after, Matching::told($from, $after, ...self::said($made, $schema)), new ScriptOptions(places: false),
            );
            $changes = $plan($before);
            $about = "Pair $seed: {$made->before}{$made->rows}\n==== becomes\n{$made->after}\n==== by\n".$changes->script();
            $statements = $changes->statements();
            $held = self::held($harness->open('mariadb'), $before);
            $most = ($seed * 7) % (\count($statements) + 1);
            try {
                $pdo = $harness->open('mariadb');
                foreach (\array_slice($statements, 0, $most) as $sql) {
                    $pdo->exec($sql);
                }
            } catch (\PDOException) {
                continue;
            }
            unset($pdo);
            $rest = $plan($harness->survey('mariadb'));
            if (null === $this->carried($harness, 'mariadb', $rest, "$about\n==== after $most statements, then\n")) {
                self::assertSame([], self::differences($rest->after, $harness->survey('mariadb')), "$about\n==== after $most, then\n".$rest->script());
                $this->assertKept($harness->open('mariadb'), $held, $before, $changes, "$about\n==== after $most, then\n".$rest->script());
            }
        }
    }

    /** Steps that change the structure alone are undone one by one, the last first. */
    #[DataProvider('stopping')]
    public function testEachStepHasItsWayBack(int $from, int $to): void
    {
        $harness = new Harness();
        $schema = Traits::SCHEMAS['mariadb'];
        for ($seed = $from; $seed < $to; ++$seed) {
            $made = new RandomStructure($seed, 'mariadb');
            $before = $harness->live('mariadb', $made->before);
            $after = ReadBack::script($made->after, Dialects::of('mariadb'), $schema);
            $changes = Changes::between($before, $after, Matching::told($before, $after, ...self::said($made, $schema)), new ScriptOptions(places: false));
            $pdo = $harness->open('mariadb');
            $back = [];
            foreach ($changes->steps as $step) {
                // Values that are gone do not come back.
                if ([] === $step->back && 1 === preg_match('/^(?:ALTER|DROP TABLE [^f]|CREATE (?!TEMPORARY))/m', implode("\n", $step->sql))) {
                    break;
                }
                foreach ($step->sql as $sql) {
                    $pdo->exec($sql);
                }
                $back = [...$step->back, ...$back];
            }
            $sql = '';
            try {
                foreach ($back as $sql) {
                    $pdo->exec($sql);
                }
            } catch (\PDOException $e) {
                self::fail("Pair $seed: ".$e->getMessage()."\nby $sql\n{$made->before}\n==== becomes\n{$made->after}\n==== by\n".$changes->script());
            }
            unset($pdo);
            self::assertSame([], self::differences($before, $harness->survey('mariadb')), "Pair $seed\n".$changes->script());
        }
    }

    /** @return iterable<string, array{int, int}> */
    public static function stopping(): iterable
    {
        foreach (self::seeds() as $name => [$engine, $from, $to]) {
            if ('mariadb' === $engine) {
                yield $name => [$from, $to];
            }
        }
    }

    /** @return array{array<string, string>, array<string, array<string, string>>} as Matching::told() takes them */
    private static function said(RandomStructure $made, string $schema): array
    {
        $key = static fn (string $table): string => (new Place($schema, $table))->key();
        $taken = $formerly = [];
        foreach ($made->taken as $is => $was) {
            $taken[$key($was)] = $key($is);
        }
        foreach ($made->formerly as $table => $names) {
            $formerly[$key($table)] = $names;
        }

        return [$taken, $formerly];
    }

    /** @return ?string the question by which it stopped; null where it was carried out */
    private function carried(Harness $harness, string $engine, Changes $changes, string $about): ?string
    {
        $pdo = $harness->open($engine);
        $sql = '';
        try {
            foreach ($changes->statements() as $sql) {
                $pdo->exec($sql);
            }

            return null;
        } catch (\PDOException $e) {
            foreach ($changes->questions as $question) {
                if (RowQuestion::STOP === $question->fate && str_contains($e->getMessage(), $question->key)) {
                    return $question->key;
                }
            }
            self::fail($e->getMessage()."\nby $sql\n".$about.$changes->script());
        } finally {
            unset($pdo);
        }
    }

    /** @return list<string> */
    private static function differences(Catalog $designed, Catalog $found): array
    {
        $sorted = static fn (Catalog $catalog): Catalog => $catalog->with(tables: array_map(static function ($table) {
            $columns = $table->columns;
            usort($columns, static fn ($a, $b): int => $a->name <=> $b->name);

            return $table->with(columns: $table->kind->isView() ? array_map(static fn ($column) => $column->with(type: ''), $columns) : $columns);
        }, $catalog->tables));

        return ReadBack::differences($sorted($designed), $sorted($found));
    }

    /** @return array<string, list<array<mixed>>> rows by the key of the place of their table */
    private static function held(\PDO $pdo, Catalog $catalog): array
    {
        $held = [];
        foreach ($catalog->tables as $table) {
            if (!$table->kind->isView()) {
                foreach ($pdo->query("SELECT * FROM $table->name ORDER BY id", \PDO::FETCH_ASSOC) ?: [] as $row) {
                    $held[$table->place()->key()][] = \is_array($row) ? $row : [];
                }
            }
        }

        return $held;
    }

    /** @param array<string, list<array<mixed>>> $held */
    private function assertKept(\PDO $pdo, array $held, Catalog $before, Changes $changes, string $about): void
    {
        $now = self::held($pdo, $changes->after);
        foreach ($held as $place => $rows) {
            $is = $changes->matching->tables[$place] ?? null;
            if (null === $is) {
                continue;
            }
            $out = [] !== array_filter($changes->questions, static fn (RowQuestion $one): bool => RowQuestion::OUT === $one->fate
                && $one->table->key() === $place);
            $kept = \count($now[$is] ?? []);
            self::assertTrue($out ? $kept <= \count($rows) : $kept === \count($rows), "Rows of $place are kept.\n$about".$changes->script());
            $was = $before->table(...explode("\0", $place, 2));
            $new = $changes->after->table(...explode("\0", $is, 2));
            foreach ($changes->matching->columns[$place] as $old => $column) {
                if ($out || $was?->column($old)?->type !== $new?->column($column)?->type || null !== $new?->column($column)?->generated
                    || (true !== $new?->column($column)?->nullable && true === $was?->column($old)?->nullable)
                    || [] !== array_filter($changes->questions, static fn (RowQuestion $one): bool => RowQuestion::STOP !== $one->fate
                        && str_starts_with($one->key, 'reference:') && str_contains($one->key, $column))) {
                    continue;
                }
                self::assertSame(array_column($rows, $old), array_column($now[$is] ?? [], $column), "Values of $old are kept.\n$about".$changes->script());
            }
        }
    }

    /** @return iterable<string, array{string, int, int}> */
    public static function seeds(): iterable
    {
        $count = is_numeric($_SERVER['FASTI_DESIGNS'] ?? null) ? (int) $_SERVER['FASTI_DESIGNS'] : 10;
        $first = is_numeric($_SERVER['FASTI_FIRST'] ?? null) ? (int) $_SERVER['FASTI_FIRST'] : 0;
        foreach (Traits::ENGINES as $engine) {
            for ($from = $first; $from < $first + $count; $from += 10) {
                yield "$engine, pairs from $from on" => [$engine, $from, $from + 10];
            }
        }
    }
}
