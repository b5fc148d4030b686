<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\ScriptStatement;

/** Structure scripts of PostgreSQL: https://www.postgresql.org/docs/15/sql-createtable.html */
final class PostgreSqlScriptSql extends ScriptSql
{
    private const SERIAL = ['integer' => 'serial', 'bigint' => 'bigserial', 'smallint' => 'smallserial'];

    /** @var array<string, int> how many columns a sequence numbers, by their default */
    private array $counted = [];

    public function catalog(Catalog $catalog): array
    {
        $defaults = [];
        foreach ($catalog->tables as $table) {
            array_push($defaults, ...array_map(static fn (Column $column): string => (string) $column->default, $table->columns));
        }
        $this->counted = array_count_values(array_filter($defaults, static fn (string $default): bool => str_starts_with($default, 'nextval(')));

        return parent::catalog($catalog);
    }

    /** Those of types and of programs, too. */
    protected function schemas(Catalog $catalog): array
    {
        $all = parent::schemas($catalog);
        $known = array_map(static fn (Table $table): string => $table->schema, $catalog->tables);
        $more = array_map(static fn (Routine $routine): string => $routine->schema, $catalog->routines);
        foreach ($catalog->tables as $table) {
            foreach ($table->columns as $column) {
                $place = null === $column->base ? null : Place::parse($column->type);
                if (null !== $place && '' !== $place->schema) {
                    $more[] = $place->schema;
                }
            }
        }
        foreach (array_diff(array_unique($more), $known, ['public']) as $name) {
            $all[] = new ScriptStatement('schema', $this->schema($name));
        }

        return $all;
    }

    protected function routine(Routine $routine): array
    {
        $all = parent::routine($routine);
        if ([] !== $all && '' !== $routine->comment && $this->options->comments) {
            $what = strtoupper($routine->kind).' '.$this->dialect->placed(new Place($routine->schema, $routine->name));
            // What is handed in tells routines of one name apart; what has a default is said without it here.
            $given = preg_replace("/ DEFAULT (?:'(?:[^']|'')*'|[^,'])+/", '', $routine->parameters);
            $all[] = new ScriptStatement('comment', "COMMENT ON $what($given) IS ".$this->literal($routine->comment));
        }

        return $all;
    }

    /** Bodies may speak of what is made later. */
    public function text(array $statements): string
    {
        $programs = array_filter($statements, static fn (ScriptStatement $statement): bool => 'routine' === $statement->kind);

        return ([] === $programs ? '' : "SET check_function_bodies = false;\n\n").parent::text($statements);
    }

    protected function schema(string $name): string
    {
        return 'CREATE SCHEMA IF NOT EXISTS '.$this->name($name);
    }

    public function dropTable(Table $table): string
    {
        return parent::dropTable($table).' CASCADE';
    }

    protected function types(Catalog $catalog): array
    {
        $all = [];
        foreach ($catalog->tables as $table) {
            foreach ($table->kind->isView() ? [] : $table->columns as $column) {
                $type = preg_replace('/\[\]$/', '', $column->type) ?? $column->type;
                if (null !== $column->base && !isset($all[$type])) {
                    $all[$type] = new ScriptStatement('type', $this->ownType($type, $column, $table));
                }
                $sequence = $this->sequence($column, $table);
                if (null !== $sequence) {
                    $all[$sequence] = new ScriptStatement('type', 'CREATE SEQUENCE '.$sequence);
                }
            }
        }

        return array_values($all);
    }

    private function ownType(string $type, Column $column, Table $table): string
    {
        $base = preg_replace('/\[\]$/', '', (string) $column->base) ?? '';
        if (1 === preg_match('/^enum\((.*)\)$/s', $base, $m) && !$this->isDomain($column, $table)) {
            return "CREATE TYPE $type AS ENUM ($m[1])";
        }
        $checks = array_filter($table->checks, static fn (CheckConstraint $check): bool => $check->column === $column->name);
        $said = array_map(fn (CheckConstraint $check): string => ' CONSTRAINT '.$this->name($check->name).' CHECK ('.$check->expression.')', $checks);

        return "CREATE DOMAIN $type AS $base".implode('', $said);
    }

    /** A domain is told from an enumeration by what stands for it. */
    private function isDomain(Column $column, Table $table): bool
    {
        return [] !== array_filter($table->checks, static fn (CheckConstraint $check): bool => $check->column === $column->name);
    }

    /** The sequence that a default names and no `serial` makes. */
    private function sequence(Column $column, Table $table): ?string
    {
        if (1 !== preg_match("/^nextval\\('(.+)'::regclass\\)$/", (string) $column->default, $m) || $this->isSerial($column, $table)) {
            return null;
        }

        return str_replace("''", "'", $m[1]);
    }

    private function isSerial(Column $column, Table $table): bool
    {
        if (1 < ($this->counted[(string) $column->default] ?? 1)) {
            return false;
        }
        $place = Place::parse(str_replace("''", "'", preg_replace("/^nextval\\('(.+)'::regclass\\)$/", '$1', (string) $column->default) ?? ''));

        return isset(self::SERIAL[$column->type]) && !$column->nullable && null !== $place
            && $place->name === self::shortened($table->name, $column->name, 'seq');
    }

    /** The name that the server gives: of table and column together as many bytes as fit (makeObjectName() of src/backend/commands/indexcmds.c). */
    public static function shortened(string $table, string $column, string $label): string
    {
        $room = 63 - \strlen($label) - 2;
        while (\strlen($table) + \strlen($column) > $room) {
            if (\strlen($table) > \strlen($column)) {
                $table = mb_strcut($table, 0, \strlen($table) - 1);
            } else {
                $column = mb_strcut($column, 0, \strlen($column) - 1);
            }
        }

        return $table.'_'.$column.'_'.$label;
    }

    public function column(Column $column, Table $table): string
    {
        if (!$this->isSerial($column, $table)) {
            return parent::column($column, $table);
        }

        return $this->name($column->name).' '.self::SERIAL[$column->type];
    }

    protected function computed(Column $column): string
    {
        return parent::computed($column).' STORED';
    }

    protected function numbered(Column $column): string
    {
        return null === $column->default ? 'GENERATED BY DEFAULT AS IDENTITY' : 'DEFAULT '.$column->default;
    }

    protected function create(Table $table): string
    {
        return 'unlogged' === $table->storage ? 'CREATE UNLOGGED TABLE' : 'CREATE TABLE';
    }

    public function check(CheckConstraint $check): string
    {
        // Those of a domain belong to the domain; exclusions are said as they are.
        return match (true) {
            null !== $check->column => '',
            str_starts_with($check->expression, 'EXCLUDE ') => $this->constraint($check->name).$check->expression,
            default => parent::check(new CheckConstraint($check->name, self::listed($check->expression))),
        };
    }

    /** The server writes a list of texts in a form that it would not write of itself again. */
    private static function listed(string $expression): string
    {
        $pattern = "/\\(([a-z_][a-z0-9_]*|\"(?:[^\"]|\"\")+\")\\)::text (= ANY|<> ALL) \\(\\(ARRAY\\[((?:'(?:[^']|'')*'::character varying(?:, "
            .')?)+)\\]\\)::text\\[\\]\\)/';

        return preg_replace_callback($pattern, static fn (array $m): string => $m[1].('= ANY' === $m[2] ? ' IN (' : ' NOT IN (')
            .str_replace("'::character varying", "'", $m[3]).')', $expression) ?? $expression;
    }

    public function missing(Table $table): array
    {
        $missing = parent::missing($table);
        foreach ($table->columns as $column) {
            $place = Place::parse(preg_replace('/\[\]$/', '', $column->type) ?? '');
            if (null === $column->base && null !== $place && '' !== $place->schema && !$table->kind->isView()) {
                $missing[] = \sprintf('%s is of the type %s, which must be there already', $column->name, $column->type);
            }
        }

        return $missing;
    }

    protected function isImplied(Index $index, Table $table): bool
    {
        $excluded = array_filter(
            $table->checks,
            static fn (CheckConstraint $check): bool => $check->name === $index->name && str_starts_with($check->expression, 'EXCLUDE '),
        );

        return parent::isImplied($index, $table) || [] !== $excluded;
    }

    protected function indexed(Index $index, Table $table): string
    {
        return $this->placed($table->place()).('btree' === $index->method ? '' : ' USING '.$index->method).' ('.$this->parts($index, $table).')';
    }

    public function index(Index $index, Table $table): string
    {
        $where = null === $index->where ? null : self::listed($index->where);

        return parent::index(new Index($index->name, $index->parts, $index->unique, $index->method, $index->comment, $where), $table);
    }

    protected function part(IndexPart $part, Table $table): string
    {
        return parent::part(new IndexPart($part->column, null, $part->descending), $table);
    }

    protected function comments(Table $table): array
    {
        $all = [];
        $what = $table->kind->isView() ? strtoupper($table->kind->value) : 'TABLE';
        if ('' !== $table->comment) {
            $all[] = "COMMENT ON $what ".$this->placed($table->place()).' IS '.$this->literal($table->comment);
        }
        foreach ($table->columns as $column) {
            if ('' !== $column->comment) {
                $all[] = 'COMMENT ON COLUMN '.$this->placed($table->place()).'.'.$this->name($column->name).' IS '.$this->literal($column->comment);
            }
        }
        foreach ($table->indexes as $index) {
            if ('' !== $index->comment) {
                $all[] = 'COMMENT ON INDEX '.$this->placed(new Place($table->schema, $index->name)).' IS '.$this->literal($index->comment);
            }
        }

        return $all;
    }

    public function view(Table $view): array
    {
        $all = parent::view($view);
        foreach ($view->indexes as $index) {
            $all[] = new ScriptStatement('index', $this->index($index, $view), $view->place());
        }
        foreach ($this->options->comments ? $this->comments($view) : [] as $sql) {
            $all[] = new ScriptStatement('comment', $sql, $view->place());
        }

        return $all;
    }

    public function trigger(Table $table, Trigger $trigger): string
    {
        return '' !== $trigger->statement ? $trigger->statement
            : \sprintf(
                'CREATE TRIGGER %s %s %s ON %s FOR EACH ROW %s',
                $this->name($trigger->name),
                $trigger->timing,
                $trigger->event,
                $this->placed($table->place()),
                $trigger->body,
            );
    }
}
