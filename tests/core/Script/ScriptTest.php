<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Script;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Script\Script;
use Fasti\Core\Sql\SqlFault;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What single statements make, dialect by dialect. */
final class ScriptTest extends TestCase
{
    public function testAColumnOfMariaDbWithEverything(): void
    {
        $table = self::one(
            'mariadb',
            "CREATE TABLE t (`a``b` varchar(9) CHARACTER SET latin1 COLLATE latin1_bin NOT NULL DEFAULT 'it''s' COMMENT 'say \\'what\\'', at timestamp NOT "
                .'NULL DEFAULT now() ON UPDATE current_timestamp(), n int unsigned NOT NULL AUTO_INCREMENT, twice int AS (n * 2) PERSISTENT, j json, '
                ."PRIMARY KEY (n), KEY part (`a``b`(4)), FULLTEXT KEY words (`a``b`)) ENGINE=Aria COMMENT='a; table' COLLATE=utf8mb4_bin",
        );
        $first = $table->columns[0];

        self::assertSame(
            ['a`b', 'varchar(9)', false, "'it''s'", "say 'what'", 'latin1', 'latin1_bin'],
            [$first->name, $first->type, $first->nullable, $first->default, $first->comment, $first->charset, $first->collation],
        );
        self::assertSame(['current_timestamp()', 'current_timestamp()'], [$table->column('at')?->default, $table->column('at')?->onUpdate]);
        self::assertSame([true, 'int(10) unsigned'], [$table->column('n')?->autoNumbered, $table->column('n')?->type]);
        self::assertTrue($table->column('twice')?->generated?->stored);
        self::assertSame('json_valid(`j`)', $table->checks[0]->expression);
        self::assertSame(
            ['PRIMARY btree', 'part btree', 'words fulltext'],
            array_map(static fn (Index $index): string => $index->name.' '.$index->method, $table->indexes),
        );
        self::assertSame(4, $table->indexes[1]->parts[0]->length);
        self::assertSame(['Aria', 'a; table', 'utf8mb4_bin'], [$table->storage, $table->comment, $table->collation]);
    }

    public function testTheEngineIndexesAForeignKeyThatHasNoIndex(): void
    {
        $catalog = self::catalog(
            'mariadb',
            'CREATE TABLE far (id int PRIMARY KEY)',
            'CREATE TABLE t (a int, b int, KEY has (b), FOREIGN KEY (a) REFERENCES far (id), CONSTRAINT named FOREIGN KEY (b) REFERENCES far (id) ON '
                .'DELETE CASCADE)',
        );
        $table = self::named($catalog, 't');

        self::assertSame(
            ['named' => 'CASCADE', 't_ibfk_1' => 'RESTRICT'],
            array_column(array_map(static fn ($key): array => [$key->name, $key->onDelete], $table->foreignKeys), 1, 0),
        );
        self::assertSame(['a', 'has'], array_map(static fn (Index $index): string => $index->name, $table->indexes));
    }

    public function testPostgreSqlNamesWhatHasNoName(): void
    {
        $table = self::one(
            'postgresql',
            'CREATE TABLE Visit (Id serial PRIMARY KEY, team int UNIQUE REFERENCES visit, depth int CHECK (depth > 0), "Mixed" text, CHECK (depth < id), '
                .'UNIQUE (team, "Mixed"))',
        );

        self::assertSame(
            ['public', 'visit', ['id', 'team', 'depth', 'Mixed']],
            [$table->schema, $table->name, array_map(static fn ($column): string => $column->name, $table->columns)],
        );
        self::assertSame("nextval('public.visit_id_seq'::regclass)", $table->column('id')?->default);
        self::assertSame('visit_pkey', $table->primaryKey?->name);
        self::assertSame(['visit_team_Mixed_key', 'visit_team_key'], array_map(static fn ($key): ?string => $key->name, $table->uniqueKeys));
        self::assertSame(['visit_team_fkey', ['id']], [$table->foreignKeys[0]->name, $table->foreignKeys[0]->references->columns]);
        self::assertSame(['visit_check', 'visit_depth_check'], array_map(static fn ($check): string => $check->name, $table->checks));
    }

    public function testPartitionsCountForTheirTableAndAreNoEntries(): void
    {
        $catalog = self::catalog('postgresql',
            'CREATE TABLE m (at date, kind text) PARTITION BY RANGE (at)',
            "CREATE TABLE m_1 PARTITION OF m FOR VALUES FROM ('2024-01-01') TO ('2025-01-01')",
            'CREATE TABLE m_2 (at date, kind text) PARTITION BY LIST (kind)',
            'CREATE TABLE m_2_a (at date, kind text)',
            "ALTER TABLE ONLY m ATTACH PARTITION m_2 FOR VALUES FROM ('2025-01-01') TO ('2026-01-01')",
            "ALTER TABLE ONLY m_2 ATTACH PARTITION m_2_a FOR VALUES IN ('a')",
            'CREATE INDEX on_a_partition ON m_1 (at)',
        );

        self::assertSame(['m'], array_map(static fn (Table $table): string => $table->name, $catalog->tables));
        self::assertSame(['partitioned by RANGE (at), 2 partitions'], $catalog->tables[0]->traits);
        self::assertSame([], $catalog->tables[0]->indexes);
    }

    public function testAnHeirHasItsParentsColumns(): void
    {
        $catalog = self::catalog(
            'postgresql',
            'CREATE TABLE note (id int NOT NULL, text text, CHECK (id > 0))',
            'CREATE TABLE photo (width int) INHERITS (note)',
            'ALTER TABLE ONLY photo ALTER COLUMN id SET DEFAULT 7',
        );
        $photo = self::named($catalog, 'photo');

        self::assertSame(['id', 'text', 'width'], array_map(static fn ($column): string => $column->name, $photo->columns));
        self::assertSame(['7', ['inherits from public.note'], 1], [$photo->column('id')?->default, $photo->traits, \count($photo->checks)]);
    }

    public function testEnumsAndDomainsAreSaidByWhatTheyStandFor(): void
    {
        $table = self::one(
            'postgresql',
            "CREATE TYPE flag AS ENUM ('good', 'it''s bad')",
            'CREATE DOMAIN short AS varchar(8) NOT NULL CONSTRAINT long_enough CHECK (length(VALUE) > 2)',
            'CREATE TABLE t (a flag, b flag[], c short)',
        );

        self::assertSame(['public.flag', "enum('good','it''s bad')"], [$table->column('a')?->type, $table->column('a')?->base]);
        self::assertSame(["enum('good','it''s bad')[]", 'character varying(8)'], [$table->column('b')?->base, $table->column('c')?->base]);
        self::assertSame(
            ['long_enough', '(length((VALUE)::text) > 2)', 'c'],
            [$table->checks[0]->name, $table->checks[0]->expression, $table->checks[0]->column],
        );
    }

    public function testAnIndexMayBePartialOrOverAnExpression(): void
    {
        $table = self::one(
            'postgresql',
            'CREATE TABLE t (a text, b date)',
            'CREATE UNIQUE INDEX CONCURRENTLY IF NOT EXISTS i ON ONLY public.t USING btree (lower(a) text_pattern_ops, b DESC NULLS LAST) INCLUDE (a)
                WHERE (b IS NOT NULL)',
            "COMMENT ON INDEX i IS 'why'",
        );

        self::assertEquals([new IndexPart('lower(a)'), new IndexPart('b', null, true)], $table->indexes[0]->parts);
        self::assertSame([true, '(b IS NOT NULL)', 'why'], [$table->indexes[0]->unique, $table->indexes[0]->where, $table->indexes[0]->comment]);
    }

    public function testASecuredTableSaysWhoseRowsAreSeen(): void
    {
        self::assertSame(
            ['row-level security: own'],
            self::one('postgresql', 'CREATE TABLE t (a int)', 'ALTER TABLE t ENABLE ROW LEVEL SECURITY', 'CREATE POLICY own ON t USING (true)')->traits,
        );
        self::assertSame(
            ['row-level security without a policy: nobody but the owner sees a row'],
            self::one('postgresql', 'CREATE TABLE t (a int)', 'ALTER TABLE t ENABLE ROW LEVEL SECURITY')->traits,
        );
    }

    public function testTriggersAndRoutinesAreRead(): void
    {
        $catalog = self::catalog(
            'mariadb',
            'USE rivers',
            'CREATE TABLE t (a int)',
            'CREATE DEFINER=`me`@`%` TRIGGER keep BEFORE UPDATE ON t FOR EACH ROW SET NEW.a = 1',
            "CREATE DEFINER=`me`@`%` FUNCTION one(x int) RETURNS int(11) DETERMINISTIC COMMENT 'always' RETURN 1",
            'CREATE PROCEDURE two() BEGIN SELECT 1; END',
        );

        self::assertSame(['keep', 'BEFORE', 'UPDATE', 'SET NEW.a = 1'], \array_slice(array_values(get_object_vars($catalog->tables[0]->triggers[0])), 0, 4));
        self::assertSame(
            [['rivers', 'one', 'function', 'int(11)', 'RETURN 1', 'always', 'x int(11)'], ['rivers', 'two', 'procedure', null, 'BEGIN SELECT 1; END', '', '']],
            array_map(static fn ($routine): array => \array_slice(array_values(get_object_vars($routine)), 0, 7), $catalog->routines),
        );
    }

    public function testWhatIsDroppedOrRenamedLaterCountsAsItEnds(): void
    {
        $catalog = self::catalog(
            'mysql',
            'CREATE TABLE a (x int, y int)',
            'CREATE TABLE b (x int)',
            'DROP TABLE IF EXISTS b',
            'ALTER TABLE a DROP COLUMN y, MODIFY x bigint NOT NULL, RENAME TO c',
            'CREATE OR REPLACE VIEW v AS SELECT x FROM c',
        );

        self::assertSame(['c', 'v'], array_map(static fn (Table $table): string => $table->name, $catalog->tables));
        self::assertSame(['bigint', false], [$catalog->tables[0]->columns[0]->type, $catalog->tables[0]->columns[0]->nullable]);
        self::assertSame([TableType::View, 'SELECT x FROM c'], [$catalog->tables[1]->kind, $catalog->tables[1]->definition]);
    }

    public function testSqliteTakesTypesAndQuotesAsTheyCome(): void
    {
        $table = self::one(
            'sqlite',
            'CREATE TABLE "t" ([a b] UNSIGNED BIG INT, `c`, \'d\' TEXT COLLATE NOCASE DEFAULT CURRENT_TIMESTAMP, e REAL AS (c + 1), PRIMARY KEY (c)) '
                .'STRICT, WITHOUT ROWID',
        );

        self::assertSame(
            [['a b', 'UNSIGNED BIG INT'], ['c', ''], ['d', 'TEXT'], ['e', 'REAL']],
            array_map(static fn ($column): array => [$column->name, $column->type], $table->columns),
        );
        self::assertEqualsCanonicalizing(['STRICT', 'WITHOUT ROWID'], $table->traits);
        self::assertSame(
            ['NOCASE', 'CURRENT_TIMESTAMP', false],
            [$table->column('d')?->collation, $table->column('d')?->default, $table->column('c')?->nullable],
        );
        self::assertTrue(self::one('sqlite', 'CREATE TABLE t (id INTEGER PRIMARY KEY)')->columns[0]->autoNumbered);
    }

    public function testWhatAViewShowsWithoutAKnownTypeIsSaid(): void
    {
        $sql = ['CREATE TABLE t (a int)', 'CREATE VIEW v AS SELECT a, made_elsewhere(a) AS x FROM t'];

        self::assertSame(['The view v: of x the type is not known, since it does not follow from the query.'], self::catalog('mariadb', ...$sql)->notes);
        self::assertSame([], self::catalog('sqlite', ...$sql)->notes, 'there an expression has no type');
    }

    /** @return iterable<string, array{string, string}> */
    public static function faults(): iterable
    {
        yield 'no list of columns' => ['CREATE TABLE t', 'The list of columns was expected, but the statement ends there'];
        yield 'no comma' => ['CREATE TABLE t (a int b int c int', 'A comma or a closing parenthesis was expected'];
        yield 'an unknown table' => ['ALTER TABLE nowhere ADD a int', 'The table “nowhere” is not known'];
        yield 'an unknown column' => ['COMMENT ON COLUMN t.nothing IS \'x\'', 'The table “t” is not known'];
        yield 'no event' => ['CREATE TRIGGER x BEFORE SOMETHING ON t BEGIN END', 'An event was expected at “SOMETHING”'];
        yield 'a parenthesis too few' => ['CREATE TABLE t (a int CHECK (a > (1)', 'A closing parenthesis was expected'];
        yield 'a bad action' => ['CREATE TABLE t (a int REFERENCES b ON DELETE PERHAPS)', 'A referential action was expected at “PERHAPS”'];
    }

    #[DataProvider('faults')]
    public function testWhatCannotBeReadIsSaidWithThePlace(string $sql, string $words): void
    {
        $this->expectException(SqlFault::class);
        $this->expectExceptionMessage($words);
        (new Script(Dialects::of('sql')->grammar() ?? new Grammar()))->statement($sql);
    }

    private static function catalog(string $dialect, string ...$statements): Catalog
    {
        $script = new Script(Dialects::of($dialect)->grammar() ?? new Grammar());
        foreach ($statements as $statement) {
            $script->statement($statement);
        }
        self::assertSame([], $script->skipped);

        return $script->catalog([], '');
    }

    private static function one(string $dialect, string ...$statements): Table
    {
        return self::catalog($dialect, ...$statements)->tables[0];
    }

    private static function named(Catalog $catalog, string $name): Table
    {
        foreach ($catalog->tables as $table) {
            if ($table->name === $name) {
                return $table;
            }
        }
        self::fail("There is no $name.");
    }
}
