<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\ProfileSql;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** A few rows of both ends of a join, side by side. Personal values and secrets are never asked for. */
final readonly class Examples
{
    public const MASK = '···';
    private const FOUND = 3;
    private const LOST = 2;
    private const LONGEST = 40;

    private ProfileSql $sql;

    public function __construct(private Rows $source, private Dialect $dialect)
    {
        $this->sql = $dialect->profiling() ?? throw new \LogicException(\sprintf('%s cannot be asked about its data.', $dialect->label()));
    }

    /**
     * @param non-empty-list<array{string, string}> $pairs
     * @param array{string, string}|null            $where
     * @param array<string, true>                   $closedNear fields of `$from` whose values may not be shown
     * @param array<string, true>                   $closedFar
     *
     * @return list<array{near: list<string>, far: list<string>|null}>
     *
     * @throws SourceError
     */
    public function of(Table $from, Table $to, array $pairs, ?array $where, array $closedNear, array $closedFar): array
    {
        $near = [...array_column($pairs, 0), ...$this->telling($from, array_column($pairs, 0), $closedNear)];
        $far = [...array_column($pairs, 1), ...$this->telling($to, array_column($pairs, 1), $closedFar)];
        $select = [...$this->select($from, $near, 'c', 'n', $closedNear), ...$this->select($to, $far, 'p', 'f', $closedFar)];
        $on = $filled = [];
        foreach ($pairs as [$one, $other]) {
            // Other types are compared by their texts, never as the engine likes it.
            $loose = $this->dialect->typeOf($from->column($one) ?? new Column($one, ''))->family !== $this->dialect->typeOf($to->column($other)
                ?? new Column($other, ''))->family;
            $a = 'c.'.$this->sql->quoted($one);
            $b = 'p.'.$this->sql->quoted($other);
            $on[] = $loose ? $this->sql->key($from->column($one) ?? new Column($one, ''), $a).' = '.$this->sql->key(
                $to->column($other) ?? new Column($other, ''),
                $b,
            ) : "$a = $b";
            $filled[] = "$a IS NOT NULL";
        }
        if (null !== $where) {
            $filled[] = 'c.'.$this->sql->is($where[0], $where[1]);
        }
        $tables = ['FROM '.$this->sql->from($from).' c', 'JOIN '.$this->sql->from($to).' p ON '.implode(' AND ', $on)];
        $found = $this->rows(
            'SELECT '.implode(', ', $select).' '.implode(' ', $tables).' WHERE '.implode(' AND ', $filled).' LIMIT '.self::FOUND,
            \count($near),
            \count($far),
        );
        $first = 'p.'.$this->sql->quoted($pairs[0][1]);
        $lost = $this->rows(
            'SELECT '.implode(
                ', ',
                $this->select($from, $near, 'c', 'n', $closedNear),
            ).' '.$tables[0].' LEFT '.$tables[1].' WHERE '.implode(' AND ', $filled)." AND $first IS NULL LIMIT ".self::LOST,
            \count($near),
            0,
        );

        return [...$found, ...$lost];
    }

    /**
     * @param array<mixed> $kept
     *
     * @return list<Example>
     */
    public static function read(array $kept): array
    {
        $texts = static fn (mixed $list): array => array_values(array_filter(\is_array($list) ? $list : [], is_string(...)));
        $examples = [];
        foreach ($kept as $one) {
            if (\is_array($one)) {
                $examples[] = new Example($texts($one['near'] ?? []), \is_array($one['far'] ?? null) ? $texts($one['far']) : null);
            }
        }

        return $examples;
    }

    /**
     * One or two fields by which a person knows a row.
     *
     * @param list<string>        $taken
     * @param array<string, true> $closed
     *
     * @return list<string>
     */
    private function telling(Table $table, array $taken, array $closed): array
    {
        $scores = [];
        foreach ($table->columns as $column) {
            $type = $this->dialect->typeOf($column);
            if (\in_array($column->name, $taken, true) || isset($closed[$column->name]) || $type->array || !\in_array(
                $type->family,
                [TypeFamily::Text, TypeFamily::Time, TypeFamily::Whole, TypeFamily::Number],
                true,
            )) {
                continue;
            }
            $scores[$column->name] = match (true) {
                1 === preg_match('/(?:^|_)(?:name|title|label)$/i', $column->name) => 4,
                1 === preg_match('/(?:code|no|number)$/i', $column->name) && TypeFamily::Text === $type->family => 3,
                TypeFamily::Time === $type->family => 2,
                TypeFamily::Text === $type->family => 1,
                default => 0,
            };
        }
        arsort($scores);

        return array_map(strval(...), \array_slice(array_keys($scores), 0, 2));
    }

    /**
     * @param list<string>        $columns
     * @param array<string, true> $closed
     *
     * @return list<string>
     */
    private function select(Table $table, array $columns, string $alias, string $letter, array $closed): array
    {
        $select = [];
        foreach ($columns as $i => $name) {
            $column = $table->column($name) ?? new Column($name, '');
            $select[] = (isset($closed[$name]) ? $this->sql->literal(self::MASK) : $this->sql->asText(
                $column,
                "$alias.".$this->sql->quoted($name),
                self::LONGEST,
            ))." AS $letter$i";
        }

        return $select;
    }

    /** @return list<array{near: list<string>, far: list<string>|null}> */
    private function rows(string $sql, int $near, int $far): array
    {
        $found = [];
        foreach ($this->source->rows($sql) as $row) {
            $values = array_map(static fn (?string $value): string => $value ?? '', array_values($row));
            $found[] = ['near' => \array_slice($values, 0, $near), 'far' => 0 === $far ? null : \array_slice($values, $near, $far)];
        }

        return $found;
    }
}
