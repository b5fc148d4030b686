<?php

declare(strict_types=1);

namespace Fasti\Bench\Real;

use Fasti\Bench\Session;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Chooser;
use Fasti\Core\Join\Observing;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;

/** Schemas of real programs that come with rows: how references are led with them, and whether what is counted is what plain SQL counts. */
final class WithRows
{
    /** @var list<float> */
    private array $first = [];
    /** @var list<float> */
    private array $f1 = [];
    private int $off = 0;

    /** @param \Closure(string, string): Target $target by name and engine */
    public function __construct(private readonly Corpus $corpus, private readonly \Closure $target)
    {
    }

    /** @param list<string> $names */
    public function run(array $names): bool
    {
        printf("%-10s %8s %9s %12s %6s %11s %5s %8s   %s\n", 'schema', 'rows', 'declared', 'by names', 'first', 'sure, right', 'F1', 'seconds', 'figures as plain SQL');
        foreach ($names as $name) {
            $catalog = $this->corpus->catalog($name);
            try {
                $rows = Session::rows(($this->target)($name, $catalog->engine));
                $this->schema($name, $rows, Dialects::ofCatalog($catalog));
            } catch (SourceError $e) {
                printf("%-10s cannot be asked: %s\n", $name, $e->getMessage());
            }
        }
        $mean = static fn (array $of): float => array_sum($of) / max(1, \count($of));
        printf("mean first, with rows   %.3f  %s\n", $mean($this->first), $mean($this->first) >= 0.93 ? 'at least 0.93' : 'UNDER 0.93');
        printf("mean f1, with rows      %.3f  %s\n", $mean($this->f1), $mean($this->f1) >= 0.90 ? 'at least 0.90' : 'UNDER 0.90');

        return 0 === $this->off;
    }

    private function schema(string $name, Rows $rows, Dialect $dialect): void
    {
        $known = $this->corpus->known($name);
        $all = array_sum(array_map(fn (Table $table): int => $this->one($rows, 'SELECT COUNT(*) FROM '.self::from($dialect, $table)), $known->catalog->tables));
        if ($all < 100) {
            return;
        }
        $byNames = new Measure($name, $known, Chooser::fitted(false), $this->corpus->judged($name));
        $start = microtime(true);
        $known->look($rows, Chooser::fitted(true));
        $seconds = microtime(true) - $start;
        $measure = new Measure($name, $known, null, $this->corpus->judged($name));
        $this->first[] = $measure->share();
        $this->f1[] = $measure->f1();
        printf("%-10s %8d %9d %12.2f %6.2f  %4d, %5s %5.2f %8.1f   %s\n", $name, $all, $measure->declared, $byNames->share(), $measure->share(), $measure->sure,
            0 === $measure->sure ? '' : \sprintf('%.2f', $measure->sureRight / $measure->sure), $measure->f1(), $seconds, $this->figures($known->catalog->tables,
                $rows, $dialect));
        if ('' !== (string) getenv('JOINS_TOLD')) {
            foreach ([...array_map(static fn (string $one): string => "led elsewhere  $one", $measure->missed),
                ...array_map(static fn (string $one): string => "not declared   $one", $measure->further)] as $line) {
                echo "    $line\n";
            }
        }
    }

    /** @param list<Table> $tables */
    private function figures(array $tables, Rows $rows, Dialect $dialect): string
    {
        $places = [];
        foreach ($tables as $table) {
            $places[$table->place()->key()] = $table;
        }
        $same = $off = 0;
        $observing = new Observing($rows, $dialect);
        foreach ($tables as $table) {
            foreach ($table->foreignKeys as $key) {
                $to = $places[$key->references->place()->key()] ?? null;
                $pairs = array_map(static fn (string $near, string $far): array => [$near, $far], $key->columns, $key->references->columns);
                if (null === $to || [] === $pairs) {
                    continue;
                }
                $figures = $observing->of($table, $to, $pairs);
                $said = [$figures->rows, $figures->empty, $figures->orphans, $figures->parents + $figures->repeated];
                $same += $said === $this->plain($rows, $dialect, $table, $to, $pairs) ? 1 : 0;
                ++$off;
            }
        }
        $this->off += $off - $same;

        return "$same of $off joins";
    }

    /**
     * @param non-empty-list<array{string, string}> $pairs
     *
     * @return list<int>
     */
    private function plain(Rows $rows, Dialect $dialect, Table $from, Table $to, array $pairs): array
    {
        $sql = $dialect->profiling() ?? throw new \LogicException();
        $a = self::from($dialect, $from).' a';
        $equal = implode(' AND ', array_map(static fn (array $pair): string => 'b.'.$sql->quoted($pair[1]).' = a.'.$sql->quoted($pair[0]), $pairs));
        $empty = implode(' OR ', array_map(static fn (array $pair): string => 'a.'.$sql->quoted($pair[0]).' IS NULL', $pairs));

        return [
            $this->one($rows, "SELECT COUNT(*) FROM $a"), $this->one($rows, "SELECT COUNT(*) FROM $a WHERE $empty"),
            $this->one($rows, "SELECT COUNT(*) FROM $a WHERE NOT ($empty) AND NOT EXISTS (SELECT 1 FROM ".self::from($dialect, $to)." b WHERE $equal)"),
            $this->one($rows, 'SELECT COUNT(*) FROM '.self::from($dialect, $to)),
        ];
    }

    private static function from(Dialect $dialect, Table $table): string
    {
        return ($dialect->profiling() ?? throw new \LogicException())->from($table);
    }

    private function one(Rows $rows, string $sql): int
    {
        foreach ($rows->rows($sql) as $row) {
            return (int) array_values($row)[0];
        }

        return 0;
    }
}
