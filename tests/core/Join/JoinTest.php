<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\End;
use Fasti\Core\Join\Sentence;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\TestCase;

final class JoinTest extends TestCase
{
    public function testARequiredReferenceLeadsToExactlyOne(): void
    {
        $table = Made::table('reading', ['station_id' => 'int'], ['station_id' => 'station']);
        $cardinality = Cardinality::declared($table, $table->foreignKeys[0]);

        self::assertSame([End::NoneOrMore, End::One, 'n:1'], [$cardinality->from, $cardinality->to, $cardinality->short()]);
    }

    public function testAnOpenReferenceLeadsToAtMostOne(): void
    {
        $table = Made::table('reach', ['flows_into' => 'int?'], ['flows_into' => 'reach']);

        self::assertSame(End::NoneOrOne, Cardinality::declared($table, $table->foreignKeys[0])->to);
    }

    public function testAReferenceThatHoldsAWholeKeyIsOneToOne(): void
    {
        $key = new ForeignKey('k', ['a', 'b'], new Reference('s', 't', ['a', 'b']));
        $columns = [new Column('a', 'int', false), new Column('b', 'int', false)];
        $unique = new Table('s', 'x', TableType::Table, columns: $columns, uniqueKeys: [new Key('u', ['b'])], foreignKeys: [$key]);
        $wider = new Table('s', 'x', TableType::Table, columns: $columns, primaryKey: new Key(null, ['a', 'b', 'c']), foreignKeys: [$key]);

        self::assertSame('1:1', Cardinality::declared($unique, $key)->short());
        self::assertSame('n:1', Cardinality::declared($wider, $key)->short());
    }

    public function testSentencesInBothDirections(): void
    {
        $cardinality = new Cardinality(End::NoneOrMore, End::One);

        self::assertSame('A reading is recorded at exactly one station.', (string) Sentence::forth('Readings', 'Station', $cardinality, 'is recorded at'));
        self::assertSame('A station records any number of readings.', (string) Sentence::back('Readings', 'Station', $cardinality, 'records'));
        self::assertSame(
            'An alert rule refers to at most one UNIT.',
            (string) Sentence::forth('Alert rule', 'UNIT', new Cardinality(End::NoneOrMore, End::NoneOrOne)),
        );
    }
}
