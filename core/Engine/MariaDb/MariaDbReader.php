<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MariaDb;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Dangling;
use Fasti\Core\Survey\Inventory;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/**
 * Reads MariaDB and MySQL (8.0 and later) through `information_schema`: each view once for all schemas, since the server opens every table for
 * every view, and a query per table would repeat that.
 */
final class MariaDbReader implements Reader
{
    private const SYSTEM = ['information_schema', 'performance_schema', 'mysql', 'sys'];
    private const STEPS = 9;

    /** The server is MySQL, whose catalog views differ in how they write defaults, expressions and checks. */
    private bool $mysql = false;

    /** @param string $database read this schema only; empty for all that the account may read */
    public function __construct(private readonly Rows $source, private readonly string $database = '')
    {
    }

    public function inventory(): Inventory
    {
        $version = $this->version();
        $this->mysql = !str_contains($version, 'MariaDB');
        $schemas = [];
        $system = "'".implode("','", self::SYSTEM)."'";
        foreach ($this->source->rows(
            "SELECT SCHEMA_NAME AS s FROM information_schema.SCHEMATA x WHERE x.SCHEMA_NAME NOT IN ($system) ORDER BY SCHEMA_NAME",
        ) as $row) {
            if ('' === $this->database || $row['s'] === $this->database) {
                $schemas[(string) $row['s']] = [];
            }
        }
        if ('' !== $this->database && !isset($schemas[$this->database])) {
            throw new SourceError(
                \sprintf('The account may not read anything of the database “%s”.', $this->database),
                'Ask for SELECT on it, or leave the database empty to see what may be read.',
            );
        }
        foreach ($this->source->rows(
            "SELECT TABLE_SCHEMA AS s, TABLE_NAME AS n, TABLE_TYPE AS t FROM information_schema.TABLES WHERE TABLE_SCHEMA NOT IN ($system) "
                .'ORDER BY TABLE_SCHEMA, TABLE_NAME',
        ) as $row) {
            $kind = self::kind((string) $row['t']);
            if (null !== $kind && isset($schemas[(string) $row['s']])) {
                $schemas[(string) $row['s']][(string) $row['n']] = $kind->value;
            }
        }

        return new Inventory($version, $schemas);
    }

    public function read(Choice $choice, Progress $progress): Catalog
    {
        $progress->at('the list of tables', 0, self::STEPS);
        $inventory = $this->inventory();
        $chosen = $inventory->chosen($choice);
        $parameters = [];
        foreach (array_values(array_filter(array_map(strval(...), array_keys($inventory->schemas)), $choice->takesSchema(...))) as $i => $schema) {
            $parameters['s'.$i] = $schema;
        }
        $in = 'IN (:'.implode(', :', array_keys($parameters)).')';
        if ([] === $parameters) {
            return new Catalog($this->mysql ? 'mysql' : 'mariadb', $inventory->server, [], [], ['Nothing matches the choice, so nothing was read.']);
        }
        $progress->at('tables', 1, self::STEPS);
        $tables = $this->tables($in, $parameters, $chosen);
        $progress->at('columns', 2, self::STEPS);
        $columns = $this->columns($in, $parameters, $chosen, $tables);
        $progress->at('indexes and keys', 3, self::STEPS);
        [$indexes, $primary, $unique] = $this->indexes($in, $parameters, $chosen);
        $progress->at('foreign keys', 4, self::STEPS);
        $foreign = $this->foreignKeys($in, $parameters, $chosen);
        $progress->at('check constraints', 5, self::STEPS);
        $checks = $this->checks($in, $parameters, $chosen, array_map(static fn (array $tables): array => array_map(
            static fn (array $of): array => array_flip(array_map(static fn (Column $column): string => $column->name, $of)),
            $tables,
        ), $columns));
        $progress->at('views', 6, self::STEPS);
        $definitions = $this->views($in, $parameters);
        $progress->at('triggers', 7, self::STEPS);
        $triggers = $this->triggers($in, $parameters);
        $progress->at('routines', 8, self::STEPS);
        $routines = $this->routines($in, $parameters);

        $result = $notes = [];
        foreach ($chosen as $schema => $objects) {
            foreach ($objects as $name => $kind) {
                $row = $tables[$schema][$name] ?? null;
                $view = 'view' === $kind;
                $notes = [...$notes, ...self::unread("$schema.$name", $row, $view, isset($columns[$schema][$name]))];
                if (null === $row || (!$view && !isset($columns[$schema][$name]))) {
                    continue;
                }
                $result[] = self::said((string) $schema, (string) $name, $view, $row)->with(
                    columns: $columns[$schema][$name] ?? [],
                    primaryKey: $primary[$schema][$name] ?? null,
                    uniqueKeys: $unique[$schema][$name] ?? [],
                    foreignKeys: $foreign[$schema][$name] ?? [],
                    indexes: $indexes[$schema][$name] ?? [],
                    checks: $checks[$schema][$name] ?? [],
                    triggers: $triggers[$schema][$name] ?? [],
                    definition: $view ? self::nullIfEmpty($definitions[$schema][$name] ?? null) : null,
                );
                unset($columns[$schema][$name]);
            }
        }
        array_push($notes, ...Dangling::notes($result, $inventory));
        if ([] === $result && [] === $routines) {
            $notes[] = 'Nothing matches the choice, so nothing was read.';
        }
        $progress->at('done', self::STEPS, self::STEPS);

        return new Catalog($this->mysql ? 'mysql' : 'mariadb', $inventory->server, $result, $routines, $notes);
    }

    /** @param array<string, ?string> $row what the list of tables says of one */
    private static function said(string $schema, string $name, bool $view, array $row): Table
    {
        return new Table(
            $schema,
            $name,
            $view ? TableType::View : TableType::Table,
            $view ? '' : (string) $row['TABLE_COMMENT'],
            rowEstimate: $view || null === $row['TABLE_ROWS'] ? null : (int) $row['TABLE_ROWS'],
            sizeBytes: $view || null === $row['DATA_LENGTH'] ? null : (int) $row['DATA_LENGTH'] + (int) $row['INDEX_LENGTH'],
            storage: $row['ENGINE'],
            collation: $row['TABLE_COLLATION'],
        );
    }

    /**
     * @param ?array<string, ?string> $row
     *
     * @return list<string> what could not be read of an object that was listed
     */
    private static function unread(string $what, ?array $row, bool $view, bool $columns): array
    {
        if (null === $row || (!$view && !$columns)) {
            return ["$what was listed but could not be read any more, so it was left out. It was probably dropped meanwhile."];
        }

        return $columns ? [] : [\sprintf(
            'The view %s shows no columns: what it reads is gone or closed to it. The server says: %s',
            $what,
            $row['TABLE_COMMENT'] ?? '',
        )];
    }

    /**
     * @param array<string, string>                $parameters
     * @param array<array-key, array<array-key, string>> $chosen
     *
     * @return array<string, array<string, array<string, ?string>>>
     */
    private function tables(string $in, array $parameters, array $chosen): array
    {
        $tables = [];
        foreach ($this->source->rows(
            'SELECT TABLE_SCHEMA, TABLE_NAME, TABLE_TYPE, ENGINE, TABLE_ROWS, DATA_LENGTH, INDEX_LENGTH, TABLE_COLLATION, TABLE_COMMENT '
                ."FROM information_schema.TABLES WHERE TABLE_SCHEMA $in",
            $parameters,
        ) as $row) {
            [$schema, $name] = array_values($row);
            if (isset($chosen[$schema][$name])) {
                $tables[(string) $schema][(string) $name] = $row;
            }
        }

        return $tables;
    }

    /**
     * @param array<string, string> $parameters
     *
     * @return array<string, array<string, ?string>> their queries
     */
    private function views(string $in, array $parameters): array
    {
        $definitions = [];
        foreach ($this->source->rows(
            "SELECT TABLE_SCHEMA AS s, TABLE_NAME AS n, VIEW_DEFINITION AS d FROM information_schema.VIEWS WHERE TABLE_SCHEMA $in",
            $parameters,
        ) as $row) {
            $definitions[(string) $row['s']][(string) $row['n']] = $row['d'];
        }

        return $definitions;
    }

    /**
     * @param array<string, string> $parameters
     *
     * @return array<string, array<string, list<Trigger>>>
     */
    private function triggers(string $in, array $parameters): array
    {
        $triggers = [];
        foreach ($this->source->rows(
            'SELECT EVENT_OBJECT_SCHEMA AS s, EVENT_OBJECT_TABLE AS n, TRIGGER_NAME AS t, ACTION_TIMING AS w, EVENT_MANIPULATION AS e, ACTION_STATEMENT AS b '
                ."FROM information_schema.TRIGGERS WHERE EVENT_OBJECT_SCHEMA $in ORDER BY TRIGGER_NAME",
            $parameters,
        ) as $row) {
            $triggers[(string) $row['s']][(string) $row['n']][] = new Trigger((string) $row['t'], (string) $row['w'], (string) $row['e'], (string) $row['b']);
        }

        return $triggers;
    }

    /**
     * @param array<string, string> $parameters
     *
     * @return list<Routine>
     */
    private function routines(string $in, array $parameters): array
    {
        $routines = [];
        $arguments = $this->parameters($in, $parameters);
        foreach ($this->source->rows("SELECT ROUTINE_SCHEMA AS s, ROUTINE_NAME AS n, ROUTINE_TYPE AS t, DTD_IDENTIFIER AS r, ROUTINE_DEFINITION AS b,
            ROUTINE_COMMENT AS c,
            IS_DETERMINISTIC AS fixed, SQL_DATA_ACCESS AS access, SECURITY_TYPE AS security FROM information_schema.ROUTINES WHERE ROUTINE_SCHEMA $in
                ORDER BY ROUTINE_SCHEMA, ROUTINE_NAME", $parameters) as $row) {
            $kind = strtolower((string) $row['t']);
            $own = implode(', ', $arguments[(string) $row['s']][$kind][(string) $row['n']] ?? []);
            $routines[] = new Routine(
                (string) $row['s'],
                (string) $row['n'],
                $kind,
                $row['r'],
                $row['b'],
                (string) $row['c'],
                $own,
                self::made($row, $own),
            );
        }

        return $routines;
    }

    /** @param array<string, string|null> $row the statement that would make a routine again; '' where its body may not be read */
    private static function made(array $row, string $parameters): string
    {
        if (null === $row['b']) {
            return '';
        }
        $quoted = static fn (string $name): string => Quotes::around($name, '`');
        $words = [\sprintf('CREATE %s %s.%s(%s)', $row['t'], $quoted((string) $row['s']), $quoted((string) $row['n']), $parameters)];
        if ('FUNCTION' === $row['t']) {
            $words[] = 'RETURNS '.$row['r'];
        }
        if ('YES' === $row['fixed']) {
            $words[] = 'DETERMINISTIC';
        }
        if ('CONTAINS SQL' !== $row['access']) {
            $words[] = (string) $row['access'];
        }
        if ('DEFINER' !== $row['security']) {
            $words[] = 'SQL SECURITY '.$row['security'];
        }
        if ('' !== (string) $row['c']) {
            $words[] = 'COMMENT '.(new MariaDbDialect())->literal((string) $row['c']);
        }

        return implode(' ', $words)."\n".$row['b'];
    }

    /**
     * @param array<string, string> $parameters
     *
     * @return array<string, array<string, array<string, list<string>>>> schema → kind → routine → its parameters
     */
    private function parameters(string $in, array $parameters): array
    {
        $found = [];
        foreach ($this->source->rows("SELECT SPECIFIC_SCHEMA AS s, SPECIFIC_NAME AS r, ROUTINE_TYPE AS k, PARAMETER_MODE AS m, PARAMETER_NAME AS n,
            DTD_IDENTIFIER AS t
            FROM information_schema.PARAMETERS WHERE SPECIFIC_SCHEMA $in AND ORDINAL_POSITION > 0 ORDER BY SPECIFIC_SCHEMA, SPECIFIC_NAME,
            ORDINAL_POSITION", $parameters) as $row) {
            $kind = strtolower((string) $row['k']);
            $found[(string) $row['s']][$kind][(string) $row['r']][] = trim(('procedure' === $kind ? $row['m'].' ' : '').$row['n'].' '.$row['t']);
        }

        return $found;
    }

    /**
     * @param array<string, string>                                      $parameters
     * @param array<array<string>>                                       $chosen
     * @param array<string, array<string, array<string, string|null>>>   $tables
     *
     * @return array<array<list<Column>>>
     */
    private function columns(string $in, array $parameters, array $chosen, array $tables): array
    {
        $found = [];
        foreach ($this->source->rows(
            'SELECT TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME, COLUMN_TYPE, IS_NULLABLE, COLUMN_DEFAULT, COLUMN_COMMENT, EXTRA, GENERATION_EXPRESSION, '
                ."CHARACTER_SET_NAME, COLLATION_NAME FROM information_schema.COLUMNS WHERE TABLE_SCHEMA $in "
                .'ORDER BY TABLE_SCHEMA, TABLE_NAME, ORDINAL_POSITION',
            $parameters,
        ) as $row) {
            $schema = (string) $row['TABLE_SCHEMA'];
            $table = (string) $row['TABLE_NAME'];
            if (!isset($chosen[$schema][$table])) {
                continue;
            }
            $extra = (string) $row['EXTRA'];
            $collation = $row['COLLATION_NAME'] === ($tables[$schema][$table]['TABLE_COLLATION'] ?? null) || 'view' === $chosen[$schema][$table]
                ? null
                : $row['COLLATION_NAME'];
            $expression = self::nullIfEmpty($row['GENERATION_EXPRESSION']);
            $onUpdate = 1 === preg_match('/on update (\S+)/i', $extra, $m) ? $m[1] : null;
            // The catalog writes a default of NULL as the word NULL, and a text literal with its quotes.
            $default = 'NULL' === $row['COLUMN_DEFAULT'] || 'view' === $chosen[$schema][$table] ? null : $row['COLUMN_DEFAULT'];
            if ($this->mysql) {
                $default = self::literal($row['COLUMN_DEFAULT'], $extra, (string) $row['COLUMN_TYPE']);
                $expression = null === $expression ? null : self::unescaped($expression);
            }
            $found[$schema][$table][] = new Column(
                (string) $row['COLUMN_NAME'],
                (string) $row['COLUMN_TYPE'],
                'YES' === $row['IS_NULLABLE'],
                $default,
                (string) $row['COLUMN_COMMENT'],
                false !== stripos($extra, 'auto_increment'),
                null === $expression ? null : new Generated($expression, false !== stripos($extra, 'stored') || false !== stripos($extra, 'persistent')),
                $onUpdate,
                null === $collation ? null : $row['CHARACTER_SET_NAME'],
                $collation,
            );
        }

        return $found;
    }

    /**
     * @param array<string, string> $parameters
     * @param array<array<string>>  $chosen
     *
     * @return array{array<array<list<Index>>>, array<array<Key>>, array<array<list<Key>>>}
     */
    private function indexes(string $in, array $parameters, array $chosen): array
    {
        $raw = [];
        $expression = $this->mysql ? ', EXPRESSION' : '';
        foreach ($this->source->rows(
            "SELECT TABLE_SCHEMA, TABLE_NAME, INDEX_NAME, COLUMN_NAME, SUB_PART, COLLATION, NON_UNIQUE, INDEX_TYPE, INDEX_COMMENT$expression "
                ."FROM information_schema.STATISTICS WHERE TABLE_SCHEMA $in ORDER BY TABLE_SCHEMA, TABLE_NAME, INDEX_NAME, SEQ_IN_INDEX",
            $parameters,
        ) as $row) {
            $schema = (string) $row['TABLE_SCHEMA'];
            $table = (string) $row['TABLE_NAME'];
            $index = (string) $row['INDEX_NAME'];
            if (isset($chosen[$schema][$table])) {
                $raw[$schema][$table][$index][] = $row;
            }
        }
        $indexes = $primary = $unique = [];
        foreach ($raw as $schema => $tables) {
            foreach ($tables as $table => $byName) {
                ksort($byName, \SORT_STRING);
                foreach ($byName as $name => $rows) {
                    $parts = array_map(
                        static fn (array $row): IndexPart => new IndexPart(
                            $row['COLUMN_NAME'] ?? self::unescaped($row['EXPRESSION'] ?? ''),
                            null === $row['SUB_PART'] ? null : (int) $row['SUB_PART'],
                            'D' === $row['COLLATION'],
                        ),
                        $rows,
                    );
                    $isUnique = '0' === $rows[0]['NON_UNIQUE'];
                    $indexes[$schema][$table][] = new Index(
                        (string) $name,
                        $parts,
                        $isUnique,
                        strtolower((string) $rows[0]['INDEX_TYPE']),
                        (string) $rows[0]['INDEX_COMMENT'],
                    );
                    if (!$isUnique) {
                        continue;
                    }
                    $columns = array_map(static fn (IndexPart $part): string => $part->column, $parts);
                    if ('PRIMARY' === $name) {
                        $primary[$schema][$table] = new Key(null, $columns);
                    } elseif ([] === array_filter($parts, static fn (IndexPart $part): bool => null !== $part->length)) {
                        // An index over the first characters only is stricter than a key and says nothing about whole values.
                        $unique[$schema][$table][] = new Key((string) $name, $columns);
                    }
                }
            }
        }

        return [$indexes, $primary, $unique];
    }

    /**
     * @param array<string, string> $parameters
     * @param array<array<string>>  $chosen
     *
     * @return array<array<list<ForeignKey>>>
     */
    private function foreignKeys(string $in, array $parameters, array $chosen): array
    {
        $actions = [];
        foreach ($this->source->rows(
            'SELECT CONSTRAINT_SCHEMA AS s, TABLE_NAME AS t, CONSTRAINT_NAME AS n, DELETE_RULE AS d, UPDATE_RULE AS u '
                ."FROM information_schema.REFERENTIAL_CONSTRAINTS WHERE CONSTRAINT_SCHEMA $in",
            $parameters,
        ) as $row) {
            $actions[(string) $row['s']][(string) $row['t']][(string) $row['n']] = [(string) $row['d'], (string) $row['u']];
        }
        $pairs = [];
        foreach ($this->source->rows(
            'SELECT TABLE_SCHEMA AS s, TABLE_NAME AS t, CONSTRAINT_NAME AS n, COLUMN_NAME AS c, REFERENCED_TABLE_SCHEMA AS rs, REFERENCED_TABLE_NAME AS rt, '
                ."REFERENCED_COLUMN_NAME AS rc FROM information_schema.KEY_COLUMN_USAGE WHERE TABLE_SCHEMA $in AND REFERENCED_TABLE_NAME IS NOT NULL "
                .'ORDER BY TABLE_SCHEMA, TABLE_NAME, CONSTRAINT_NAME, ORDINAL_POSITION',
            $parameters,
        ) as $row) {
            if (isset($chosen[(string) $row['s']][(string) $row['t']])) {
                $pairs[(string) $row['s']][(string) $row['t']][(string) $row['n']][] = $row;
            }
        }
        $found = [];
        foreach ($pairs as $schema => $tables) {
            foreach ($tables as $table => $byName) {
                ksort($byName, \SORT_STRING);
                foreach ($byName as $name => $rows) {
                    [$delete, $update] = $actions[$schema][$table][$name] ?? ['NO ACTION', 'NO ACTION'];
                    $found[$schema][$table][] = new ForeignKey(
                        (string) $name,
                        array_map(static fn (array $row): string => (string) $row['c'], $rows),
                        new Reference(
                            (string) $rows[0]['rs'],
                            (string) $rows[0]['rt'],
                            array_map(static fn (array $row): string => (string) $row['rc'], $rows),
                        ),
                        $delete,
                        $update,
                    );
                }
            }
        }

        return $found;
    }

    /**
     * @param array<string, string> $parameters
     * @param array<array<string>>  $chosen
     * @param array<array<array<string, int>>> $names of columns, by schema and table
     *
     * @return array<array<list<CheckConstraint>>>
     */
    private function checks(string $in, array $parameters, array $chosen, array $names): array
    {
        $found = [];
        $sql = $this->mysql
            ? "SELECT t.CONSTRAINT_SCHEMA AS s, t.TABLE_NAME AS t, t.CONSTRAINT_NAME AS n, 'Table' AS l, c.CHECK_CLAUSE AS c "
            .'FROM information_schema.TABLE_CONSTRAINTS t JOIN information_schema.CHECK_CONSTRAINTS c ON c.CONSTRAINT_SCHEMA = t.CONSTRAINT_SCHEMA AND '
            ."c.CONSTRAINT_NAME = t.CONSTRAINT_NAME WHERE t.CONSTRAINT_TYPE = 'CHECK' AND t.CONSTRAINT_SCHEMA $in ORDER BY t.CONSTRAINT_NAME"
            : 'SELECT CONSTRAINT_SCHEMA AS s, TABLE_NAME AS t, CONSTRAINT_NAME AS n, LEVEL AS l, CHECK_CLAUSE AS c FROM information_schema.CHECK_CONSTRAINTS '
            ."WHERE CONSTRAINT_SCHEMA $in ORDER BY CONSTRAINT_NAME";
        foreach ($this->source->rows($sql, $parameters) as $row) {
            $schema = (string) $row['s'];
            $table = (string) $row['t'];
            $name = (string) $row['n'];
            if (isset($chosen[$schema][$table])) {
                $found[$schema][$table][] = new CheckConstraint(
                    $name,
                    $this->mysql ? self::unescaped((string) $row['c']) : (string) $row['c'],
                    // The server keeps the name that a column had when its check was made.
                    'Column' === $row['l'] && isset($names[$schema][$table][$name]) ? $name : null,
                );
            }
        }

        foreach ($found as $schema => $tables) {
            foreach ($tables as $table => $checks) {
                // The server orders by its collation, which takes letters in either case for the same.
                usort($checks, static fn (CheckConstraint $a, CheckConstraint $b): int => strcmp($a->name, $b->name));
                $found[$schema][$table] = $checks;
            }
        }

        return $found;
    }

    private function version(): string
    {
        foreach ($this->source->rows('SELECT VERSION() AS v') as $row) {
            return (string) $row['v'];
        }

        return '';
    }

    /** MySQL writes a literal default without quotes, and marks a default that is an expression in EXTRA. */
    private static function literal(?string $default, string $extra, string $type): ?string
    {
        return match (true) {
            null === $default => null,
            false !== stripos($extra, 'DEFAULT_GENERATED') => self::unescaped($default),
            is_numeric($default) && 1 === preg_match('/^(?:tiny|small|medium|big)?int|^(?:decimal|float|double|year)/i', $type) => $default,
            str_starts_with($default, "b'") => $default,
            default => Quotes::around($default, "'"),
        };
    }

    /** MySQL writes quotes within expressions with a backslash, and a character set before each literal. */
    private static function unescaped(string $expression): string
    {
        return (string) preg_replace("/_utf8mb[34](?=')/", '', str_replace("\\'", "'", $expression));
    }

    private static function kind(string $type): ?TableType
    {
        return match ($type) {
            'BASE TABLE', 'SYSTEM VERSIONED' => TableType::Table,
            'VIEW' => TableType::View,
            default => null,
        };
    }

    private static function nullIfEmpty(?string $text): ?string
    {
        return '' === $text ? null : $text;
    }
}
