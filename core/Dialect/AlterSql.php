<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;

/**
 * Statements that change the structure of what is there already, rows kept. As it stands here it is SQL of the standard (ISO/IEC 9075-2,
 * clause 11.10 and after); an engine overrides what it says otherwise.
 */
class AlterSql
{
    public function __construct(protected readonly Dialect $dialect, public readonly ScriptSql $writing)
    {
    }

    /** A table is made anew beside itself and its rows are copied, since it can hardly be changed in place. */
    public function rebuilds(): bool
    {
        return false;
    }

    /** @return list<string> before everything else, and after */
    public function frame(): array
    {
        return ['', ''];
    }

    public function alter(Table $table, string $action): string
    {
        return 'ALTER TABLE '.$this->writing->placed($table->place()).' '.$action;
    }

    public function renameTable(Table $was, string $name): string
    {
        return $this->alter($was, 'RENAME TO '.$this->writing->name($name));
    }

    public function renameColumn(Table $table, string $was, string $is): string
    {
        return $this->alter($table, 'RENAME COLUMN '.$this->writing->name($was).' TO '.$this->writing->name($is));
    }

    /** @param ?string $after the column behind which it stands, '' for the first; null where that does not matter */
    public function addColumn(Table $table, Column $column, ?string $after): string
    {
        return $this->alter($table, 'ADD COLUMN '.$this->writing->column($column, $table->with(primaryKey: null, checks: [])));
    }

    public function dropColumn(Table $table, string $column): string
    {
        return $this->alter($table, 'DROP COLUMN '.$this->writing->name($column));
    }

    /**
     * Type and given value of a column; whether it is required is said apart.
     *
     * @param Table $table as it will be
     *
     * @return list<string>
     */
    public function changeColumn(Table $table, Column $was, Column $is, Cast $cast): array
    {
        $all = [];
        if ($was->type !== $is->type || $was->collation !== $is->collation) {
            $all[] = $this->column($table, $is, 'SET DATA TYPE '.$this->writing->type($is));
        }
        if ($was->default !== $is->default) {
            $all[] = $this->column($table, $is, null === $is->default ? 'DROP DEFAULT' : 'SET DEFAULT '.$is->default);
        }
        if (!$was->nullable && $is->nullable) {
            $all[] = $this->column($table, $is, 'DROP NOT NULL');
        }

        return $all;
    }

    /** @return list<string> */
    public function required(Table $table, Column $is): array
    {
        return [$this->column($table, $is, $is->nullable ? 'DROP NOT NULL' : 'SET NOT NULL')];
    }

    protected function column(Table $table, Column $column, string $action): string
    {
        return $this->alter($table, 'ALTER COLUMN '.$this->writing->name($column->name).' '.$action);
    }

    /** @return list<string> */
    public function dropPrimary(Table $table, Key $key): array
    {
        return [$this->alter($table, 'DROP CONSTRAINT '.$this->writing->name((string) $key->name))];
    }

    /** @return list<string> */
    public function addPrimary(Table $table, Key $key): array
    {
        return [$this->alter($table, 'ADD '.$this->writing->primary($key, $table))];
    }

    public function dropUnique(Table $table, Key $key): string
    {
        return $this->alter($table, 'DROP CONSTRAINT '.$this->writing->name((string) $key->name));
    }

    public function addUnique(Table $table, Key $key): string
    {
        return $this->alter($table, 'ADD '.$this->writing->unique($key, $table));
    }

    public function dropForeignKey(Table $table, ForeignKey $key): string
    {
        return $this->alter($table, 'DROP CONSTRAINT '.$this->writing->name((string) $key->name));
    }

    public function dropCheck(Table $table, CheckConstraint $check): string
    {
        return $this->alter($table, 'DROP CONSTRAINT '.$this->writing->name($check->name));
    }

    public function addCheck(Table $table, CheckConstraint $check): string
    {
        return $this->alter($table, 'ADD '.$this->writing->check($check));
    }

    public function dropIndex(Table $table, Index $index): string
    {
        return 'DROP INDEX '.$this->writing->placed(new Place($table->schema, $index->name));
    }

    public function addIndex(Table $table, Index $index): string
    {
        return $this->writing->index($index, $table);
    }

    public function dropTrigger(Table $table, Trigger $trigger): string
    {
        return 'DROP TRIGGER '.$this->writing->name($trigger->name);
    }

    /**
     * What tables and columns mean, where it differs.
     *
     * @return list<string>
     */
    public function meanings(Table $was, Table $is): array
    {
        return [];
    }

    /** @return list<string> how a table is stored and sorted, where it differs */
    public function stored(Table $was, Table $is): array
    {
        return [];
    }

    /**
     * Statements that fail where a table has such rows, and do nothing otherwise. A condition of a table of its own is all that each engine knows.
     *
     * @param string $words what the engine's error names
     *
     * @return list<string>
     */
    public function stops(Place $table, string $where, string $words): array
    {
        $name = $this->writing->name(mb_strcut((string) preg_replace('/[^\p{L}\p{N} .,:_-]+/u', '', $words), 0, 60));

        return [
            "CREATE TEMPORARY TABLE fasti_stops (found integer, CONSTRAINT $name CHECK (found = 0))",
            'INSERT INTO fasti_stops SELECT COUNT(*) FROM '.$this->writing->placed($table)." WHERE $where",
            'DROP '.$this->temporary().'TABLE fasti_stops',
        ];
    }

    /** The word by which a table is dropped that only the session sees. */
    protected function temporary(): string
    {
        return '';
    }

    // ---- values ----

    /** @param string $sql the column, or what stands for its value */
    public function cast(string $sql, Column $was, Column $is): Cast
    {
        $from = $this->dialect->typeOf($was);
        $to = $this->dialect->typeOf($is);
        if ($was->type === $is->type || $from->array || $to->array) {
            return new Cast(
                $was->type === $is->type ? $sql : $this->nothing($is),
                $was->type === $is->type ? null : "$sql IS NOT NULL",
                'it cannot be kept',
                true,
            );
        }

        return match (true) {
            TypeFamily::Text === $to->family => $this->ofText($sql, $from, $to, $is),
            $to->family->isNumeric() && $from->family->isNumeric() => $this->toNumber($sql, $from, $to, $is),
            $to->family->isNumeric() && TypeFamily::Flag === $from->family => new Cast($this->ofFlag($sql)),
            $to->family->isNumeric() && TypeFamily::Text === $from->family => $this->readNumber($sql, $to, $is),
            TypeFamily::Flag === $to->family && $from->family->isNumeric() => new Cast(
                $this->toFlag($sql),
                "$sql NOT IN (0, 1)",
                'only whether it is nothing is kept',
            ),
            TypeFamily::Time === $to->family && TypeFamily::Time === $from->family => $this->betweenTimes($sql, $from, $to, $is),
            TypeFamily::Time === $to->family && TypeFamily::Text === $from->family => $this->read($sql, $is, $this->looksLike($sql, self::DATE)),
            default => $this->none($sql, $is),
        };
    }

    private function none(string $sql, Column $is): Cast
    {
        return new Cast($this->nothing($is), "$sql IS NOT NULL", 'it cannot be kept', true);
    }

    private function ofText(string $sql, Type $from, Type $to, Column $is): Cast
    {
        if ([] === $to->members) {
            return $this->toText($sql, $from, $to, $is);
        }

        return $to->several || $from->several || TypeFamily::Text !== $from->family ? $this->none($sql, $is) : $this->toList($sql, $from, $to, $is);
    }

    protected const NUMBER = '^-?[0-9]+([.][0-9]+)?$';
    /** Days that there are, with or without a time. */
    protected const DATE = '^(?!0000)(?:[0-9]{4}-(?:(?:0[13578]|1[02])-(?:0[1-9]|[12][0-9]|3[01])|(?:0[469]|11)-(?:0[1-9]|[12][0-9]|30)'
        .'|02-(?:0[1-9]|1[0-9]|2[0-8]))|(?:[0-9]{2}(?:0[48]|[2468][048]|[13579][26])|(?:0[48]|[2468][048]|[13579][26])00)-02-29)'
        .'(?:[ T](?:[01][0-9]|2[0-3]):[0-5][0-9](?::[0-5][0-9](?:[.][0-9]{1,6})?)?)?$';

    protected function nothing(Column $is): string
    {
        return 'CAST(NULL AS '.$is->type.')';
    }

    protected function as(string $sql, Column $is): string
    {
        return "CAST($sql AS $is->type)";
    }

    protected function looksLike(string $sql, string $pattern): string
    {
        return "REGEXP_LIKE($sql, ".$this->writing->literal($pattern).')';
    }

    protected function text(string $sql, Type $from): string
    {
        return "CAST($sql AS varchar(4000))";
    }

    protected function length(string $sql): string
    {
        return "CHAR_LENGTH($sql)";
    }

    protected function first(string $sql, int $length): string
    {
        return "SUBSTRING($sql FROM 1 FOR $length)";
    }

    protected function ofFlag(string $sql): string
    {
        return "CASE WHEN $sql THEN 1 WHEN NOT $sql THEN 0 END";
    }

    protected function toFlag(string $sql): string
    {
        return "($sql <> 0)";
    }

    private function toText(string $sql, Type $from, Type $to, Column $is): Cast
    {
        $plain = TypeFamily::Text === $from->family ? $sql : $this->text($sql, $from);
        if (TypeFamily::Bytes === $from->family || TypeFamily::Spatial === $from->family) {
            return $this->none($sql, $is);
        }
        if (null === $to->length || (TypeFamily::Text === $from->family && null !== $from->length && $from->length <= $to->length)) {
            return new Cast($this->as($plain, $is));
        }
        if (!\in_array($from->family, [TypeFamily::Text, TypeFamily::Document, TypeFamily::Other], true) && $to->length >= 40) {
            return new Cast($this->as($plain, $is));
        }

        $long = $this->length($plain)." > $to->length";
        if (TypeFamily::Text !== $from->family) {
            // Half a number would be another number.
            $words = "what is longer than $to->length characters is left empty";

            return new Cast("CASE WHEN NOT ($long) THEN ".$this->as($plain, $is).' END', $long, $words, outside: $long);
        }

        return new Cast(
            $this->as($this->first($plain, $to->length), $is),
            $long,
            "what is behind the first $to->length characters is cut off",
        );
    }

    /** What is none of a list is left empty. */
    private function toList(string $sql, Type $from, Type $to, Column $is): Cast
    {
        if ([] !== $from->members && [] === array_diff($from->members, $to->members)) {
            return new Cast($this->as($sql, $is));
        }
        $plain = [] === $from->members ? $sql : $this->text($sql, $from);
        $list = implode(', ', array_map($this->writing->literal(...), $to->members));

        return new Cast("CASE WHEN $plain IN ($list) THEN ".$this->as($plain, $is).' END', "$plain NOT IN ($list)", 'what is none of its values is left empty');
    }

    /** Whether all numbers of the one are numbers of the other. */
    private static function holds(Type $from, Type $to): bool
    {
        [$least, $most] = self::bounds($to);
        [$low, $high] = self::bounds($from);
        if (null === $least || null === $most) {
            return true;
        }
        if (null === $low || null === $high || !\in_array($from->family, [TypeFamily::Whole, TypeFamily::Number], true)) {
            return false;
        }
        $places = TypeFamily::Whole === $to->family ? 0 : (int) $to->scale;

        return (TypeFamily::Whole === $from->family ? 0 : (int) $from->scale) <= $places
            && self::compared($low, $least) >= 0 && self::compared($high, $most) <= 0;
    }

    /** Decimals of any length: less than 0, 0 or more, as the first is less, the same or more. */
    private static function compared(string $a, string $b): int
    {
        if (str_starts_with($a, '-') !== str_starts_with($b, '-')) {
            return str_starts_with($a, '-') ? -1 : 1;
        }
        $long = max(\strlen($a), \strlen($b));
        $plain = static function (string $one) use ($long): string {
            $parts = explode('.', ltrim($one, '-'));

            return str_pad($parts[0], $long, '0', \STR_PAD_LEFT).str_pad($parts[1] ?? '', $long, '0');
        };

        return strcmp($plain($a), $plain($b)) * (str_starts_with($a, '-') ? -1 : 1);
    }

    private function toNumber(string $sql, Type $from, Type $to, Column $is): Cast
    {
        [$least, $most] = self::bounds($to);
        $whole = TypeFamily::Whole === $to->family;
        if (null === $most || self::holds($from, $to)) {
            return new Cast($this->as($sql, $is));
        }
        $exact = TypeFamily::Number === $from->family && null === $from->length ? $this->number($sql) : $sql;
        // What is rounded may be rounded out of it.
        $near = match (true) {
            $whole => "ROUND($sql)",
            null === $to->scale || TypeFamily::Number !== $from->family => $sql,
            default => "ROUND($exact, $to->scale)",
        };
        $outside = "$near NOT BETWEEN $least AND $most";
        $rounded = match (true) {
            $whole => "$sql <> ROUND($sql)",
            null === $to->scale => '',
            default => "$exact <> ROUND($exact, $to->scale)",
        };

        return new Cast(
            "CASE WHEN $near BETWEEN $least AND $most THEN ".$this->as($whole ? "ROUND($sql)" : $sql, $is).' END',
            '' === $rounded ? $outside : "($outside OR $rounded)",
            'decimals are rounded, and what is too large is left empty',
            outside: $outside,
        );
    }

    /** @return array{string, string}|array{null, null} */
    private static function bounds(Type $to): array
    {
        if (TypeFamily::Whole === $to->family) {
            $bits = $to->bits ?? 32;

            return $to->unsigned ? ['0', (string) (64 === $bits ? '18446744073709551615' : 2 ** $bits - 1)]
                : [
                    64 === $bits ? '-9223372036854775808' : (string) -(2 ** ($bits - 1)),
                    64 === $bits ? '9223372036854775807' : (string) (2 ** ($bits - 1) - 1),
                ];
        }
        if (null === $to->length) {
            return [null, null];
        }
        $most = str_repeat('9', max(1, $to->length - (int) $to->scale)).(0 === (int) $to->scale ? '' : '.'.str_repeat('9', (int) $to->scale));

        return [$to->unsigned ? '0' : '-'.$most, $most];
    }

    private function readNumber(string $sql, Type $to, Column $is): Cast
    {
        $looks = $this->looksLike($sql, self::NUMBER);
        $number = $this->number($sql);
        [$least, $most] = self::bounds($to);
        if (null === $most) {
            return $this->read($sql, $is, $looks);
        }
        $whole = TypeFamily::Whole === $to->family;
        $rounded = $whole || null === $to->scale ? "ROUND($number)" : "ROUND($number, $to->scale)";
        // One within the other: nobody promises that AND asks the first one first.
        $fits = "CASE WHEN $looks THEN CASE WHEN $rounded BETWEEN $least AND $most THEN 1 ELSE 0 END ELSE 0 END = 1";
        $exact = "CASE WHEN $looks THEN CASE WHEN $rounded BETWEEN $least AND $most AND $number = $rounded THEN 1 ELSE 0 END ELSE 0 END = 1";

        return new Cast(
            "CASE WHEN $fits THEN ".$this->as($rounded, $is).' END', "NOT ($exact)",
            'what does not read as such a number is left empty, decimals are rounded',
        );
    }

    /** What reads as a number, as one. */
    protected function number(string $sql): string
    {
        return "CAST($sql AS numeric)";
    }

    private function read(string $sql, Column $is, string $looks): Cast
    {
        return new Cast("CASE WHEN $looks THEN ".$this->as($sql, $is).' END', "NOT ($looks)", 'what does not read as such a value is left empty');
    }

    private function betweenTimes(string $sql, Type $from, Type $to, Column $is): Cast
    {
        $day = static fn (Type $type): bool => str_starts_with($type->name, 'date') || str_starts_with($type->name, 'timestamp');
        if ($day($from) !== $day($to)) {
            return $this->none($sql, $is);
        }
        $loses = ('date' === $to->name && 'date' !== $from->name) || ((int) $to->scale < (int) $from->scale);

        return $loses ? new Cast($this->as($sql, $is), "$sql IS NOT NULL", 'only what is as coarse as that is kept') : new Cast($this->as($sql, $is));
    }

    /**
     * The database numbers a column from now on, after the numbers that are there.
     *
     * @return list<string>
     */
    public function numbers(Table $table, Column $column): array
    {
        return [$this->column($table, $column, 'ADD GENERATED BY DEFAULT AS IDENTITY')];
    }

    /** One value of a column, as a query within a statement. */
    public function someOf(string $column, string $table): string
    {
        return "(SELECT MIN($column) FROM $table)";
    }

    /** @var array<string, string> name of a type → the SQL of its plainest value, where that does not follow from its family */
    protected const PLAINEST = [];

    /** What rows get of which nobody has said it: the plainest value of a type. */
    public function plainest(Column $is): string
    {
        $type = $this->dialect->typeOf($is);

        return match (true) {
            isset(static::PLAINEST[$type->name]) && !$type->array => static::PLAINEST[$type->name],
            $type->array => $this->writing->literal('{}'),
            // Of what a database numbers it, 0 means the next number to some.
            $is->autoNumbered && $type->family->isNumeric() => '1',
            [] !== $type->members => $this->writing->literal($type->members[0]),
            $type->family->isNumeric() => '0',
            TypeFamily::Flag === $type->family => $this->dialect->capabilities()->no,
            TypeFamily::Time === $type->family => $this->time($type),
            TypeFamily::Document === $type->family => $this->writing->literal('{}'),
            1 === preg_match('/uuid|uniqueidentifier/i', $type->name) => $this->writing->literal('00000000-0000-0000-0000-000000000000'),
            default => $this->writing->literal(''),
        };
    }

    protected function time(Type $type): string
    {
        return match (true) {
            str_starts_with($type->name, 'time') && !str_starts_with($type->name, 'timestamp') => $this->writing->literal('00:00:00'),
            'date' === $type->name => $this->writing->literal('1970-01-01'),
            'year' === $type->name => '1970',
            default => $this->writing->literal('1970-01-02 00:00:00'),
        };
    }
}
