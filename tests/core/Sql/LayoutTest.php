<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Layout;
use PHPUnit\Framework\TestCase;

final class LayoutTest extends TestCase
{
    public function testClausesBeginLinesAndQueriesWithinStandFurtherIn(): void
    {
        self::assertSame(<<<'SQL'
            WITH d AS (
                SELECT r.station_id,
                  max(r.value) AS top
                FROM reading r
                WHERE r.value BETWEEN 1 AND 3
                  AND r.flag = 'G'
                GROUP BY 1
            )
            SELECT s.name,
              CASE WHEN d.top > 1 AND d.top < 2 THEN 1 END AS k,
              rank() OVER (PARTITION BY s.id ORDER BY d.top DESC)
            FROM station s
              LEFT JOIN d ON d.station_id = s.id
                AND d.top IS DISTINCT FROM 3
            ORDER BY 1
            LIMIT 5
            SQL, self::set(
            "with d as (select r.station_id, max(r.value) as top from reading r where r.value between 1 and 3 and r.flag = 'G' group by 1) select s.name, "
                .'case when d.top > 1 and d.top < 2 then 1 end as k, rank() over (partition by s.id order by d.top desc) from station s left join d on '
                .'d.station_id = s.id and d.top is distinct from 3 order by 1 limit 5',
        ));
    }

    public function testNamesKnowWhatTheyMean(): void
    {
        $reading = Queries::read('SELECT s.name FROM station s');
        $meant = [];
        foreach (Layout::of($reading, self::grammar()) as [, $pieces]) {
            foreach ($pieces as [, $text, $meaning]) {
                if (null !== $meaning) {
                    $meant[$text] = (string) $meaning;
                }
            }
        }

        self::assertSame(['s.name' => 's.station.name', 'station' => 's.station'], $meant);
        self::assertEquals(new FieldPlace('s', 'station', 'name'), array_values($reading->fieldAt)[0]);
    }

    public function testALongExpressionHasALineForEachCase(): void
    {
        self::assertSame('coalesce(a, b)', Layout::expression("coalesce(a,\n   b)", self::grammar()));
        self::assertSame(<<<'SQL'
            CASE
              WHEN r.value > 10 THEN 'high'
              WHEN r.value IS NULL THEN CASE s.name
                WHEN 'end' THEN 1
                ELSE 2
              END::text
              ELSE 'low'
            END || '!'
            SQL, Layout::expression(
            "CASE WHEN r.value > 10 THEN 'high' WHEN r.value IS NULL THEN CASE s.name WHEN 'end' THEN 1 ELSE 2 END::text ELSE 'low' END || '!'",
            self::grammar(),
        ));
    }

    public function testNothingOfTheTextIsLost(): void
    {
        foreach (['postgresql', 'mariadb', 'sqlite'] as $engine) {
            foreach (Queries::hard($engine) as $title => [$sql]) {
                $text = '';
                foreach (Layout::of(Queries::read($sql, $engine), Dialects::named($engine)?->grammar() ?? new Grammar()) as [, $pieces]) {
                    $text .= implode('', array_column($pieces, 1));
                }
                $bare = 'mariadb' === $engine ? $sql : (string) preg_replace('~--[^\n]*~', '', $sql);
                if (!str_contains($title, 'comments')) {
                    self::assertSame((string) preg_replace('/\s+/', '', $bare), (string) preg_replace('/\s+/', '', $text), $title);
                }
            }
        }
    }

    private static function grammar(): Grammar
    {
        return Dialects::named('postgresql')?->grammar() ?? new Grammar();
    }

    private static function set(string $sql): string
    {
        $lines = array_map(
            static fn (array $line): string => str_repeat('  ', $line[0]).implode(
                '',
                array_map(static fn (array $piece): string => 'word' === $piece[0] ? strtoupper($piece[1]) : $piece[1], $line[1]),
            ),
            Layout::of(Queries::read($sql), self::grammar()),
        );

        return implode("\n", $lines);
    }
}
