<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Catalog\With;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Dialect\TypeText;

/**
 * What was before, as a question sees it: each row counts once more, as if its date were so much later. Then it falls into the row of the answer that
 * it is looked at beside, and conditions on the date hold of the later one.
 */
final readonly class Shift
{
    use With;

    /** Which of the counts of a row it is: 0 the row as it is, from 1 on so much later. */
    public const COUNT = 'times.k';

    /**
     * @param Level                  $level    the date
     * @param string                 $role     in which it stands
     * @param string                 $column   its field
     * @param bool                   $calendar each date is one row of its role, so that the row of the later date is looked up
     * @param bool                   $proven   constraints see to it that it is one row
     * @param bool                   $bounded  a condition says up to when; else periods that have not come yet are left out
     * @param list<array{int, Span}> $spans    each different one
     * @param ?int                   $only     it is about one of the counts alone, from 1 on; null for all of them
     */
    public function __construct(
        public Level $level,
        public string $role,
        public string $column,
        public string $type,
        public bool $calendar,
        public bool $proven,
        public bool $bounded,
        public array $spans,
        public ?int $only = null,
    ) {
    }

    /** Whether a value moves with the date: what is computed of it and of another date, such as the days between them, stays what it is. */
    public function moves(Ground $ground, Formula $formula): bool
    {
        foreach ($formula->fields as $use) {
            $column = $ground->column($use->role, $use->column);
            if (null !== $column && TypeFamily::Time === $ground->typeOf($column)->family && [$use->role, $use->column] !== [$this->role, $this->column]) {
                return false;
            }
        }

        return true;
    }

    /** Which of the counts has what a figure looks back at. */
    public function count(Figure $figure): int
    {
        foreach ($this->spans as $i => [$many, $span]) {
            if ($many === $figure->many && $span === $figure->span) {
                return $i + 1;
            }
        }
        throw new \LogicException('The planner has seen to it.');
    }

    /** The same, about one of the counts alone. */
    public function only(int $count): self
    {
        return $this->with(only: $count);
    }

    /** The later date; of all counts none for the row as it is. */
    public function later(AskSql $sql, string $date): string
    {
        $isDate = 'date' === TypeText::of($this->type)->name;
        $later = 'CASE '.self::COUNT;
        foreach ($this->spans as $i => [$many, $span]) {
            [$counted, $of] = $span->counted($many);
            if ($this->only === $i + 1) {
                return $sql->later($date, $counted, $of, $isDate);
            }
            $later .= ' WHEN '.($i + 1).' THEN '.$sql->later($date, $counted, $of, $isDate);
        }

        return $later.' END';
    }

    /** A value of a row as it is, or of the same so much later. */
    public function either(string $now, string $later): string
    {
        return null === $this->only ? 'CASE WHEN '.self::COUNT." = 0 THEN $now ELSE $later END" : $later;
    }

    /** What a row is brought together with, so that it counts once more for each span. */
    public function times(): string
    {
        $counts = array_map(static fn (int $k): string => 'SELECT '.$k.(0 === $k ? ' AS k' : ''), range(0, \count($this->spans)));

        return '('.implode(' UNION ALL ', $counts).') AS times';
    }

    /** The step from a row of a calendar to that of the later date. */
    public function step(): Way
    {
        return new Way(new ModelJoin($this->role, $this->role, [$this->column], [$this->column]), true, $this->proven, $this);
    }
}
