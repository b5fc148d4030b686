<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Sqlite;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Script\Script;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Dangling;
use Fasti\Core\Survey\Inventory;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/**
 * Reads an SQLite database. Its catalog is the list of statements that made it, kept in `sqlite_master`: they are read as
 * a script is, since the engine's own pragmas leave out names of constraints, checks and expressions. What only the engine
 * knows, the columns of views and of virtual tables, is asked of it.
 */
final readonly class SqliteReader implements Reader
{
    public function __construct(private Rows $source)
    {
    }

    public function inventory(): Inventory
    {
        $objects = [];
        foreach ($this->source->rows(
            "SELECT name, type FROM sqlite_master WHERE type IN ('table', 'view') AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' ORDER BY name",
        ) as $row) {
            $objects[(string) $row['name']] = (string) $row['type'];
        }

        return new Inventory($this->version(), ['main' => $objects]);
    }

    public function read(Choice $choice, Progress $progress): Catalog
    {
        $progress->at('the statements that made it', 0, 3);
        $script = new Script(new SqliteGrammar());
        $notes = $virtual = $plain = [];
        [$statements, $own] = $this->statements($choice);
        foreach ($statements as [$type, $name, $of, $sql]) {
            if (isset($plain[$of])) {
                continue;
            }
            $table = 'table' === $type ? PlainTable::of($sql, $own[$name] ?? []) : null;
            if (null !== $table) {
                $plain[$name] = $table;
                continue;
            }
            try {
                $script->statement($sql);
            } catch (SqlFault $e) {
                if ('table' === $type) {
                    $virtual[$name] = true;
                    $notes[] = \sprintf(
                        'The statement that made %s could not be read (%s); its columns were asked of the engine instead, without constraints.',
                        $name,
                        $e->getMessage(),
                    );
                } elseif (!isset($virtual[$of])) {
                    $notes[] = \sprintf('The %s %s could not be read (%s) and was left out.', $type, $name, $e->getMessage());
                }
            }
        }
        $script->beside($plain);
        $progress->at('views', 1, 3);
        $tables = [...array_values($plain), ...$this->completed($script->catalog([], '')->tables, array_map(strval(...), array_keys($virtual)), $notes)];
        usort($tables, static fn (Table $a, Table $b): int => strcmp($a->name, $b->name));
        if ([] === $tables) {
            $notes[] = 'Nothing matches the choice, or the database is empty.';
        }
        array_push($notes, ...Dangling::notes($tables, $this->inventory()));
        $progress->at('done', 3, 3);

        return new Catalog('sqlite', $this->version(), $tables, [], $notes);
    }

    /** @return array{list<array{string, string, string, string}>, array<string, list<string>>} type, name, table and SQL of each; indexes by table */
    private function statements(Choice $choice): array
    {
        $statements = $own = [];
        foreach ($this->source->rows(
            "SELECT type, name, tbl_name, sql FROM sqlite_master WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' ORDER BY CASE type WHEN "
                ."'table' THEN 0 WHEN 'view' THEN 1 ELSE 2 END, rowid",
        ) as $row) {
            $type = (string) $row['type'];
            $name = (string) $row['name'];
            $of = (string) $row['tbl_name'];
            $sql = (string) $row['sql'];
            if ($choice->takes('main', $of)) {
                $statements[] = [$type, $name, $of, $sql];
                if ('table' !== $type && 'view' !== $type) {
                    $own[$of][] = 'index' === $type ? $sql : '';
                }
            }
        }

        return [$statements, $own];
    }

    /**
     * Columns of which no statement tells are asked of the engine: of views, of virtual tables, and of what could not be read.
     *
     * @param list<Table>  $read
     * @param list<string> $unread names of tables
     * @param list<string> $notes
     *
     * @return list<Table>
     */
    private function completed(array $read, array $unread, array &$notes): array
    {
        $asked = array_values(array_map(
            static fn (Table $table): string => $table->name,
            array_filter($read, static fn (Table $table): bool => $table->kind->isView() || $table->virtual),
        ));
        $columns = $this->columns([...$asked, ...$unread], $notes);
        $tables = [];
        foreach ($read as $table) {
            if (!isset($columns[$table->name])) {
                $tables[] = $table;
                continue;
            }
            if ($table->kind->isView() && [] === $columns[$table->name]) {
                $notes[] = \sprintf('The view %s shows no columns: what it reads is gone.', $table->name);
            }
            $tables[] = $table->with(columns: self::merged($table->columns, $columns[$table->name]));
        }
        foreach ($unread as $name) {
            $tables[] = new Table('main', $name, TableType::Table, '', $columns[$name] ?? [], null, [], [], [], [], []);
        }

        return $tables;
    }

    /**
     * @param list<string> $names
     * @param list<string> $notes what the engine would not say
     *
     * @return array<string, list<Column>> those that it said
     */
    private function columns(array $names, array &$notes): array
    {
        $columns = [];
        foreach ($names as $name) {
            try {
                $columns[$name] = $this->asked($name);
            } catch (SourceError $e) {
                // What a view calls may be closed to a file that comes from elsewhere; its query is read all the same.
                $notes[] = \sprintf(
                    'The engine does not say the columns of %s (%s); they were worked out from its query.',
                    $name,
                    rtrim($e->getMessage(), '.'),
                );
            }
        }

        return $columns;
    }

    /** @return list<Column> */
    private function asked(string $name): array
    {
        $columns = [];
        foreach ($this->source->rows(
            'SELECT name, type, "notnull" AS required, dflt_value AS d FROM pragma_table_xinfo(:name) WHERE hidden <> 1 ORDER BY cid',
            ['name' => $name],
        ) as $row) {
            $columns[] = new Column((string) $row['name'], (string) $row['type'], '1' !== $row['required'], $row['d']);
        }

        return $columns;
    }

    /**
     * @param list<Column> $parsed
     * @param list<Column> $asked
     *
     * @return list<Column>
     */
    private static function merged(array $parsed, array $asked): array
    {
        $types = [];
        foreach ($parsed as $column) {
            $types[$column->name] = $column->type;
        }

        return array_map(static fn (Column $column): Column => '' === $column->type ? new Column($column->name, $types[$column->name] ?? '') : $column, $asked);
    }

    private function version(): string
    {
        foreach ($this->source->rows('SELECT sqlite_version() AS v') as $row) {
            return 'SQLite '.$row['v'];
        }

        return 'SQLite';
    }
}
