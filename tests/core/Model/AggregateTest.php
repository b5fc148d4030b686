<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Aggregate\Aggregate;
use Fasti\Core\Model\Aggregate\Ratio;
use Fasti\Core\Model\Measure;
use Fasti\Tests\Core\House\Tree;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What each aggregate says of itself. */
final class AggregateTest extends TestCase
{
    public function testTheyAreFoundByBeingThereAndOfferedInTheirOrder(): void
    {
        self::assertSame([
            'sum', 'count', 'distinct count', 'average', 'least', 'greatest', 'median', 'standard deviation', 'variance', 'ratio', 'computed',
        ], array_keys(Aggregate::known()));
        self::assertSame('median', Aggregate::named('median')?->name());
        self::assertNull(Aggregate::named('total'));
    }

    /** @return iterable<string, array{string, string, string, string, list<string>|null}> */
    public static function written(): iterable
    {
        yield 'sum' => ['sum', 'sum', 'mariadb', 'SUM(v)', ['SUM(v) AS m3', 'SUM(grouped.m3)']];
        yield 'count' => ['count', 'count', 'mariadb', 'COUNT(v)', ['COUNT(v) AS m3', 'SUM(grouped.m3)']];
        yield 'different ones' => ['distinct count', 'distinct count', 'mariadb', 'COUNT(DISTINCT v)', null];
        yield 'average' => [
            'average', 'average', 'mariadb', 'SUM(v) * 1.000000000000 / COUNT(v)',
            ['SUM(v) AS m3', 'COUNT(v) AS c3', Dialects::of('mariadb')->asking()?->divided('SUM(grouped.m3)', 'SUM(grouped.c3)') ?? ''],
        ];
        yield 'least' => ['least', 'the least', 'mariadb', 'MIN(v)', ['MIN(v) AS m3', 'MIN(grouped.m3)']];
        yield 'greatest' => ['greatest', 'the greatest', 'mariadb', 'MAX(v)', ['MAX(v) AS m3', 'MAX(grouped.m3)']];
        yield 'median where there is none' => ['median', 'median', 'sqlite', '', null];
        yield 'median' => ['median', 'median', 'postgresql', 'PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY v)', null];
    }

    /** @param list<string>|null $parts */
    #[DataProvider('written')]
    public function testItsSqlOverRowsAndOverParts(string $name, string $words, string $engine, string $sql, ?array $parts): void
    {
        $aggregate = Aggregate::known()[$name];
        $ask = Dialects::of($engine)->asking() ?? throw new \LogicException();

        self::assertSame($words, $aggregate->inWords());
        self::assertSame($sql, (string) $aggregate->sql($ask, 'v'));
        $made = $aggregate->inParts($ask, 'v', '3');
        self::assertSame($parts, null === $made ? null : [
            ...array_map(static fn (string $part, string $as): string => "$part AS $as", $made[0], array_keys($made[0])), $made[1],
        ]);
    }

    public function testRowsAreCountedWithoutAValue(): void
    {
        $ask = Dialects::of('sqlite')->asking() ?? throw new \LogicException();

        self::assertSame('COUNT(*)', Aggregate::known()['count']->sql($ask, null));
        self::assertSame([['m0' => 'COUNT(*)'], 'SUM(grouped.m0)'], Aggregate::known()['count']->inParts($ask, null, '0'));
        $this->expectExceptionMessage('It is computed of measures.');
        (new Ratio())->sql($ask, 'v');
    }

    public function testWhatEachNeedsAndGives(): void
    {
        $seen = [];
        foreach (Aggregate::known() as $name => $one) {
            $yes = array_filter([
                'of measures' => $one->isOfMeasures(), 'value' => $one->needsValue(), 'numbers' => $one->needsNumbers(), 'adds' => $one->adds(),
                'total' => $one->isTotal(), 'mean' => $one->isMean(), 'one of them' => $one->isValue(), 'tells' => $one->tellsOfValues(),
            ]);
            $unit = '' === $one->unit('m') ? 'without' : $one->unit('m');
            $gives = [$one->family(TypeFamily::Time)->value, $unit, $one->ofNothing() ?? 'none', $one->additivity()->value];
            $seen[$name] = implode(', ', array_keys($yes)).'; '.implode(' ', $gives);
        }

        self::assertSame([
            'sum' => 'value, numbers, adds, total, tells; number m none all',
            'count' => 'adds; whole without 0 none',
            'distinct count' => 'value; whole without 0 none',
            'average' => 'value, numbers, mean, tells; number m none none',
            'least' => 'value, one of them, tells; time m none all',
            'greatest' => 'value, one of them, tells; time m none all',
            'median' => 'value, numbers, tells; number m none none',
            'standard deviation' => 'value, numbers, tells; number m none none',
            'variance' => 'value, numbers, tells; number m² none none',
            'ratio' => 'of measures; number without none none',
            'computed' => 'of measures; time m none none',
        ], $seen);
    }

    public function testInItsOpenFormItIsItsName(): void
    {
        $measure = OpenForm::read(Measure::class, ['name' => 'm', 'aggregation' => 'greatest', 'adds' => 'none']);

        self::assertSame(['m', 'greatest', Additivity::NonAdditive], [$measure->name, $measure->aggregation->name(), $measure->adds]);
        self::assertSame('greatest', OpenForm::of($measure)['aggregation']);
        // A name that is none is read as the first, which whoever reads a file tells from what stands there.
        self::assertSame('sum', OpenForm::read(Measure::class, ['name' => 'm', 'aggregation' => 'total'])->aggregation->name());
    }

    /** Written anew by bin/test record. */
    public function testTheSchemaOfModelsHasThemAll(): void
    {
        $names = '"'.implode("\",\n            \"", array_keys(Aggregate::known())).'"';
        $written = preg_replace('/("aggregation": \{\s*"enum": \[\s*)[^\]]*?(\s*\])/', '${1}'.$names.'$2', Tree::read('docs/model.schema.json'));
        if ('1' === getenv('FASTI_RECORD')) {
            file_put_contents(Tree::root().'docs/model.schema.json', $written);
        }

        self::assertSame($written, Tree::read('docs/model.schema.json'));
    }
}
