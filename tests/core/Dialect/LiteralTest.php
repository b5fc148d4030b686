<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Dialect;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\End;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\Loop;
use Fasti\Core\Join\LoopSql;
use Fasti\Core\Join\Route;
use Fasti\Core\Join\RouteSql;
use Fasti\Core\Join\Step;
use Fasti\Core\Value\OneOf;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A text in SQL is written in one place for each engine. */
final class LiteralTest extends TestCase
{
    #[DataProvider('texts')]
    public function testItIsWrittenSoThatItStaysAText(string $text, string $mariaDb, string $postgreSql, string $sqlite): void
    {
        $written = static fn (string $engine): string => Dialects::of($engine)->literal($text);

        self::assertSame([$mariaDb, $mariaDb, $postgreSql, $sqlite], array_map($written, ['mariadb', 'mysql', 'postgresql', 'sqlite']));
    }

    /** @return iterable<string, array{string, string, string, string}> */
    public static function texts(): iterable
    {
        yield 'plain' => ['station', "'station'", "'station'", "'station'"];
        yield 'a quotation mark' => ["it's", "'it''s'", "'it''s'", "'it''s'"];
        yield 'a backslash before one' => ["\\' OR 1=1 -- ", "'\\\\'' OR 1=1 -- '", "E'\\\\'' OR 1=1 -- '", "'\\'' OR 1=1 -- '"];
        yield 'a backslash at the end' => ['a\\', "'a\\\\'", "E'a\\\\'", "'a\\'"];
        yield 'NUL' => ["a\0b", "'a\0b'", "'a\u{2400}b'", "CAST(x'610062' AS TEXT)"];
        yield 'nothing' => ['', "''", "''", "''"];
    }

    #[DataProvider('engines')]
    public function testWhoeverWritesSqlForAnEngineWritesTextsAsItsDialectDoes(string $engine): void
    {
        $dialect = Dialects::of($engine);
        $text = "\\' OR '1'='1";
        $literal = $dialect->literal($text);
        $profile = $dialect->profiling() ?? throw new \LogicException();

        self::assertSame($literal, $profile->literal($text));
        self::assertSame($literal, $dialect->asking()?->text($text));
        self::assertSame($literal, $dialect->writing()->literal($text));
        self::assertSame($dialect->quoted('kind of')." = $literal", $profile->is('kind of', $text));
        self::assertStringContainsString(
            $literal,
            (new OneOf([$text]))->sql($profile, new Column('kind', 'varchar(20)'), \Fasti\Core\Catalog\TypeFamily::Text),
        );
    }

    #[DataProvider('engines')]
    public function testTheConditionOfAJoinIsATextInRoutesAndLoops(string $engine): void
    {
        $text = "\\' UNION SELECT secret FROM account -- ";
        $dialect = Dialects::of($engine);
        $link = new Link(1, 0, 1, [['ref', 'id']], new Cardinality(End::NoneOrMore, End::One), where: ['kind', $text]);
        $places = [new Place('main', 'note'), new Place('main', 'station')];
        $route = new RouteSql($dialect, $places);

        self::assertStringEndsWith(' = '.$dialect->literal($text), $route->select(new Route([new Step($link, true)], 1.0)));
        self::assertSame($dialect->quoted('kind').' = '.$dialect->literal($text), $route->where($link));
        self::assertNull($route->where(new Link(1, 0, 1, [['ref', 'id']], new Cardinality(End::NoneOrMore, End::One))));
        $loop = new Loop(0, 1, [new Step($link, true)], [new Step(new Link(2, 0, 1, [['other', 'id']], new Cardinality(End::NoneOrMore, End::One)), true)]);
        self::assertStringContainsString(' = '.$dialect->literal($text), (new LoopSql($dialect, $places))->count($loop));
    }

    /** @return iterable<string, array{string}> */
    public static function engines(): iterable
    {
        yield 'MariaDB' => ['mariadb'];
        yield 'PostgreSQL' => ['postgresql'];
        yield 'SQLite' => ['sqlite'];
    }
}
