<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;

/**
 * How often each value of a field stands in it.
 *
 * @phpstan-import-type Figures from SqlProfiler
 */
final class Frequencies
{
    /** A field with no more different values in the sample is counted value by value, which also tells all the rest of it. */
    private const FEW_VALUES = 60;
    private const MOST_VALUES = 1000;
    private const MOST_FREQUENT = 20;
    /** Different values that are grouped to find the most frequent. */
    private const MOST_GROUPED = 2000;

    public function __construct(private readonly SqlProfiler $all)
    {
    }

    /**
     * Counts the values of each field that seems to have few of them.
     *
     * @param array<int, list<string>> $values   of the sample, by column
     * @param list<bool>               $personal whose values are not asked for one by one
     *
     * @return array<int, array<array-key, int>> column → value → rows
     */
    public function few(Table $table, array $values, array $personal, Progress $progress): array
    {
        $few = [];
        foreach ($table->columns as $i => $column) {
            $seen = $values[$i];
            if ($personal[$i] || !$this->all->sql->comparable($column) || \count(array_unique($seen)) > self::FEW_VALUES
                || ([] !== $seen && max(array_map(mb_strlen(...), $seen)) >= SqlProfiler::LONGEST / 2)) {
                continue;
            }
            $progress->at($table->name.': how often each value stands', $i, \count($table->columns));
            $name = $this->all->sql->quoted($column->name);
            $counts = [];
            // "g" and "G" are two values, whatever the collation makes of them.
            $by = TypeFamily::Text === $this->all->family($column) ? $this->all->sql->apart($column, $name) : $name;
            $text = $by === $name ? $this->all->asText($column) : 'MIN('.$this->all->asText($column).')';
            $rows = $this->all->scan("SELECT $text AS value, COUNT(*) AS n FROM {$this->all->sql->from($table)} WHERE $name IS NOT NULL
                GROUP BY $by LIMIT ".(self::MOST_VALUES + 1));
            foreach ($rows as $row) {
                $counts[(string) $row['value']] = ($counts[(string) $row['value']] ?? 0) + (int) $row['n'];
            }
            // Values outside the sample may be longer than what is read of each, and where columns hold what they like, a number
            // and a text may be written alike: those are counted in the scan.
            if (\count($rows) <= self::MOST_VALUES && \count($counts) === \count($rows) && [] === array_filter(array_keys($counts), self::isCut(...))) {
                $few[$i] = $counts;
            }
        }

        return $few;
    }

    /**
     * Values that the database takes for the same, together, by the spelling that stands most often.
     *
     * @param array<int, array<array-key, int>> $few
     *
     * @return array<int, array<array-key, int>>
     */
    public function alike(Table $table, array $few): array
    {
        foreach ($few as $i => $counts) {
            $column = $table->columns[$i];
            if (!$this->all->sql->takesAlike($column) || \count($counts) < 2) {
                continue;
            }
            $spellings = array_map(strval(...), array_keys($counts));
            $values = $this->asTable($table, $column, $spellings);
            $same = $this->all->sql->same($column, 'a.v', 'b.v');
            $groups = [];
            foreach ($this->all->scan("SELECT a.i AS i, MIN(b.i) AS k FROM ($values) a JOIN ($values) b ON $same GROUP BY a.i") as $row) {
                $value = $spellings[(int) $row['i']];
                $groups[(int) $row['k']][$value] = $counts[$value];
            }
            $few[$i] = [];
            foreach ($groups as $alike) {
                arsort($alike);
                $few[$i][(string) array_key_first($alike)] = array_sum($alike);
            }
        }

        return $few;
    }

    /**
     * Values as a table with their numbers `i`, typed as the column is: the engine is asked about these alone, not about the
     * rows once more.
     *
     * @param list<string> $values
     */
    private function asTable(Table $table, Column $column, array $values): string
    {
        $sql = "SELECT 0 AS i, {$this->all->sql->quoted($column->name)} AS v FROM {$this->all->sql->from($table)} WHERE 1 = 0";
        foreach ($values as $n => $value) {
            $sql .= " UNION ALL SELECT $n, ".$this->all->sql->literal($value);
        }

        return $sql;
    }

    /**
     * The least and the greatest of texts that are all known, by the order of the engine.
     *
     * @param array<array-key, int> $counts
     * @param Figures               $figures
     *
     * @return Figures
     */
    public function withEdges(Table $table, Column $column, array $counts, array $figures): array
    {
        $order = $this->all->sql->ordered($column, $this->all->sql->bounded($column, 'v', SqlProfiler::LONGEST));
        $values = $this->asTable($table, $column, array_map(strval(...), array_keys($counts)));
        foreach ([] === $counts ? [] : $this->all->scan("SELECT MIN($order) AS l, MAX($order) AS g FROM ($values) a") as $row) {
            $figures['least'] = $row['l'];
            $figures['greatest'] = $row['g'];
        }

        return $figures;
    }

    /**
     * How often the most frequent values stand in all rows, where some stand several times. Of those that are
     * written alike as far as they are read, each has an entry of its own.
     *
     * @param Figures      $figures
     * @param list<string> $seen    of the sample
     *
     * @return array<array-key, int>|null null to go by the sample
     */
    public function frequent(Table $table, int $i, bool $may, array $figures, array $seen): ?array
    {
        $column = $table->columns[$i];
        if (!$may || null === $figures['distinct'] || !$this->all->sql->comparable($column) || 0 === $figures['values']) {
            return null;
        }
        if (2 * $figures['distinct'] > $figures['values']) {
            $different = $figures['values'] > SqlProfiler::SAMPLE ? $figures['distinct'] : \count(array_unique($seen));
            if ($different <= $figures['distinct'] && $different >= $figures['distinct'] - ($figures['blank'] > 0 ? 1 : 0)) {
                return null;
            }
            // All values have been seen, but the database takes others for the same than their texts do.
        }
        $name = $this->all->sql->quoted($column->name);
        $among = '';
        if ($figures['distinct'] > self::MOST_GROUPED) {
            // To group them all would take longer than all the rest. What is frequent shows in the sample, and is counted then.
            $likely = FieldFigures::frequentInSample($seen, $figures['values'] - $figures['blank']);
            if ([] === $likely) {
                return [];
            }
            $literals = array_map(fn (string|int $value): string => $this->all->sql->literal((string) $value), array_keys($likely));
            $among = " AND {$this->all->asText($column)} IN (".implode(', ', $literals).')';
        }
        $counts = [];
        // Of values that stand equally often, the least come first in each engine.
        $least = "MIN({$this->all->sql->ordered($column, $this->all->bounded($column))})";
        foreach ($this->all->scan("SELECT MIN({$this->all->asText($column)}) AS value, COUNT(*) AS n FROM {$this->all->sql->from($table)}
            WHERE $name IS NOT NULL$among GROUP BY $name ORDER BY n DESC, $least LIMIT ".(self::MOST_FREQUENT + 1)) as $row) {
            $value = (string) $row['value'];
            for ($n = 2; isset($counts[$value]); ++$n) {
                $value = $row['value']." ($n)";
            }
            if ('' !== trim($value)) {
                $counts[$value] = (int) $row['n'];
            }
        }

        return $counts;
    }

    private static function isCut(string|int $value): bool
    {
        return mb_strlen((string) $value) >= SqlProfiler::LONGEST;
    }

    /**
     * @param array<array-key, int> $counts of values, those that are the same to the database together
     * @param array<array-key, int> $exact  of each spelling
     * @param Figures               $edges  as the database orders its values
     *
     * @return Figures
     */
    public static function tallied(array $counts, array $exact, TypeFamily $family, array $edges): array
    {
        $lengths = array_map(mb_strlen(...), array_map(strval(...), array_keys($exact)));
        $blank = $letters = 0;
        foreach ($exact as $value => $count) {
            $blank += '' === trim((string) $value) ? $count : 0;
            $letters += $count * mb_strlen((string) $value);
        }
        $all = array_sum($exact);
        $text = TypeFamily::Text === $family && $all > 0;

        return [
            'values' => $all,
            'blank' => $blank,
            'distinct' => \count($counts),
            'least' => $edges['least'],
            'greatest' => $edges['greatest'],
            'shortest' => $text && [] !== $lengths ? min($lengths) : null,
            'longest' => $text && [] !== $lengths ? max($lengths) : null,
            'average' => $text ? $letters / $all : null,
        ];
    }
}
