<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Draft;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Drafts;
use Fasti\Core\Draft\Material;
use Fasti\Core\Draft\Said;
use Fasti\Core\Draft\Worth;
use Fasti\Core\Profile\TableProfile;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\World;
use PHPUnit\Framework\TestCase;

/** Every draft that is made for some schemas, with how sure it is and why, as it was seen to be. */
final class SeenTest extends TestCase
{
    public function testOfTheDemoByItsStructure(): void
    {
        self::seen('drafts.demo', Material::ofCatalog(World::demo()), World::demo());
    }

    public function testOfThePlayhouseWithSomeTextsSaid(): void
    {
        $catalog = World::playhouse();
        $texts = [];
        foreach ($catalog->tables as $i => $table) {
            // Every third table is described, so that the others have something to go by.
            if (0 === $i % 3) {
                $texts[$i][''] = new Said(ucfirst(str_replace('_', ' ', $table->name)), "What is known of each $table->name.", 'one '.$table->name);
                foreach ($table->columns as $k => $column) {
                    if (0 === $k % 2) {
                        $texts[$i][$column->name] = new Said(
                            ucfirst(strtr($column->name, '_', ' ')), "The $column->name, as the house says it.", '', 'm', '0 to 9',
                        );
                    }
                }
            }
        }
        self::seen('drafts.playhouse', Material::ofCatalog($catalog, [], [], $texts), $catalog);
    }

    public function testOfTheMart(): void
    {
        self::seen('drafts.mart', Material::ofCatalog(World::mart()), World::mart());
    }

    public function testOfSchemasWithRows(): void
    {
        foreach (['museum', 'insurance'] as $name) {
            $profiles = World::profiles($name);
            self::assertContainsOnlyInstancesOf(TableProfile::class, $profiles);
            self::seen("drafts.$name", Material::ofCatalog(World::made($name), [], $profiles, [], ['countries' => ['AT', 'DE', 'FR']]), World::made($name));
        }
    }

    public function testHowMuchItIsWorthToDescribeSomething(): void
    {
        $lines = [];
        foreach ([[0, 0, 0, 0, 0], [1, 10, 1, 1, 1], [3, 999, 0, 2, 0], [3, 1000, 2, 3, 2], [40, 5_000_000, 9, 60, 30], [0, 0, 0, 9, 0]] as $case) {
            [$worth, $why] = Worth::of(...$case);
            $lines[] = implode(' ', $case).': '.Snapshot::figure($worth, 4).' '.implode('; ', $why);
        }
        Snapshot::same('drafts.worth', $lines);
    }

    private static function seen(string $name, Material $material, Catalog $catalog): void
    {
        $drafts = new Drafts();
        $lines = [];
        $say = static function (string $of, array $found) use (&$lines): void {
            foreach ($found as $property => $each) {
                foreach (\is_array($each) ? $each : [$each] as $draft) {
                    if ($draft instanceof Draft) {
                        $lines[] = \sprintf(
                            '%s %s %s [%s] %s | %s', $of, $property, Snapshot::figure($draft->confidence), $draft->rule,
                            addcslashes($draft->text, "\n"), $draft->evidence(),
                        );
                    }
                }
            }
        };
        foreach ($catalog->tables as $i => $table) {
            $say($table->name, $drafts->ofEntry($material->entry($i)));
            foreach ($table->columns as $column) {
                $say("$table->name.$column->name", $drafts->ofField($material->field($i, $column)));
            }
        }
        Snapshot::same($name, $lines);
    }
}
