<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Finding;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Check;
use Fasti\Core\Finding\DataCheck;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Standouts;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\Traits;
use Fasti\Tests\Core\Golden\World;
use PHPUnit\Framework\TestCase;

/** Everything that each check finds in some schemas, in its words, as it was seen to be. */
final class SeenTest extends TestCase
{
    public function testEveryFindingOfStructure(): void
    {
        $lines = [];
        foreach (self::catalogs() as $name => $catalog) {
            foreach (self::checks() as $check) {
                if ($check instanceof CatalogCheck) {
                    $found = [...$check->of($catalog)];
                    array_push($lines, ...self::said($name, $check, $found));
                }
            }
        }

        Snapshot::same('findings.structure', $lines);
    }

    public function testEveryFindingOfData(): void
    {
        $lines = [];
        foreach (['museum', 'insurance', 'warehouse', 'festival'] as $name) {
            foreach (World::profiles($name) as $i => $profile) {
                foreach (self::checks() as $check) {
                    if ($check instanceof DataCheck) {
                        $found = [...$check->of(World::made($name)->tables[$i], $profile, Dialects::of('sqlite'))];
                        array_push($lines, ...self::said($name, $check, $found));
                    }
                }
            }
        }

        Snapshot::same('findings.data', $lines);
    }

    public function testWhatStandsOutInTheDemo(): void
    {
        $checks = array_filter(self::checks(), static fn (Check $check): bool => $check instanceof CatalogCheck);
        $lines = [];
        foreach (self::catalogs() as $name => $catalog) {
            array_push($lines, ...World::lines($name, (new Standouts($checks))->of($catalog)));
        }

        Snapshot::same('findings.standouts', $lines);
    }

    public function testEveryCheckSaysWhatItIsAbout(): void
    {
        $checks = self::checks();
        $names = array_map(static fn (Check $check): string => $check->name(), $checks);
        self::assertSame(\count($names), \count(array_unique($names)));
        foreach ($checks as $check) {
            self::assertMatchesRegularExpression('/^[a-z-]+$/', $check->name());
            foreach ([$check->why(), $check->mend()] as $text) {
                self::assertMatchesRegularExpression('/^\p{Lu}.*\.$/su', $text, $check->name());
            }
            foreach ([1, 5] as $count) {
                self::assertNotSame('', $check->title('group', 'one of it', $count));
            }
        }
        Snapshot::same('findings.titles', array_merge(...array_map(static fn (Check $check): array => array_map(
            static fn (int $count): string => $check->name().' '.$check->severity()->value.' '.$check->severity()->rank().' '.$count.': '
                .$check->title('the_group', 'one of it', $count),
            [1, 2, 7],
        ), $checks)));
    }

    /**
     * @param array<Finding> $found
     *
     * @return list<string>
     */
    private static function said(string $name, Check $check, array $found): array
    {
        return array_values(array_map(static fn (Finding $finding): string => \sprintf(
            '%s %s [%s] %s%s: %s', $name, $check->name(), $finding->group, $finding->place, null === $finding->field
                ? ''
                : '.'.$finding->field, $finding->title,
        ), $found));
    }

    /** @return list<Check> */
    private static function checks(): array
    {
        $found = [];
        foreach (glob(\dirname(__DIR__, 3).'/core/Finding/Check/*.php') ?: [] as $file) {
            $class = 'Fasti\\Core\\Finding\\Check\\'.basename($file, '.php');
            $check = new $class();
            if ($check instanceof Check) {
                $found[] = $check;
            }
        }

        return $found;
    }

    /** @return iterable<string, Catalog> */
    private static function catalogs(): iterable
    {
        yield 'demo' => World::demo();
        yield 'mart' => World::mart();
        yield 'playhouse' => World::playhouse();
        foreach ([['hospital', 0], ['school', 4], ['railway', 6], ['library', 8]] as [$name, $style]) {
            yield "$name $style" => World::made($name, $style);
        }
        foreach (Traits::ENGINES as $engine) {
            // What was made up by chance has more of what is odd.
            foreach (\array_slice(Golden::of("random.$engine")->names(), 0, 6) as $case) {
                yield $case => Traits::survey($engine, new Replayed(Golden::of("random.$engine")->case($case)['answers'] ?? []));
            }
        }
    }
}
