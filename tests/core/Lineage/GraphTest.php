<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Lineage;

use Fasti\Core\Lineage\Graph;
use Fasti\Core\Lineage\OpenLineage;
use Fasti\Tests\Core\Sql\Queries;
use PHPUnit\Framework\TestCase;

final class GraphTest extends TestCase
{
    public function testAFieldIsFollowedDownAndUpOverViews(): void
    {
        $graph = self::graph();
        $down = $graph->reach(["s\0months\0top"], false);
        $up = $graph->reach(["s\0reading\0value"], true);

        self::assertSame(["s\0months\0top" => 0, "s\0days\0top" => 1, "s\0reading\0value" => 2], $down);
        self::assertSame(["s\0reading\0value" => 0, "s\0days\0top" => 1, "s\0months\0top" => 2], $up);
    }

    public function testTheOpenFormSaysFieldsReferencesAndWhatIsUnknown(): void
    {
        $all = self::graph()->toArray();

        self::assertSame(['station_id', 'top', 'top'], array_column(array_column($all['fields'], 'of'), 'column'));
        self::assertSame([
            'of' => ['schema' => 's', 'table' => 'days', 'column' => 'top'],
            'from' => [['schema' => 's', 'table' => 'reading', 'column' => 'value']],
            'expression' => 'max(value)',
        ], $all['fields'][1]);
        self::assertContains(
            ['of' => ['schema' => 's', 'table' => 'days'], 'to' => ['schema' => 's', 'table' => 'reading', 'column' => 'taken']],
            $all['references'],
        );
        self::assertSame([['of' => ['schema' => 's', 'table' => 'months'], 'at' => '1:48', 'what' => 'No table here has a field “nosuch”']], $all['unknown']);
    }

    public function testOnlyWhatIsAskedForIsTold(): void
    {
        $all = self::graph()->toArray(["s\0months\0top" => true]);

        self::assertSame([['schema' => 's', 'table' => 'months', 'column' => 'top']], array_column($all['fields'], 'of'));
        self::assertSame(
            [['of' => ['schema' => 's', 'table' => 'months'], 'to' => ['schema' => 's', 'table' => 'days', 'column' => 'top']]],
            $all['references'],
        );
        self::assertSame([], self::graph()->toArray(null, 'other')['fields']);
    }

    public function testOpenLineageTellsDirectAndIndirectInputs(): void
    {
        $event = (string) json_encode((new OpenLineage('postgresql', '2026-01-01T00:00:00Z'))->events(self::graph()->readings)[0], \JSON_UNESCAPED_SLASHES);

        self::assertStringContainsString('"outputs":[{"namespace":"postgresql","name":"s.days"', $event);
        self::assertStringContainsString(
            '"top":{"inputFields":[{"namespace":"postgresql","name":"s.reading","field":"value","transformations":[{"type":"DIRECT","subtype":"TRANSFORMATION"',
            $event,
        );
        self::assertStringContainsString(
            '"dataset":[{"namespace":"postgresql","name":"s.reading","field":"station_id","transformations":[{"type":"INDIRECT"',
            $event,
        );
        self::assertMatchesRegularExpression('/"runId":"[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-8[0-9a-f]{3}-[0-9a-f]{12}"/', $event);
    }

    private static function graph(): Graph
    {
        return Graph::of(Queries::catalog(
            'postgresql',
            Queries::view('days', 'SELECT station_id, max(value) AS top FROM s.reading WHERE taken > now() GROUP BY station_id'),
            Queries::view('months', 'SELECT max(top) AS top FROM s.days WHERE top > nosuch'),
        ));
    }
}
