<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Alike;
use Fasti\Core\Sql\Layout;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** All that is read of hard queries, whole, broken and in other dialects; how they are laid out, and which are alike, as it was seen to be. */
final class SeenTest extends TestCase
{
    private const HOME = ['postgresql' => ['', 'river'], 'mariadb' => ['fasti_queries', 'fasti_queries'], 'sqlite' => ['', 'main']];

    #[TestWith(['postgresql'])]
    #[TestWith(['mariadb'])]
    #[TestWith(['sqlite'])]
    public function testEverythingThatIsReadOfThem(string $engine): void
    {
        $readings = new Readings(self::catalog($engine));
        $lines = [];
        foreach (Queries::hard($engine) as $title => [$sql]) {
            array_push($lines, "# $title", ...self::told($readings->query($sql, self::HOME[$engine][1])));
        }

        Snapshot::same("queries.$engine", $lines);
    }

    #[TestWith(['postgresql'])]
    #[TestWith(['mariadb'])]
    #[TestWith(['sqlite'])]
    public function testQueriesWithAWordLeftOutOrTwice(string $engine): void
    {
        $readings = new Readings(self::catalog($engine));
        $lines = [];
        foreach (Queries::hard($engine) as $title => [$sql]) {
            $words = preg_split('/((?:\'[^\']*\'|"[^"]*"|`[^`]*`|\w+|[^\w\s]))/', $sql, -1, \PREG_SPLIT_DELIM_CAPTURE) ?: [];
            $chance = new \Random\Randomizer(new \Random\Engine\Mt19937(crc32($title)));
            for ($round = 0; $round < 8; ++$round) {
                $at = 2 * $chance->getInt(0, max(0, intdiv(\count($words), 2) - 1)) + 1;
                $broken = $words;
                $broken[$at] = 0 === $round % 2 ? '' : ($words[$at] ?? '').' '.($words[$at] ?? '');
                $reading = $readings->query(implode('', $broken), self::HOME[$engine][1]);
                $lines[] = "$title, ".(0 === $round % 2 ? 'without' : 'twice')." “{$words[$at]}” at $at: ".self::short($reading);
            }
        }

        Snapshot::same("queries.broken.$engine", $lines);
    }

    public function testQueriesReadAsAnotherDialect(): void
    {
        $lines = [];
        foreach (array_keys(self::HOME) as $engine) {
            foreach (array_keys(Dialects::grammars()) as $dialect) {
                $readings = new Readings(self::catalog($engine), self::grammar($dialect));
                foreach ($dialect === $engine ? [] : Queries::hard($engine) as $title => [$sql]) {
                    $lines[] = "$title of $engine as $dialect: ".self::short($readings->query($sql, self::HOME[$engine][1]));
                }
            }
        }

        Snapshot::same('queries.otherwise', $lines);
    }

    public function testHowTheyAreLaidOut(): void
    {
        $lines = [];
        foreach (array_keys(self::HOME) as $engine) {
            $readings = new Readings(self::catalog($engine));
            foreach (Queries::hard($engine) as $title => [$sql]) {
                $lines[] = "# $engine: $title";
                foreach (Layout::of($readings->query($sql, self::HOME[$engine][1]), self::grammar($engine)) as $line) {
                    $lines[] = \is_string($line) ? $line : (string) json_encode($line, \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);
                }
            }
        }
        foreach ([
            'a+b*c', "CASE WHEN a THEN 'x' ELSE NULL END", 'coalesce( a , 1 )', 'a in (1,2)', 'not a', "x like 'a%'", 'count(*)', 'sum(a) over (order by b)',
            '',
        ] as $sql) {
            $lines[] = "$sql: ".Layout::expression($sql, self::grammar('postgresql'));
        }

        Snapshot::same('queries.laid', $lines);
    }

    public function testWhichAreAlike(): void
    {
        $lines = [];
        foreach (Traits::ENGINES as $engine) {
            $grammar = self::grammar($engine);
            $catalog = self::catalog($engine);
            foreach (array_values(Queries::hard($engine)) as $i => [$sql]) {
                $own = $catalog->table('postgresql' === $engine ? 'v' : self::HOME[$engine][1], "q$i")?->definition;
                $lines[] = "$engine q$i: ".json_encode(
                    null === $own ? null : Alike::queries($sql, $own, $grammar),
                ).json_encode(Alike::queries($sql, $sql.' LIMIT 7', $grammar));
            }
            $pairs = [
                ['a > 0', '(a > 0)'], ['a > 0', '0 < a'], ['a <> b', 'a != b'], ['lower(a)', 'LOWER( a )'], ['a AND b', 'b AND a'], ['a = 1', 'a = 2'], [
                    "a = 'x'",
                    "a = 'x'::text",
                ],
                ['a IN (1, 2)', 'a = ANY (ARRAY[1, 2])'], [
                    'a BETWEEN 1 AND 2',
                    'a >= 1 AND a <= 2',
                ], ['now()', 'CURRENT_TIMESTAMP'], ['`a` + 1', 'a + 1'], ['"a" + 1', 'a + 1'],
                ['a IS NOT NULL', 'NOT a IS NULL'], [
                    'substr(a, 1)',
                    'substring(a, 1)',
                ], ['coalesce(a, 0)', 'ifnull(a, 0)'], ['a || b', 'concat(a, b)'], ['-1', '- 1'], ['1.0', '1'],
                ['CAST(a AS text)', 'a::text'], ['length(a)', 'char_length(a)'], ['(a)', 'a'], ['a', 'A'], ['a.b', 'b'], ['TRUE', '1'], [
                    'a = 1 OR b',
                    '(a = 1) OR (b)',
                ], ['a LIKE \'x\'', 'a ~~ \'x\''],
            ];
            foreach ($pairs as [$a, $b]) {
                $lines[] = "$engine: $a, $b: ".json_encode([Alike::expressions($a, $b, $grammar), Alike::expressions($b, $a, $grammar)]);
            }
        }

        Snapshot::same('queries.alike', $lines);
    }

    /** @return list<string> */
    private static function told(Reading $reading): array
    {
        $lines = [];
        foreach ($reading->fields as $field) {
            $lines[] = \sprintf(
                '%s %s %s%s | %s | %s', $field->name, $field->type ?? 'none', json_encode($field->nullable), $field->unchanged ? ' as it is' : '',
                implode(' ', Queries::names($field->values)), implode(' ', Queries::names($field->conditions)),
            );
        }
        array_push($lines, 'all: '.implode(' ', Queries::names($reading->references)), ...Queries::unknown($reading));

        return $lines;
    }

    private static function short(Reading $reading): string
    {
        return \count($reading->fields).' fields '.substr(md5(implode("\n", self::told($reading))), 0, 8).' '.implode(' | ', array_map(
            static fn (string $unknown): string => mb_strimwidth($unknown, 0, 120, '…'),
            Queries::unknown($reading),
        ));
    }

    private static function grammar(string $engine): Grammar
    {
        return Dialects::named($engine)?->grammar() ?? throw new \LogicException($engine);
    }

    private static function catalog(string $engine): Catalog
    {
        $case = Golden::of("queries.$engine")->case('hard') ?? self::fail();
        $reader = Dialects::of($engine)->reader(new Replayed($case['answers']), self::HOME[$engine][0]) ?? self::fail();

        return $reader->read(new Choice(), new SilentProgress());
    }
}
