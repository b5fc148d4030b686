<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use PHPUnit\Framework\TestCase;

/** The hard queries of tests/queries and many made up by chance, against what servers said of the views that were made of them: none is asked. */
final class GoldenQueriesTest extends TestCase
{
    public function testEveryFieldNameAndTypeOfPostgreSqlsViews(): void
    {
        [$catalog, $more] = self::recorded('postgresql', 'hard', '');
        $titles = array_keys(Queries::hard('postgresql'));

        self::assertGreaterThanOrEqual(70, \count($titles));
        self::assertSame([], Held::hard($catalog, $titles, $more['truth']));
    }

    public function testTheServersOwnViews(): void
    {
        $case = Golden::of('queries.postgresql')->case('own') ?? self::fail();
        $catalog = OpenForm::read(Catalog::class, \is_array($case['more']['catalog'] ?? null) ? $case['more']['catalog'] : []);

        self::assertGreaterThan(150, \count($catalog->tables));
        self::assertSame([], Held::own($catalog));
    }

    public function testViewsThatWereMadeUpByChance(): void
    {
        [$catalog, $more] = self::recorded('postgresql', 'random', '');

        self::assertGreaterThan(300, \count($more['queries']));
        self::assertSame([], Held::views($catalog, $more['queries'], $more['truth'], 'q'));
    }

    public function testEveryFieldAndNameOfMariaDbsViews(): void
    {
        [$catalog] = self::recorded('mariadb', 'hard', 'fasti_queries');
        [$faults, $types, $right] = Held::byHand($catalog, Queries::hard('mariadb'), 'fasti_queries');

        self::assertSame([], $faults);
        self::assertGreaterThan(0.9, $right / $types);
    }

    public function testEveryFieldAndNameOfSqlitesViews(): void
    {
        [$catalog] = self::recorded('sqlite', 'hard', '');

        self::assertSame([], Held::byHand($catalog, Queries::hard('sqlite'), 'main')[0]);
    }

    /** @return array{Catalog, array{truth: array<string, list<string>>, queries: array<string, string>}} */
    private static function recorded(string $engine, string $name, string $database): array
    {
        $case = Golden::of("queries.$engine")->case($name) ?? self::fail('This is not recorded: bin/test record.');
        $folder = \dirname(__DIR__, 2).'/queries/';
        $written = (string) file_get_contents($folder."$engine.sql").file_get_contents($folder."$engine.schema.sql");
        self::assertSame(md5($written), $case['of'], 'The queries have changed since. Record them again: bin/test record.');
        $reader = Dialects::of($engine)->reader(new Replayed($case['answers']), $database) ?? self::fail();
        /** @var array{truth: array<string, list<string>>, queries: array<string, string>} $more */
        $more = $case['more'];

        return [$reader->read(new Choice(), new SilentProgress()), $more];
    }
}
