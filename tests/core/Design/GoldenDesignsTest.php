<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Design\Changes;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Matching;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\ReadBack;
use Fasti\Core\Design\Taking;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Tests\Core\Golden\Compared;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\DataProviderExternal;
use PHPUnit\Framework\TestCase;

/**
 * What servers had is written as a script, and taken into an outline, and is the same again; scripts of designs and of changes are those that
 * servers have carried out before. No server is asked.
 */
final class GoldenDesignsTest extends TestCase
{
    #[DataProviderExternal(Traits::class, 'recorded')]
    public function testASurveyedSchemaIsTheSameInItsScript(string $engine): void
    {
        $found = $this->found($engine);
        $writing = Dialects::of($engine)->writing(new ScriptOptions(places: 1 < \count(self::schemas($found))));
        $missing = array_merge(...array_map($writing->missing(...), $found->tables));
        if ([] !== $missing) {
            self::assertSame(array_filter($missing), $missing);

            return;
        }
        $script = $writing->text($writing->catalog($found));

        self::assertSame([], Compared::catalogs($found, Traits::script($script, $engine, Traits::SCHEMAS[$engine])), $script);
    }

    #[DataProviderExternal(Traits::class, 'recorded')]
    public function testASourceIsTheSameAfterItsOutlineAndItsScript(string $engine): void
    {
        $found = $this->found($engine);
        [$design, $notes] = Taking::of($found);
        if ([] !== $notes) {
            self::assertSame(array_filter($notes), $notes);

            return;
        }
        $text = OutlineWriter::design($design);
        $outline = Outline::read($text);
        self::assertSame([], array_map(strval(...), $outline->faults), $text);
        self::assertSame($text, OutlineWriter::design($outline->design));
        $script = (new DesignScript(Physical::of($outline->design)))->text(new ScriptOptions(places: 1 < \count(self::schemas($found))));

        self::assertSame([], Compared::catalogs($found, Traits::script($script, $engine, Traits::SCHEMAS[$engine])), $text."\n".$script);
    }

    /** @return iterable<string, array{string, int}> */
    public static function designs(): iterable
    {
        foreach (Traits::ENGINES as $engine) {
            foreach (Golden::of("designs.$engine")->names() as $name) {
                yield "$engine, $name" => [$engine, (int) substr($name, 7)];
            }
        }
    }

    #[DataProvider('designs')]
    public function testTheScriptOfADesignIsTheOneThatAServerCarriedOut(string $engine, int $seed): void
    {
        $physical = Physical::of(RandomDesign::of($seed), $engine, [], Traits::SCHEMAS[$engine]);
        $script = (new DesignScript($physical))->text(new ScriptOptions(places: false));

        self::assertSame(Golden::of("designs.$engine")->case("design $seed")['text'] ?? '', $script, 'Where it is meant to be another: bin/test record.');
    }

    /** @return iterable<string, array{string, int}> */
    public static function changes(): iterable
    {
        foreach (Traits::ENGINES as $engine) {
            foreach (Golden::of("changes.$engine")->names() as $name) {
                yield $name => [$engine, (int) substr($name, (int) strrpos($name, ' '))];
            }
        }
    }

    #[DataProvider('changes')]
    public function testTheScriptOfAChangeIsTheOneThatAServerCarriedOut(string $engine, int $seed): void
    {
        $case = Golden::of("changes.$engine")->case((string) $this->dataName()) ?? self::fail();
        $options = new ScriptOptions(places: false);
        $first = Physical::of(RandomDesign::of($seed), $engine, [], Traits::SCHEMAS[$engine]);
        $second = Physical::of(Mutation::of($seed, RandomDesign::of($seed), $first), $engine, [], Traits::SCHEMAS[$engine]);
        $live = Traits::survey($engine, new Replayed($case['answers']));
        $after = ReadBack::script((new DesignScript($second))->text($options), Dialects::of($engine), Traits::SCHEMAS[$engine]);
        $changes = Changes::between($live, $after, Matching::of($live, $after, $second), $options);

        self::assertSame($case['text'], $changes->script(), 'Where it is meant to be another: bin/test record.');
    }

    private function found(string $engine): Catalog
    {
        $name = (string) $this->dataName();
        if (isset(Traits::NOT_HELD[$name])) {
            self::markTestSkipped('A catalog does not hold '.Traits::NOT_HELD[$name].'.');
        }

        return Traits::live($engine, $name);
    }

    /** @return array<string, true> */
    private static function schemas(Catalog $catalog): array
    {
        return array_fill_keys(array_map(static fn (Table $table): string => $table->schema, $catalog->tables), true);
    }
}
