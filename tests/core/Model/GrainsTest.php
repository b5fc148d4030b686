<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Join\End;
use Fasti\Core\Model\Aggregate\Aggregate;
use Fasti\Core\Model\Aggregate\Average;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Distinct;
use Fasti\Core\Model\Aggregate\Greatest;
use Fasti\Core\Model\Aggregate\Median;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Answer;
use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelChecks;
use Fasti\Core\Model\ModelFinding;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\Offer;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\Unanswerable;
use Fasti\Core\Survey\Rows;
use Fasti\Tests\Core\Join\Base;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** An amount of a delivery counts once, however many lines the delivery has. */
final class GrainsTest extends TestCase
{
    private const ROWS = 'CREATE TABLE delivery (id integer PRIMARY KEY, depot_id integer, freight numeric(9,2), rate numeric(9,2), sent date);
        CREATE TABLE depot (id integer PRIMARY KEY, town text, rent numeric(9,2)); CREATE TABLE kit (id integer PRIMARY KEY, price numeric(9,2));
        CREATE TABLE line (id integer PRIMARY KEY, delivery_id integer, kit_id integer, pieces integer, weight numeric(9,2), kind text);
        CREATE TABLE line_more (line_id integer PRIMARY KEY, tare numeric(9,2));
        INSERT INTO depot VALUES (1, \'north\', 100), (2, \'south\', 50);
        INSERT INTO delivery VALUES (1, 1, 10, 2, \'2026-01-01\'), (2, 1, 20, 3, \'2026-01-02\'), (3, 2, 40, 1, \'2026-01-03\');
        INSERT INTO kit VALUES (1, 5), (2, 7);
        INSERT INTO line VALUES (1, 1, 1, 2, 1.5, \'a\'), (2, 1, 2, 3, 2.5, \'b\'), (3, 1, 2, 1, 1, \'a\'), (4, 2, 1, 4, 3, \'a\');
        INSERT INTO line_more VALUES (1, 0.5), (2, 0.25), (4, 1);';

    /**
     * @param list<string>               $elsewhere
     * @param list<string>               $factors
     * @param array{string, string}|null $mixed
     */
    #[DataProvider('expressions')]
    public function testAtWhatGrainAmountsStand(string $expression, array $elsewhere, array $factors = [], ?array $mixed = null): void
    {
        $grain = self::ground()->grains()->of(new Measure('x', new Sum(), 'line', $expression));

        self::assertSame([$elsewhere, $factors, $mixed], [$grain->elsewhere, $grain->factors, $grain->mixed]);
        self::assertSame([] === $elsewhere && [] === $factors && null === $mixed, '' === $grain->inWords('line'));
        self::assertSame([], self::ground()->formula('line', $expression)->faults);
    }

    /** @return iterable<string, array{0: string, 1: list<string>, 2?: list<string>, 3?: array{string, string}}> */
    public static function expressions(): iterable
    {
        foreach ([
            ['pieces', []], ['pieces * weight - 1', []], ['1', []], ['more.tare * pieces', []], ['more.tare', []], ['pieces + more.tare', []],
            ['delivery.freight', ['delivery']], ['-delivery.freight', ['delivery']], ['2 * delivery.freight + 1', ['delivery']],
            ['ROUND(delivery.freight, 1)', ['delivery']], ['ABS(delivery.freight)', ['delivery']], ['CAST(delivery.freight AS integer)', ['delivery']],
            ['COALESCE(delivery.freight, 0)', ['delivery']], ['NULLIF(delivery.freight, pieces)', ['delivery']], ['depot.rent', ['depot']],
            ['EXTRACT(DAY FROM delivery.sent)', ['delivery']], ['delivery.freight / delivery.rate', ['delivery']], ['1 / delivery.rate', ['delivery']],
            ["CASE WHEN kind = 'a' THEN delivery.freight END", ['delivery']], ["CASE WHEN kind = 'a' THEN 0 ELSE delivery.freight END", ['delivery']],
            ['delivery.freight + depot.rent', ['delivery', 'depot']], ['delivery.rate * kit.price', ['delivery', 'kit']], ['kit.price', ['kit']],
            ['pieces * kit.price', [], ['kit']], ['pieces * kit.price * delivery.rate', [], ['kit', 'delivery']],
            ['pieces * (1 + delivery.rate)', [], ['delivery']], ['pieces * (1 - delivery.rate - weight)', [], ['delivery']],
            ['weight / delivery.rate', [], ['delivery']], ['delivery.freight / pieces', [], ['delivery']], ['MOD(pieces, delivery.rate)', [], ['delivery']],
            ['POWER(weight, delivery.rate)', [], ['delivery']], ['weight / (pieces + delivery.rate)', [], ['delivery']],
            ['CASE WHEN delivery.rate > 1 THEN pieces ELSE 0 END', []], ["CASE WHEN depot.town = 'north' THEN pieces END", []],
            ['pieces + delivery.freight', [], [], ['line', 'delivery']], ['pieces * kit.price + delivery.freight', [], [], ['line', 'delivery']],
            ['2 * (pieces - depot.rent)', [], [], ['line', 'depot']], ['(pieces + delivery.freight) / pieces', [], [], ['line', 'delivery']],
            ['COALESCE(weight, delivery.freight)', [], [], ['line', 'delivery']], ['GREATEST(weight, delivery.freight)', [], [], ['line', 'delivery']],
            ["CASE WHEN kind = 'a' THEN pieces ELSE delivery.freight END", [], [], ['line', 'delivery']],
        ] as $one) {
            yield $one[0] => $one;
        }
    }

    public function testWhoeverWritesAnExpressionIsToldAtWhatGrainItStands(): void
    {
        $said = static fn (string $expression): string => self::ground()->grains()->of(new Measure('x', new Sum(), 'line', $expression))->inWords('line');

        self::assertSame(
            'It stands in delivery, and would count once for each row of line: make delivery a fact, and take it there.', $said('delivery.freight'),
        );
        self::assertSame('What stands in kit and delivery is a factor for each row of line.', $said('pieces * kit.price * delivery.rate'));
        self::assertSame(
            'What stands in depot is put together with what stands in line, and would count once for each row of line: make two measures of it.',
            $said('pieces + depot.rent'),
        );
    }

    /** @return iterable<string, array{Aggregate, bool}> */
    public static function aggregates(): iterable
    {
        yield 'sum' => [new Sum(), false];
        yield 'average' => [new Average(), false];
        yield 'median' => [new Median(), false];
        yield 'greatest' => [new Greatest(), true];
        yield 'distinct' => [new Distinct(), true];
        yield 'count' => [new Count(), true];
    }

    #[DataProvider('aggregates')]
    public function testWhatDoesNotChangeWithRepeatingIsTaken(Aggregate $aggregate, bool $taken): void
    {
        self::assertSame($taken, [] === self::ground()->grains()->of(new Measure('x', $aggregate, 'line', 'delivery.freight'))->elsewhere);
    }

    public function testASumOfAHeaderOverItsLinesIsRefusedWithWhatCouldBeAskedInstead(): void
    {
        $refused = self::refused(new Trial(['freight of lines', 'pieces'], ['kind of line']));

        self::assertStringContainsString(
            'stand in delivery, and are taken of line: each would count once for each of its rows of line', $refused->getMessage(),
        );
        self::assertSame(
            ['Ask for “freight”, which is taken of delivery.', 'Make delivery a fact, and take “freight of lines” of it.'],
            array_map(static fn (Offer $offer): string => $offer->words, $refused->offers),
        );
        self::assertSame(['freight', 'pieces'], $refused->offers[0]->trial?->measures);
        $mixed = self::refused(new Trial(['cost']));
        self::assertStringContainsString(
            '“cost” adds what stands in delivery to what stands in line, where one row of delivery has several', $mixed->getMessage(),
        );
    }

    public function testWhatIsTakenOfTheHeaderCountsOnce(): void
    {
        $answer = self::asked(new Trial(['freight', 'value'], ['town of depot']));

        self::assertSame([['north', '30', '136'], ['south', '40', null]], $answer->rows);
        self::assertSame([true, true], array_map(static fn ($one): bool => $one->agrees(), $answer->reconciled));
    }

    /** Whoever wrote the model says that a line has one row of `more`; the table of the amount is asked, joined to nothing. */
    public function testTheTotalIsHeldAgainstTheTableInWhichTheAmountStands(): void
    {
        $answer = self::asked(new Trial(['tare'], ['kind of line']));

        self::assertSame([['a', '1.5'], ['b', '0.25']], $answer->rows);
        self::assertSame(['1.75', '1.75'], [$answer->reconciled[0]->here, $answer->reconciled[0]->alone]);
        self::assertStringContainsString('FROM line_more AS a', $answer->reconciled[0]->sql);
        self::assertStringContainsString('EXISTS', $answer->reconciled[0]->sql);
        $some = self::asked(new Trial(['tare'], ['kind of line'], [new Condition('town of depot', Test::Is, ['north'])]));
        self::assertTrue($some->reconciled[0]->agrees());
    }

    public function testTheChecksSayItToo(): void
    {
        $found = [];
        foreach ((new ModelChecks(self::ground()))->all() as $finding) {
            $found[$finding->check.' '.$finding->about] = $finding;
        }

        self::assertSame('The amounts of “freight of lines” stand in “delivery”, of which one row has several of “line”',
            $found['another-grain freight of lines']->words ?? '');
        self::assertSame('“cost” puts amounts of “delivery” together with those of “line”', $found['mixed-grains cost']->words ?? '');
        self::assertSame('“value” takes what stands in kit and delivery as a factor for each row of line', $found['factor-of-another value']->words ?? '');
        self::assertSame([], array_filter($found, static fn (ModelFinding $one): bool => 'freight' === $one->about && 'another-grain' === $one->check));
    }

    private static function refused(Trial $trial): Unanswerable
    {
        try {
            (new Planner(self::ground(), new \DateTimeImmutable('2026-01-01')))->plan($trial);
        } catch (Unanswerable $e) {
            return $e;
        }
        self::fail('It was planned.');
    }

    private static function asked(Trial $trial): Answer
    {
        return (new Asking(self::rows()))->answer((new Planner(self::ground(), new \DateTimeImmutable('2026-01-01')))->plan($trial));
    }

    private static function rows(): Rows
    {
        return new Base(self::ROWS);
    }

    private static function ground(): Ground
    {
        $table = static fn (string $name, string $key, string ...$columns): Table => new Table(
            '', $name, TableType::Table, '', array_map(static function (string $column) use ($key): Column {
                [$field, $type] = explode(' ', $column);

                return new Column($field, $type, $field !== $key);
            }, array_values($columns)), new Key(null, [$key]),
        );
        $catalog = new Catalog('sqlite', '', [
            $table('delivery', 'id', 'id integer', 'depot_id integer', 'freight numeric(9,2)', 'rate numeric(9,2)', 'sent date'),
            $table('depot', 'id', 'id integer', 'town text', 'rent numeric(9,2)'), $table('kit', 'id', 'id integer', 'price numeric(9,2)'),
            $table('line', 'id', 'id integer', 'delivery_id integer', 'kit_id integer', 'pieces integer', 'weight numeric(9,2)', 'kind text'),
            $table('line_more', 'line_id', 'line_id integer', 'tare numeric(9,2)'),
        ]);
        $role = static fn (string $name, RoleKind $kind, array $attributes = [], string $table = '', string $key = 'id'): Role => new Role(
            $name, $kind, new Place('', $table ?: $name), '', '', 'one row each', [$key], '',
            array_map(static fn (string $one): Attribute => new Attribute($one, $one), array_values(array_filter($attributes, is_string(...)))),
        );
        $model = new Model('Deliveries', '', [
            $role('line', RoleKind::Fact, ['kind']), $role('delivery', RoleKind::Fact, ['sent']), $role('depot', RoleKind::Dimension, ['town']),
            $role('kit', RoleKind::Dimension), $role('more', RoleKind::Dimension, [], 'line_more', 'line_id'),
        ], [
            new ModelJoin('line', 'delivery', ['delivery_id'], ['id']), new ModelJoin('line', 'kit', ['kit_id'], ['id']),
            new ModelJoin('delivery', 'depot', ['depot_id'], ['id']), new ModelJoin('more', 'line', ['line_id'], ['id'], End::NoneOrOne, End::One),
        ], [
            new Measure('pieces', new Sum(), 'line', 'pieces'), new Measure('freight of lines', new Sum(), 'line', 'delivery.freight'),
            new Measure('freight', new Sum(), 'delivery', 'freight'), new Measure('value', new Sum(), 'line', 'pieces * kit.price * delivery.rate'),
            new Measure('cost', new Sum(), 'line', 'pieces * kit.price + delivery.freight'), new Measure('tare', new Sum(), 'line', 'more.tare'),
        ]);

        return new Ground($model, $catalog);
    }
}
