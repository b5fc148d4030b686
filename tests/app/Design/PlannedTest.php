<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Design\Changes;
use Fasti\Core\Design\ChangeStep;
use Fasti\Core\Design\Matching;
use Fasti\Core\Design\ReadBack;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Tests\App\Scripts\Harness;
use Fasti\Tests\Core\Golden\Compared;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Planned changes on real servers with rows, as tests/changes/ has them: what is said comes true, and what rows do not allow is said before. */
final class PlannedTest extends TestCase
{
    /** @param array<string, string> $parts */
    #[DataProvider('cases')]
    public function testWhatIsSaidIsWhatHappens(string $engine, array $parts): void
    {
        $harness = new Harness();
        $schema = Traits::SCHEMAS[$engine];
        $before = $harness->live($engine, ($parts['before'] ?? '').($parts['rows'] ?? ''));
        $after = ReadBack::script($parts['after'] ?? '', Dialects::of($engine), $schema);
        $changes = Changes::between($before, $after, self::matching($parts['said'] ?? '', $schema, $before, $after), new ScriptOptions(places: false));
        $about = $changes->script();
        if (isset($parts['steps'])) {
            self::assertCount((int) $parts['steps'], $changes->steps, $about);
        }
        if (isset($parts['warns'])) {
            $warned = array_filter($changes->warnings(), static fn (ChangeStep $step): bool => ChangeStep::LOCKS !== $step->risk);
            self::assertSame('none' === trim($parts['warns']) ? '' : trim($parts['warns']), implode("\n", array_column($warned, 'words')), $about);
        }
        $pdo = $harness->open($engine);
        try {
            foreach ($changes->statements() as $sql) {
                $pdo->exec($sql);
            }
            self::assertArrayNotHasKey('refuses', $parts, 'It was carried out.'.$about);
        } catch (\PDOException $e) {
            self::assertArrayHasKey('refuses', $parts, $e->getMessage()."\n".$about);
            self::assertStringContainsString(trim($parts['refuses']), $e->getMessage(), $about);
            // The session ends with what it was about to do.
            unset($pdo);
            self::assertSame([], Compared::catalogs($before, $harness->survey($engine)), 'Nothing is touched where it stops: '.$e->getMessage()."\n".$about);

            return;
        }
        self::assertSame([], ReadBack::differences($changes->after, $harness->survey($engine)), $about);
        foreach (array_filter(explode("\n", trim($parts['holds'] ?? ''))) as $line) {
            [$sql, $held] = explode('; -- ', $line, 2);
            self::assertSame($held, self::told($pdo, $sql), "$sql\n$about");
        }
    }

    private static function told(\PDO $pdo, string $sql): string
    {
        $all = [];
        foreach ($pdo->query($sql, \PDO::FETCH_NUM) ?: [] as $row) {
            $said = [];
            foreach (\is_array($row) ? $row : [] as $value) {
                $said[] = match (true) {
                    null === $value => '-',
                    is_numeric($value) => (string) (float) $value,
                    default => \is_scalar($value) ? (string) $value : '?',
                };
            }
            $all[] = implode(' ', $said);
        }

        return implode(', ', $all);
    }

    private static function matching(string $said, string $schema, Catalog $before, Catalog $after): Matching
    {
        $taken = $formerly = $filled = [];
        $key = static fn (string $table): string => (new Place($schema, $table))->key();
        foreach (explode("\n", trim($said)) as $line) {
            match (1) {
                preg_match('/^taken (\w+) = (\w+)$/', $line, $m) => $taken[$key($m[2])] = $key($m[1]),
                preg_match('/^formerly (\w+)\.(\w+) = (\w+)$/', $line, $m) => $formerly[$key($m[1])][$m[2]] = $m[3],
                preg_match('/^filled (\w+)\.(\w+) = (.+)$/', $line, $m) => $filled[$key($m[1])][$m[2]] = $m[3],
                default => '' === $line ? null : throw new \LogicException($line),
            };
        }

        return Matching::told($before, $after, $taken, $formerly, $filled);
    }

    /** @return iterable<string, array{string, array<string, string>}> */
    public static function cases(): iterable
    {
        foreach (glob(\dirname(__DIR__, 2).'/changes/*.sql') ?: [] as $file) {
            foreach (preg_split('/^-- @ /m', (string) file_get_contents($file), -1, \PREG_SPLIT_NO_EMPTY) ?: [] as $case) {
                [$title, $text] = explode("\n", $case, 2);
                [$engines, $name] = explode(': ', $title, 2);
                $parts = [];
                foreach (preg_split('/^-- = /m', $text, -1, \PREG_SPLIT_NO_EMPTY) ?: [] as $part) {
                    [$what, $sql] = explode("\n", $part, 2);
                    $parts[trim($what)] = $sql;
                }
                foreach (explode(', ', $engines) as $engine) {
                    yield "$engine: $name" => [$engine, $parts];
                }
            }
        }
    }
}
