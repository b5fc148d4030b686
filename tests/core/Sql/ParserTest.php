<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\Select;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** The tree of a query, and what becomes of what cannot be read. */
final class ParserTest extends TestCase
{
    /** @return iterable<int, array{string, string, string}> */
    public static function bindings(): iterable
    {
        yield ['postgresql', 'a + b * c', '(a + (b * c))'];
        yield ['postgresql', 'a - b - c', '(a - b - c)'];
        yield ['postgresql', 'a OR b AND NOT c = d', '(a OR (b AND (NOT (c = d))))'];
        yield ['postgresql', 'a || b + c', '(a || (b + c))'];
        yield ['postgresql', 'a < b IS NULL', '((a < b) IS NULL)'];
        yield ['postgresql', 'a BETWEEN b AND c AND d', '((a BETWEEN b c) AND d)'];
        yield ['postgresql', '-a ^ b', '((- a) ^ b)'];
        yield ['postgresql', 'a->b->>c', '(a -> b) ->> c'];
        yield ['sqlite', 'a || b * c', '((a || b) * c)'];
        yield ['sqlite', 'a == b < c', '(a == b) < c'];
        yield ['mariadb', 'a || b AND c', '(a || (b AND c))'];
        yield ['mariadb', 'a & b + c', '(a & (b + c))'];
        yield ['mariadb', 'a = b IS NULL', '((a = b) IS NULL)'];
        yield ['mariadb', '!a + b', '((! a) + b)'];
    }

    #[DataProvider('bindings')]
    public function testOperatorsBindAsTheEngineHasIt(string $engine, string $sql, string $expected): void
    {
        $strip = static fn (string $text): string => (string) preg_replace('/^\((.*)\)$/', '$1', $text);

        self::assertContains($strip(self::said(self::expression($sql, $engine))), [$strip($expected), $strip('('.$expected.')')]);
    }

    public function testLongChainsDoNotNest(): void
    {
        $sum = self::expression(implode(' + ', array_fill(0, 5000, 'a')), 'postgresql');

        self::assertInstanceOf(Operation::class, $sum);
        self::assertCount(5000, $sum->operands);
    }

    public function testEveryNodeKnowsItsPlace(): void
    {
        $sql = "SELECT  a.b + 1 AS c\nFROM t";
        [$query] = Parser::query($sql, self::grammar('postgresql'));
        self::assertInstanceOf(Select::class, $query->body);
        $value = $query->body->items[0]->value;

        self::assertSame('a.b + 1', substr($sql, $value->at, $value->end - $value->at));
    }

    public function testWhatCannotBeReadIsNamedAndTheRestStands(): void
    {
        $reading = Queries::read("SELECT name, sum(value ?? 2) AS total,\n  id FROM station WHERE id => 3 ORDER BY 1", 'mariadb');

        self::assertSame(['name', 'total', 'id'], array_map(static fn ($field): string => $field->name, $reading->fields));
        self::assertSame(['station.name'], Queries::names($reading->fields[0]->values));
        self::assertSame(['station.id'], Queries::names($reading->fields[2]->values));
        self::assertCount(2, $reading->unknown);
        self::assertStringStartsWith('1:', Queries::unknown($reading)[0]);
        self::assertStringStartsWith('2:', Queries::unknown($reading)[1]);
    }

    /** @return iterable<string, array{string, string}> */
    public static function broken(): iterable
    {
        yield 'nothing' => ['  -- nothing', 'There is no query: the text is empty'];
        yield 'no query' => ['DROP TABLE a', '“SELECT” was expected at “DROP”'];
        yield 'an open text' => ["SELECT 'a FROM b", 'A text begins that does not end at “\'a FROM b”'];
        yield 'an open name' => ['SELECT "a FROM b', 'A quoted name begins that does not end at “"a FROM b”'];
        yield 'an open comment' => ['SELECT a /* b', 'A comment begins that does not end at “/* b”'];
        yield 'something behind' => ['SELECT a FROM b; DROP TABLE c', 'The query was over, but something follows at “DROP”'];
        yield 'an open parenthesis' => ['SELECT (a FROM b', '“)” was expected at “FROM”'];
    }

    #[DataProvider('broken')]
    public function testABrokenQueryIsSaidWithItsPlace(string $sql, string $words): void
    {
        try {
            [, $faults] = Parser::query($sql, self::grammar('postgresql'));
            $said = array_map(static fn (SqlFault $fault): string => $fault->getMessage(), $faults);
        } catch (SqlFault $e) {
            $said = [$e->getMessage()];
        }

        self::assertContains($words, $said);
    }

    public function testQueriesBrokenAnywhereEndInAResultOrASentence(): void
    {
        mt_srand(7);
        $junk = ["'", '"', '(', ')', '/*', '--', ',', '`', '$$', '[', '{', ';', "\0", "\xff", ':', '?', '@', ' SELECT ', ' JOIN ', ' FROM '];
        $tried = 0;
        foreach (['postgresql', 'mariadb', 'sqlite'] as $engine) {
            $readings = new \Fasti\Core\Sql\Readings(Queries::catalog($engine));
            foreach (Queries::hard($engine) as [$sql]) {
                for ($i = 0; $i < 12; ++$i) {
                    $at = mt_rand(0, \strlen($sql));
                    $broken = match ($i % 3) {
                        0 => substr($sql, 0, $at),
                        1 => substr($sql, 0, $at).substr($sql, min(\strlen($sql), $at + mt_rand(1, 20))),
                        default => substr($sql, 0, $at).$junk[mt_rand(0, \count($junk) - 1)].substr($sql, $at),
                    };
                    $began = self::worked();
                    $reading = $readings->query($broken);
                    foreach ($reading->unknown as $unknown) {
                        self::assertLessThanOrEqual(\strlen($broken), $unknown->at);
                        self::assertMatchesRegularExpression('/^\d+:\d+$/', $unknown->place($broken));
                    }
                    self::assertTrue($reading->read || [] !== $reading->unknown, $broken);
                    self::assertLessThan(20.0, self::worked() - $began, $broken);
                    ++$tried;
                }
            }
        }
        self::assertGreaterThan(1500, $tried);
    }

    /** @return iterable<string, array{string}> */
    public static function deep(): iterable
    {
        yield 'parentheses' => ['SELECT '.str_repeat('(', 500).'id'.str_repeat(')', 500).' FROM station'];
        yield 'queries' => [
            str_repeat('SELECT * FROM (', 500).'SELECT id, name FROM station'.implode('', array_map(static fn (int $i): string => ") t$i", range(1, 500))),
        ];
        yield 'values' => ['SELECT '.str_repeat('(SELECT ', 500).'id'.str_repeat(' FROM station)', 500).' FROM station'];
        yield 'cases' => ['SELECT '.str_repeat('CASE WHEN id = 1 THEN ', 500).'id'.str_repeat(' ELSE 2 END', 500).' FROM station'];
        yield 'calls' => ['SELECT '.str_repeat('coalesce(', 500).'id'.str_repeat(', 1)', 500).' FROM station'];
        yield 'casts' => ['SELECT '.str_repeat('CAST(', 500).'id'.str_repeat(' AS int)', 500).' FROM station'];
        yield 'joins' => [
            'SELECT 1 FROM '.str_repeat('(', 500).'station'.implode(
                '',
                array_map(static fn (int $i): string => " JOIN station a$i ON a$i.id = station.id)", range(1, 500)),
            ),
        ];
    }

    #[DataProvider('deep')]
    public function testWhatIsNested500DeepIsRead(string $sql): void
    {
        $began = self::worked();
        $reading = Queries::read($sql);

        self::assertSame([], Queries::unknown($reading));
        self::assertContains('station.id', Queries::names($reading->references));
        self::assertLessThan(20.0, self::worked() - $began);
    }

    public function testWhatIsNestedWithoutEndIsSaid(): void
    {
        $reading = Queries::read('SELECT '.str_repeat('(', 200000));

        self::assertStringContainsString('nested more than', implode(' ', Queries::unknown($reading)));
    }

    private static function grammar(string $engine): Grammar
    {
        return Dialects::named($engine)?->grammar() ?? new Grammar();
    }

    private static function expression(string $sql, string $engine): Expression
    {
        [$query] = Parser::query("SELECT $sql FROM t", self::grammar($engine));
        self::assertInstanceOf(Select::class, $query->body);

        return $query->body->items[0]->value;
    }

    private static function said(Expression $expression): string
    {
        if ($expression instanceof Operation) {
            $operands = array_map(self::said(...), $expression->operands);

            return '('.match (true) {
                1 === \count($operands) && str_starts_with($expression->sign, 'IS') => $operands[0].' '.$expression->sign,
                1 === \count($operands) => $expression->sign.' '.$operands[0],
                'BETWEEN' === $expression->sign => $operands[0].' BETWEEN '.$operands[1].' '.$operands[2],
                default => implode(' '.$expression->sign.' ', $operands),
            }.')';
        }

        return match (true) {
            $expression instanceof Ref => implode('.', $expression->names),
            $expression instanceof Literal => $expression->text,
            default => $expression::class,
        };
    }

    /** Seconds of computing; what tries every way would take hours, so the limit is no figure of speed. */
    private static function worked(): float
    {
        $used = array_map(static fn (mixed $figure): float => is_numeric($figure) ? (float) $figure : 0.0, getrusage() ?: []);

        return ($used['ru_utime.tv_sec'] ?? 0.0) + ($used['ru_utime.tv_usec'] ?? 0.0) / 1e6;
    }
}
