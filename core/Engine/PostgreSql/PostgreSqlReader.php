<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

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
use Fasti\Core\Survey\Inventory;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;

/**
 * Reads PostgreSQL through its own catalogs (`pg_catalog`), which say what `information_schema` leaves out: indexes,
 * partitions, comments, domains, policies. Each is asked once for all schemas. The session has an empty search path, so
 * that expressions name every schema, as a structure script of the engine does.
 *
 * @phpstan-type Row array<string, string|null>
 */
final class PostgreSqlReader implements Reader
{
    private const STEPS = 9;
    private const KINDS = [
        'r' => TableType::Table,
        'p' => TableType::Table,
        'f' => TableType::Table,
        'v' => TableType::View,
        'm' => TableType::MaterializedView,
    ];
    private const ACTIONS = ['a' => 'NO ACTION', 'r' => 'RESTRICT', 'c' => 'CASCADE', 'n' => 'SET NULL', 'd' => 'SET DEFAULT'];
    /** Schemas of people: not the server's own, and not what an extension brought along. */
    private const OURS = "n.nspname NOT LIKE 'pg\\_%' AND n.nspname <> 'information_schema'";
    private const NO_EXTENSION = "NOT EXISTS (SELECT FROM pg_catalog.pg_depend x
            WHERE x.classid = 'pg_catalog.pg_class'::pg_catalog.regclass AND x.objid = c.oid AND x.deptype = 'e')";

    /** @var list<string> */
    private array $notes = [];

    public function __construct(private readonly Rows $source)
    {
    }

    public function inventory(): Inventory
    {
        $this->notes = $schemas = $closed = [];
        foreach ($this->source->rows(
            "SELECT n.nspname AS s, pg_catalog.has_schema_privilege(n.oid, 'USAGE')::int AS may
            FROM pg_catalog.pg_namespace n
            WHERE ".self::OURS.'
            ORDER BY n.nspname',
        ) as $row) {
            if ('1' === $row['may']) {
                $schemas[(string) $row['s']] = [];
            } else {
                $closed[] = (string) $row['s'];
            }
        }
        foreach ($closed as $schema) {
            $this->notes[] = \sprintf(
                'The account has no rights on the schema “%s”, so it was left out. Its owner can GRANT USAGE ON SCHEMA %s and SELECT on its tables.',
                $schema,
                Quotes::around($schema),
            );
        }
        foreach ($this->source->rows(
            "SELECT n.nspname AS s, c.relname AS n, c.relkind AS k
            FROM pg_catalog.pg_class c
            JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
            WHERE c.relkind IN ('r', 'p', 'f', 'v', 'm')
                AND NOT c.relispartition
                AND ".self::OURS.'
                AND '.self::NO_EXTENSION.'
            ORDER BY n.nspname, c.relname',
        ) as $row) {
            if (isset($schemas[(string) $row['s']])) {
                $schemas[(string) $row['s']][(string) $row['n']] = self::KINDS[(string) $row['k']]->value;
            }
        }

        return new Inventory($this->version(), $schemas);
    }

    public function read(Choice $choice, Progress $progress): Catalog
    {
        $progress->at('the list of tables', 0, self::STEPS);
        $inventory = $this->inventory();
        $notes = $this->notes;
        $wanted = $inventory->chosen($choice);
        $schemas = array_values(array_filter(array_map(strval(...), array_keys($inventory->schemas)), $choice->takesSchema(...)));
        if ([] === $schemas) {
            return new Catalog('postgresql', $inventory->server, [], [], [...$notes, 'Nothing matches the choice, so nothing was read.']);
        }
        [$in, $parameters] = self::in($schemas);

        $progress->at('tables', 1, self::STEPS);
        $tables = $this->tables($in, $parameters, $wanted);
        $progress->at('types', 2, self::STEPS);
        [$enums, $domains] = $this->types();
        $progress->at('columns', 3, self::STEPS);
        [$columns, $names, $domainChecks] = $this->columns($in, $parameters, $tables, $enums, $domains);
        $progress->at('constraints', 4, self::STEPS);
        $constraints = $this->constraints($in, $parameters, $tables, $names);
        $progress->at('indexes', 5, self::STEPS);
        $indexes = $this->indexes($in, $parameters, $tables, $names);
        $progress->at('policies and partitions', 6, self::STEPS);
        $traits = $this->traits($in, $parameters, $tables);
        $progress->at('triggers', 7, self::STEPS);
        $triggers = $this->triggers($in, $parameters, $tables);
        $progress->at('routines', 8, self::STEPS);
        $routines = $this->routines($in, $parameters);

        $found = [];
        foreach ($tables as $oid => $row) {
            $found[(string) $row['s']][(string) $row['n']] = $oid;
        }
        $result = [];
        foreach ($wanted as $schema => $objects) {
            foreach ($objects as $name => $kind) {
                $oid = $found[$schema][$name] ?? null;
                if (null === $oid) {
                    $notes[] = "$schema.$name was listed but could not be read any more, so it was left out. It was probably dropped meanwhile.";
                    continue;
                }
                $result[] = self::said($tables[$oid], TableType::from($kind))->with(
                    columns: array_values($columns[$oid] ?? []),
                    primaryKey: $constraints[$oid]['p'][0] ?? null,
                    uniqueKeys: $constraints[$oid]['u'] ?? [],
                    foreignKeys: $constraints[$oid]['f'] ?? [],
                    indexes: $indexes[$oid] ?? [],
                    checks: self::byName([...($constraints[$oid]['c'] ?? []), ...($domainChecks[$oid] ?? [])]),
                    triggers: $triggers[$oid] ?? [],
                    traits: $traits[$oid] ?? [],
                );
            }
        }
        if ([] === $result && [] === $routines) {
            $notes[] = 'Nothing matches the choice, so nothing was read.';
        }
        $progress->at('done', self::STEPS, self::STEPS);

        return new Catalog('postgresql', $inventory->server, $result, $routines, $notes);
    }

    /** @param array<string, ?string> $row what the list of tables says of one */
    private static function said(array $row, TableType $kind): Table
    {
        return new Table(
            (string) $row['s'],
            (string) $row['n'],
            $kind,
            (string) $row['comment'],
            rowEstimate: 'v' === $row['kind'] || (float) $row['rows'] < 0 ? null : (int) (float) $row['rows'],
            sizeBytes: 'v' === $row['kind'] ? null : (int) $row['bytes'],
            definition: $kind->isView() ? rtrim(trim((string) $row['definition']), ';') : null,
            storage: match (true) {
                'f' === $row['kind'] => 'foreign',
                'u' === $row['persistence'] => 'unlogged',
                default => null,
            },
        );
    }

    /**
     * @param array<string, string>        $parameters
     * @param array<array<string, string>> $wanted
     *
     * @return array<int, Row> by object id; the figures of partitions are added to their table's
     */
    private function tables(string $in, array $parameters, array $wanted): array
    {
        $tables = [];
        foreach ($this->source->rows(PostgreSqlCatalogSql::tables($in), $parameters) as $row) {
            if (isset($wanted[(string) $row['s']][(string) $row['n']])) {
                $tables[(int) $row['oid']] = $row;
            }
        }

        return $tables;
    }

    /** @return array{array<int, string>, array<int, array{base: string, oid: int, checks: list<array{string, string}>}>} */
    private function types(): array
    {
        $members = $enums = $domains = [];
        foreach ($this->source->rows('SELECT enumtypid AS oid, enumlabel AS label FROM pg_catalog.pg_enum ORDER BY enumtypid, enumsortorder') as $row) {
            $members[(int) $row['oid']][] = Quotes::around((string) $row['label'], "'");
        }
        foreach ($members as $oid => $labels) {
            $enums[$oid] = 'enum('.implode(',', $labels).')';
        }
        foreach ($this->source->rows(
            "SELECT t.oid,
                pg_catalog.format_type(t.typbasetype, t.typtypmod) AS base,
                t.typbasetype AS of,
                t.typnotnull::int AS required
            FROM pg_catalog.pg_type t
            JOIN pg_catalog.pg_namespace n ON n.oid = t.typnamespace
            WHERE t.typtype = 'd'
                AND ".self::OURS,
        ) as $row) {
            $domains[(int) $row['oid']] = ['base' => (string) $row['base'], 'oid' => (int) $row['of'], 'checks' => []];
        }
        foreach ($this->source->rows(
            "SELECT contypid AS oid, conname AS n, pg_catalog.pg_get_constraintdef(oid) AS d
            FROM pg_catalog.pg_constraint
            WHERE contypid <> 0 AND contype = 'c'
            ORDER BY conname",
        ) as $row) {
            if (isset($domains[(int) $row['oid']])) {
                $domains[(int) $row['oid']]['checks'][] = [(string) $row['n'], self::checked((string) $row['d'])];
            }
        }

        return [$enums, $domains];
    }

    /**
     * @param array<string, string>                                                              $parameters
     * @param array<int, Row>                                                                    $tables
     * @param array<int, string>                                                                 $enums
     * @param array<int, array{base: string, oid: int, checks: list<array{string, string}>}> $domains
     *
     * @return array{array<int, array<int, Column>>, array<int, array<int, string>>, array<int, list<CheckConstraint>>} columns and names by object and
     *     number, checks of their domains
     */
    private function columns(string $in, array $parameters, array $tables, array $enums, array $domains): array
    {
        $columns = $names = $checks = [];
        foreach ($this->source->rows(PostgreSqlCatalogSql::columns($in), $parameters) as $row) {
            $oid = (int) $row['oid'];
            if (!isset($tables[$oid])) {
                continue;
            }
            $type = (int) $row['tid'];
            $domain = $domains[$type] ?? null;
            $name = (string) $row['n'];
            $generated = '' !== (string) $row['generated'];
            $columns[$oid][(int) $row['k']] = new Column(
                $name,
                (string) $row['t'],
                '0' === $row['required'],
                $generated || 'v' === $tables[$oid]['kind'] ? null : $row['d'],
                (string) $row['comment'],
                '' !== (string) $row['identity'] || (null !== $row['d'] && str_starts_with($row['d'], 'nextval(')),
                $generated ? new Generated((string) $row['d'], 's' === $row['generated']) : null,
                null,
                null,
                $row['collation'],
                null === $domain
                    ? $enums[$type] ?? (isset($enums[(int) $row['element']]) ? $enums[(int) $row['element']].'[]' : null)
                    : $enums[$domain['oid']] ?? $domain['base'],
            );
            $names[$oid][(int) $row['k']] = $name;
            foreach ($domain['checks'] ?? [] as [$check, $expression]) {
                $checks[$oid][] = new CheckConstraint($check, $expression, $name);
            }
        }

        return [$columns, $names, $checks];
    }

    /**
     * @param array<string, string>          $parameters
     * @param array<int, Row>                $tables
     * @param array<int, array<int, string>> $names
     *
     * @return array<int, array{p?: list<Key>, u?: list<Key>, f?: list<ForeignKey>, c?: list<CheckConstraint>}>
     */
    private function constraints(string $in, array $parameters, array $tables, array $names): array
    {
        $far = $names;
        $found = [];
        $rows = [];
        foreach ($this->source->rows(PostgreSqlCatalogSql::constraints($in), $parameters) as $row) {
            if (isset($tables[(int) $row['oid']])) {
                $rows[] = $row;
                if ('f' === $row['t'] && !isset($far[(int) $row['far']])) {
                    $far[(int) $row['far']] = [];
                }
            }
        }
        $unknown = array_keys(array_filter($far, static fn (array $columns): bool => [] === $columns));
        foreach ([] === $unknown ? [] : $this->source->rows(
            'SELECT attrelid AS oid, attnum AS k, attname AS n
            FROM pg_catalog.pg_attribute
            WHERE attnum > 0 AND attrelid IN ('.implode(', ', $unknown).')',
        ) as $row) {
            $far[(int) $row['oid']][(int) $row['k']] = (string) $row['n'];
        }
        foreach ($rows as $row) {
            $oid = (int) $row['oid'];
            $own = self::numbered((string) $row['own'], $names[$oid] ?? []);
            $name = (string) $row['n'];
            if ('c' === $row['t']) {
                $found[$oid]['c'][] = new CheckConstraint($name, self::checked((string) $row['def']));
            } elseif ('x' === $row['t']) {
                $found[$oid]['c'][] = new CheckConstraint($name, (string) $row['def']);
            } elseif ([] !== $own && 'f' === $row['t']) {
                $columns = self::numbered((string) $row['farkey'], $far[(int) $row['far']] ?? []);
                if (\count($columns) === \count($own)) {
                    $found[$oid]['f'][] = new ForeignKey(
                        $name, $own, new Reference((string) $row['fs'], (string) $row['ft'], $columns), self::ACTIONS[(string) $row['d']] ?? 'NO ACTION',
                        self::ACTIONS[(string) $row['u']] ?? 'NO ACTION',
                    );
                }
            } elseif ([] !== $own) {
                $found[$oid]['p' === $row['t'] ? 'p' : 'u'][] = new Key($name, $own);
            }
        }

        return $found;
    }

    /**
     * @param array<string, string>          $parameters
     * @param array<int, Row>                $tables
     * @param array<int, array<int, string>> $names
     *
     * @return array<int, list<Index>>
     */
    private function indexes(string $in, array $parameters, array $tables, array $names): array
    {
        $found = [];
        foreach ($this->source->rows(PostgreSqlCatalogSql::indexes($in), $parameters) as $row) {
            $oid = (int) $row['oid'];
            if (!isset($tables[$oid])) {
                continue;
            }
            $options = explode(' ', (string) $row['options']);
            $expressions = null === $row['expressions'] ? [] : explode("\x01", $row['expressions']);
            $parts = [];
            foreach (\array_slice(explode(' ', (string) $row['keys']), 0, (int) $row['width']) as $i => $number) {
                $parts[] = new IndexPart(
                    '0' === $number ? $expressions[$i] ?? '' : $names[$oid][(int) $number] ?? '',
                    null,
                    1 === ((int) ($options[$i] ?? 0) & 1),
                );
            }
            $found[$oid][] = new Index((string) $row['n'], $parts, '1' === $row['u'], (string) $row['m'], (string) $row['comment'], $row['predicate']);
        }

        return $found;
    }

    /**
     * @param array<string, string> $parameters
     * @param array<int, Row>       $tables     the rows and bytes of partitions are added to those of their table
     *
     * @return array<int, list<string>>
     */
    private function traits(string $in, array $parameters, array &$tables): array
    {
        $traits = $partitions = $parents = [];
        $rows = [];
        foreach ($this->source->rows(PostgreSqlCatalogSql::inheritance($in), $parameters) as $row) {
            $rows[] = $row;
            if ('1' === $row['partition']) {
                $parents[(int) $row['child']] = (int) $row['parent'];
            } else {
                $traits[(int) $row['child']][] = \sprintf('inherits from %s.%s', $row['ps'], $row['pn']);
            }
        }
        foreach ($rows as $row) {
            if ('1' !== $row['partition'] || 'p' === $row['kind']) {
                continue;
            }
            $top = (int) $row['parent'];
            while (isset($parents[$top])) {
                $top = $parents[$top];
            }
            $partitions[$top] = ($partitions[$top] ?? 0) + 1;
            if (isset($tables[$top])) {
                $tables[$top]['rows'] = (string) (max(0.0, (float) $tables[$top]['rows']) + max(0.0, (float) $row['rows']));
                $tables[$top]['bytes'] = (string) ((int) $tables[$top]['bytes'] + (int) $row['bytes']);
            }
        }
        $policies = [];
        foreach ($this->source->rows(
            "SELECT p.polrelid AS oid, p.polname AS n
            FROM pg_catalog.pg_policy p
            JOIN pg_catalog.pg_class c ON c.oid = p.polrelid
            JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
            WHERE n.nspname $in
            ORDER BY p.polname",
            $parameters,
        ) as $row) {
            $policies[(int) $row['oid']][] = (string) $row['n'];
        }
        foreach ($tables as $oid => $row) {
            if (null !== $row['partitioned']) {
                $traits[$oid][] = self::partitioned($row['partitioned'], $partitions[$oid] ?? 0);
            }
            if ('1' === $row['secured']) {
                $traits[$oid][] = self::secured($policies[$oid] ?? []);
            }
        }

        return $traits;
    }

    /**
     * @param list<CheckConstraint> $checks
     *
     * @return list<CheckConstraint>
     */
    private static function byName(array $checks): array
    {
        usort($checks, static fn (CheckConstraint $a, CheckConstraint $b): int => strcmp($a->name, $b->name));

        return $checks;
    }

    public static function partitioned(string $key, int $partitions): string
    {
        return \sprintf('partitioned by %s, %d %s', $key, $partitions, 1 === $partitions ? 'partition' : 'partitions');
    }

    /** @param list<string> $policies */
    public static function secured(array $policies): string
    {
        return 'row-level security'.([] === $policies ? ' without a policy: nobody but the owner sees a row' : ': '.implode(', ', $policies));
    }

    /**
     * @param array<string, string> $parameters
     * @param array<int, Row>       $tables
     *
     * @return array<int, list<Trigger>>
     */
    private function triggers(string $in, array $parameters, array $tables): array
    {
        $found = [];
        foreach ($this->source->rows(
            "SELECT t.tgrelid AS oid, t.tgname AS n, t.tgtype AS bits, pg_catalog.pg_get_triggerdef(t.oid) AS d
            FROM pg_catalog.pg_trigger t
            JOIN pg_catalog.pg_class c ON c.oid = t.tgrelid
            JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
            WHERE NOT t.tgisinternal AND n.nspname $in
            ORDER BY t.tgname",
            $parameters,
        ) as $row) {
            if (isset($tables[(int) $row['oid']])) {
                $bits = (int) $row['bits'];
                // The bits of pg_trigger.tgtype, as src/include/catalog/pg_trigger.h of the server gives them.
                $events = array_keys(array_filter(['INSERT' => $bits & 4, 'DELETE' => $bits & 8, 'UPDATE' => $bits & 16, 'TRUNCATE' => $bits & 32]));
                $body = 1 === preg_match('/\bEXECUTE (?:FUNCTION|PROCEDURE) .*$/s', (string) $row['d'], $m) ? $m[0] : '';
                $found[(int) $row['oid']][] = new Trigger((string) $row['n'], match (true) {
                    0 !== ($bits & 2) => 'BEFORE',
                    0 !== ($bits & 64) => 'INSTEAD OF',
                    default => 'AFTER',
                }, implode(' OR ', $events), $body, (string) $row['d']);
            }
        }

        return $found;
    }

    /**
     * @param array<string, string> $parameters
     *
     * @return list<Routine>
     */
    private function routines(string $in, array $parameters): array
    {
        $routines = [];
        foreach ($this->source->rows(PostgreSqlCatalogSql::routines($in, $this->body()), $parameters) as $row) {
            $routines[] = new Routine(
                (string) $row['s'], (string) $row['n'], ['p' => 'procedure', 'a' => 'aggregate'][(string) $row['k']] ?? 'function', $row['r'], $row['b'],
                (string) $row['c'], (string) $row['a'], (string) $row['made'],
            );
        }

        return $routines;
    }

    /** The body of a function in the form of the standard, which older servers do not know. */
    private function body(): string
    {
        return 1 === preg_match('/\d+/', $this->version(), $m) && (int) $m[0] >= 14 ? 'pg_catalog.pg_get_function_sqlbody(p.oid)' : 'p.prosrc';
    }

    private function version(): string
    {
        foreach ($this->source->rows("SELECT pg_catalog.current_setting('server_version') AS v") as $row) {
            return 'PostgreSQL '.$row['v'];
        }

        return 'PostgreSQL';
    }

    /** `CHECK ((a > 0)) NO INHERIT` → `(a > 0)` */
    private static function checked(string $definition): string
    {
        return 1 === preg_match('/^CHECK \((.*)\)(?: NO INHERIT)?(?: NOT VALID)?$/s', $definition, $m) ? $m[1] : $definition;
    }

    /**
     * @param array<int, string> $names
     *
     * @return list<string> the names that an array of numbers (`{1,3}`) stands for
     */
    private static function numbered(string $numbers, array $names): array
    {
        $trimmed = trim($numbers, '{}');

        return '' === $trimmed ? [] : array_map(static fn (string $number): string => $names[(int) $number] ?? '', explode(',', $trimmed));
    }

    /**
     * @param list<string> $schemas
     *
     * @return array{string, array<string, string>}
     */
    private static function in(array $schemas): array
    {
        $parameters = [];
        foreach ($schemas as $i => $schema) {
            $parameters['s'.$i] = $schema;
        }

        return ['IN (:'.implode(', :', array_keys($parameters)).')', $parameters];
    }
}
